using Pritchel.Core.Identity;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// The proof against an evaluator written apart, which knows no volts: switches join points, and what is joined to what says what
/// cranks, what sparks and what burns. On switch circuits drawn at random, in every combination of their controls.
/// </summary>
public class DesignProofBruteForceTests
{
    private const int Fed = 0;
    private const int Start = 1;
    private const int Kill = 2;
    private const int Ground = 3;
    private static readonly string[] Points =
    [
        "fuse.2",
        "solenoid.S",
        "magneto.kill",
        "frame.bolt",
        "x1.bolt",
        "x2.bolt",
    ];

    // The key that every small machine has, and nothing here hangs on, comes before them.
    private const int OfTheirOwn = 1;

    private sealed record Closure(int From, int To, int Control, IReadOnlyList<int> Positions);

    [Fact]
    public void Every_setting_of_random_switch_circuits_does_what_joined_points_say()
    {
        var (settings, cranking, running, burning, fedKills) = (0, 0, 0, 0, 0);
        for (var k = 0; k < 150; k++)
        {
            var random = new Random(700 + k);
            int[] controls = [.. Enumerable.Range(0, random.Next(2, 5)).Select(_ => random.Next(2, 4))];
            var closures = Enumerable
                .Range(0, random.Next(3, 8))
                .Select(_ => Draw(random, controls))
                .Where(c => c.From != c.To)
                .ToList();
            var machine = Build(controls, closures);
            var atRest = Joined(closures, machine.Setting(null));
            if (atRest[Fed] == atRest[Ground] || atRest[Fed] == atRest[Kill])
            {
                // What burns at rest stays burnt: nothing is left to compare.
                continue;
            }

            var proof = DesignProof.Of(machine, null);
            foreach (var row in proof.Rows)
            {
                foreach (var setting in row.Settings)
                {
                    settings++;
                    var joined = Joined(closures, setting);
                    bool Are(int one, int other) => joined[one] == joined[other];
                    var burns = Are(Fed, Ground);
                    var fed = Are(Fed, Kill) && !burns;
                    var what =
                        $"circuit {k}, {string.Join(",", Enumerable.Range(0, setting.Count).Select(c => setting[c]))}";
                    Assert.True(row.After.Opened.Contains(new PartId("fuse")) || !burns, $"{what}: nothing opens");
                    if (!fed)
                    {
                        // Fed through the ignition's own winding a fuse may or may not open: nothing is claimed of that.
                        Assert.True(
                            !row.After.Opened.Any() || burns,
                            $"{what}: {row.After.Opened.FirstOrDefault()} opens"
                        );
                        Assert.Equal(!burns && Are(Fed, Start), row.After.Cranks);
                    }

                    // Battery volts through an ignition's winding: it is told, as a fed kill or by the fuse that opens.
                    Assert.True(
                        fed ? row.After.FedKills.Count > 0 || row.After.Opened.Any() : row.After.FedKills.Count == 0,
                        $"{what}: fed {fed}, told {row.After.FedKills.Count}"
                    );
                    if (!Are(Kill, Start) && !fed && !(burns && Are(Fed, Kill)))
                    {
                        Assert.Equal(!Are(Kill, Ground), row.After.Runs);
                    }

                    cranking += row.After.Cranks ? 1 : 0;
                    running += row.After.Runs ? 1 : 0;
                    burning += burns ? 1 : 0;
                    fedKills += fed ? 1 : 0;
                }
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{settings} settings: {cranking} crank, {running} run, {burning} burn a fuse, {fedKills} feed a kill"
        );

        // Each of the claims was put to the test often.
        Assert.True(settings > 1500 && cranking > 150 && running > 300 && burning > 100 && fedKills > 50);
    }

    private static Closure Draw(Random random, int[] controls)
    {
        var control = random.Next(controls.Length);
        int[] positions = [.. Enumerable.Range(0, controls[control]).Where(_ => random.NextDouble() < 0.5)];
        return new Closure(
            random.Next(Points.Length),
            random.Next(Points.Length),
            control,
            positions.Length is var count && count > 0 && count < controls[control] ? positions : [0]
        );
    }

    private static int[] Joined(IEnumerable<Closure> closures, ControlSetting setting)
    {
        int[] group = [.. Enumerable.Range(0, Points.Length)];
        foreach (var closure in closures.Where(c => c.Positions.Contains(setting[OfTheirOwn + c.Control])))
        {
            var (keep, drop) = (group[closure.From], group[closure.To]);
            group = [.. group.Select(g => g == drop ? keep : g)];
        }

        return group;
    }

    private static bool IsOn(Closure closure, string point) =>
        Points[closure.From] == point || Points[closure.To] == point;

    private static Circuit Build(int[] controls, List<Closure> closures)
    {
        var machine = new SmallMachine()
            .Engine()
            .Part("fuse", "fuse", "1", "2")
            .Part("solenoid", "start-solenoid", "B", "M", "S", "case")
            .Part("starter", "starter", "post", "case")
            .Part("magneto", "magneto", "kill", "case", "ht")
            .Wire("battery.+", "fuse.1")
            .Wire("battery.+", "solenoid.B")
            .Wire("solenoid.M", "starter.post")
            .Wire("solenoid.case", "frame.bolt")
            .Wire("starter.case", "frame.bolt")
            .Wire("magneto.case", "frame.bolt");
        foreach (var free in new[] { "x1", "x2" }.Where(x => closures.Exists(c => IsOn(c, x + ".bolt"))))
        {
            machine.Part(free, "body", "bolt");
        }

        for (var c = 0; c < controls.Length; c++)
        {
            machine.Control($"k{c}", controls[c]);
        }

        for (var n = 0; n < closures.Count; n++)
        {
            machine
                .Contact($"s{n}", $"k{closures[n].Control}", closures[n].Positions)
                .Wire(Points[closures[n].From], $"s{n}.1")
                .Wire($"s{n}.2", Points[closures[n].To]);
        }

        return machine.Compile();
    }
}
