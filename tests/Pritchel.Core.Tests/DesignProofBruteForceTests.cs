using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
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
    private static readonly string[] Points = ["fuse.2", "solenoid.S", "magneto.kill", "block.bolt", "x1.x", "x2.x"];

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
            var machine = Circuit.Compile(Build(controls, closures));
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
        foreach (var closure in closures.Where(c => c.Positions.Contains(setting[c.Control])))
        {
            var (keep, drop) = (group[closure.From], group[closure.To]);
            group = [.. group.Select(g => g == drop ? keep : g)];
        }

        return group;
    }

    private static Machine Build(int[] controls, List<Closure> closures)
    {
        var place = new PlaceId("bench");
        var parts = new List<Part>();
        var wires = new List<Wire>();
        void Add(string id, string kind, params string[] terminals) =>
            parts.Add(
                new Part
                {
                    Id = new PartId(id),
                    Name = id,
                    Kind = kind,
                    Place = place,
                    Terminals = [.. terminals.Select(TerminalId.Of)],
                }
            );
        void Run(string from, string to) =>
            wires.Add(
                new Wire
                {
                    Id = new WireId($"w{wires.Count + 1}"),
                    From = new WireEnd(TerminalAddress.Of(from), "ring"),
                    To = new WireEnd(TerminalAddress.Of(to), "ring"),
                    Gauge = "10 mm2",
                    LengthM = 0.5,
                    Colours = ["black"],
                    Zone = "bench",
                }
            );
        Add("battery", "battery", "+", "-");
        Add("fuse", "fuse", "1", "2");
        Add("solenoid", "start-solenoid", "B", "M", "S", "case");
        Add("starter", "starter", "post", "case");
        Add("magneto", "magneto", "kill", "case", "ht");
        Add("block", "body", "bolt");
        Add("x1", "splice", "x");
        Add("x2", "splice", "x");
        Run("battery.+", "fuse.1");
        Run("battery.+", "solenoid.B");
        Run("solenoid.M", "starter.post");
        foreach (var grounded in new[] { "battery.-", "solenoid.case", "starter.case", "magneto.case" })
        {
            Run(grounded, "block.bolt");
        }

        foreach (var (closure, n) in closures.Select((c, n) => (c, n)))
        {
            Add($"s{n}", "switch", "1", "2");
            parts[^1] = parts[^1] with
            {
                Contacts =
                [
                    new Contact(
                        new ContactId("c"),
                        [TerminalId.Of("1"), TerminalId.Of("2")],
                        new ControlId($"k{closure.Control}"),
                        [.. closure.Positions.Select(p => new PositionId($"{p}"))]
                    ),
                ],
            };
            Run(Points[closure.From], $"s{n}.1");
            Run($"s{n}.2", Points[closure.To]);
        }

        return new Machine
        {
            Format = Machine.CurrentFormat,
            Id = new MachineId("random"),
            Name = "random",
            Kind = "random",
            Summary = "",
            MayDiffer = "",
            StopByHand = "",
            TurningCautions = [],
            Places = [new Place(place, "bench", "bench", 0, true)],
            Controls =
            [
                .. controls.Select(
                    (positions, c) =>
                        new Control(
                            new ControlId($"k{c}"),
                            $"k{c}",
                            [.. Enumerable.Range(0, positions).Select(p => new PositionId($"{p}"))],
                            new PositionId("0"),
                            []
                        )
                ),
            ],
            Parts = parts,
            Wires = wires,
            Mounts = [],
            Engines = [new Engine(new EngineId("engine"), "engine", 400, 1500, 3000, 6)],
            Duties = [],
        };
    }
}
