using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Fuses and breakers: how long they hold, and which of several opens.</summary>
public class OverloadTests
{
    /// <summary>Bands of ISO 8820-3 for blade fuses (from memory), typed here apart from the program's own curve.</summary>
    private static readonly (double Times, double Least, double Most)[] Bands =
    [
        (1.1, 360_000, double.PositiveInfinity),
        (1.35, 0.75, 600),
        (1.6, 0.25, 50),
        (2, 0.15, 5),
        (3.5, 0.04, 0.5),
        (6, 0.02, 0.1),
    ];

    public static TheoryData<string> Machines => [.. Shipped.Ids, .. Shipped.Variants];

    /// <summary>Machines gone through in every setting rather than in those within two moves of rest.</summary>
    private static readonly string[] Wholly =
        Environment.GetEnvironmentVariable("PRITCHEL_EVERY_SETTING")?.Split(',') ?? [];

    [Fact]
    public void A_blade_opens_within_the_published_band_at_every_multiple()
    {
        foreach (var (times, least, most) in Bands)
        {
            Assert.InRange(OpeningCurve.Blade.Seconds(times), least, most);
        }

        Assert.Equal(double.PositiveInfinity, OpeningCurve.Blade.Seconds(1.09));
    }

    /// <summary>The same current through two of one class: the smaller rating is the further overloaded, so it goes first.</summary>
    [Fact]
    public void Of_two_blades_the_smaller_is_always_the_sooner()
    {
        double[] ratings = [5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60];
        foreach (var small in ratings)
        {
            foreach (var large in ratings.Where(r => r > small))
            {
                for (var times = 1.1; times <= 20; times *= 1.05)
                {
                    var (first, second) = (
                        OpeningCurve.Blade.Seconds(times),
                        OpeningCurve.Blade.Seconds(times * small / large)
                    );
                    Assert.True(
                        first < second,
                        $"{small} A and {large} A at {times:0.00} times: {first} s, {second} s"
                    );
                }
            }
        }
    }

    /// <summary>Past every band no heat gets away: the same i²t, so half the time at √2 of the current.</summary>
    [Fact]
    public void Far_over_its_rating_it_opens_at_the_same_i2t()
    {
        foreach (var curve in new[] { OpeningCurve.Blade, OpeningCurve.Bolted, OpeningCurve.ThermalBreaker })
        {
            Assert.Equal(curve.Seconds(10) / 2, curve.Seconds(10 * Math.Sqrt(2)), 9);
            for (var times = 1.0; times < 30; times *= 1.02)
            {
                Assert.True(curve.Seconds(times * 1.02) <= curve.Seconds(times));
            }
        }
    }

    /// <summary>
    /// A battery of 12.57 V behind some 2 mΩ, two fuses of 6 mΩ in a row and a load of so many ohms, either fuse first on
    /// the way. Over 1.6 times its rating the smaller is open within a minute; under 1.1 times it holds for days.
    /// </summary>
    [Theory]
    [InlineData(30, 10, 0.08, "small")]
    [InlineData(10, 30, 0.08, "small")]
    [InlineData(60, 50, 0.06, "small")]
    [InlineData(15, 7.5, 0.9, "small")]
    [InlineData(40, 10, 0.7, "small")]
    [InlineData(30, 10, 1.25, "none")]
    [InlineData(15, 5, 2.5, "none")]
    public void Of_two_in_a_row_the_smaller_blows_and_the_other_stays_whole(
        double first,
        double second,
        double ohms,
        string expected
    )
    {
        var circuit = InARow(("fuse", first), ("fuse", second), ohms);
        var state = Settled(circuit, Shipped.Setting(circuit, ("key", "ON")));
        Assert.Equal(expected == "small" && first < second ? 1 : 0, state.StateAt(circuit.StateOf(Texts.Part("one"))));
        Assert.Equal(expected == "small" && second < first ? 1 : 0, state.StateAt(circuit.StateOf(Texts.Part("two"))));
    }

    /// <summary>
    /// By hand from the classes: 100 A is 5 times a 20 A blade (0.04 to 0.1 s) and 2.5 times a 40 A breaker (some 10 s); the
    /// bolted fuse holds twice its rating for 3 s at least, where a blade of its rating may be open in 0.15 s.
    /// </summary>
    [Theory]
    [InlineData("breaker", 40, "fuse", 20, 0.1, "two")]
    [InlineData("breaker", 20, "fuse", 40, 0.13, "two")]
    [InlineData("bolted-fuse", 40, "fuse", 40, 0.13, "two")]
    [InlineData("bolted-fuse", 30, "breaker", 60, 0.08, "one")]
    public void Unlike_classes_go_by_their_own_times(
        string one,
        double oneAmps,
        string two,
        double twoAmps,
        double ohms,
        string opens
    )
    {
        var circuit = InARow((one, oneAmps), (two, twoAmps), ohms);
        var state = Settled(circuit, Shipped.Setting(circuit, ("key", "ON")));
        Assert.Equal(opens == "one" ? 1 : 0, state.StateAt(circuit.StateOf(Texts.Part("one"))));
        Assert.Equal(opens == "two" ? 1 : 0, state.StateAt(circuit.StateOf(Texts.Part("two"))));
    }

    /// <summary>
    /// Every wire of every shipped machine worn bare on what it lies on, in every setting within two moves of
    /// rest (in every one there is, where PRITCHEL_EVERY_SETTING names it): with all fuses held whole, the currents say which is the soonest by the bands. Where one is so by a whole band it opens, and no smaller one that
    /// carries the same fault is left whole behind a larger that opened.
    /// </summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void A_hard_chafe_opens_the_smallest_fuse_on_its_way(string id)
    {
        var circuit = Shipped.Circuit(id);
        var machine = circuit.Machine;
        var guards = machine.Parts.Where(p => p.Kind is "fuse" or "bolted-fuse").ToList();
        var held = Circuit.Compile(
            machine with
            {
                Parts =
                [
                    .. machine.Parts.Select(p =>
                        p.Kind is "fuse" or "bolted-fuse" or "breaker" ? p with { Values = Rated(p, 500) } : p
                    ),
                ],
            }
        );
        var chafes = circuit.Faults.Where(f => f.Id.Text.EndsWith("/chafed", StringComparison.Ordinal)).ToList();
        var settings = circuit.SettingsNearRest(Wholly.Contains(id) ? machine.Controls.Count : 2).ToList();
        var (opened, wrong) = (0, new List<string>());
        foreach (var chafe in guards.Count == 0 ? [] : chafes)
        {
            var (faulty, whole) = (Faulty(circuit, chafe), Faulty(held, held.Faults.Single(f => f.Id == chafe.Id)));
            foreach (var setting in settings)
            {
                var before = Settled(whole, setting);
                var after = Settled(faulty, setting);
                var carry = guards.ToDictionary(
                    g => g,
                    g => Math.Abs(before.Siemens(BranchOf(held, g)) * before.Across(BranchOf(held, g)))
                );
                bool Blown(Part p) => after.StateAt(circuit.StateOf(Texts.Part(p.Id.Text))) == 1;
                var worst = guards.MaxBy(g => carry[g] / Rating(g))!;
                if (carry[worst] / Rating(worst) < 1.6)
                {
                    continue;
                }

                opened++;
                foreach (var large in guards.Where(g => g != worst && Blown(g)))
                {
                    if (!Blown(worst) && carry[worst] >= 0.9 * carry[large])
                    {
                        wrong.Add($"{chafe.Id} in {setting.AllWords(machine)}: {large.Name} opens, {worst.Name} holds");
                    }
                }

                if (!guards.Exists(Blown))
                {
                    wrong.Add(
                        $"{chafe.Id} in {setting.AllWords(machine)}: {carry[worst]:0} A through {worst.Name}, and nothing opens"
                    );
                }
            }
        }

        Assert.True(wrong.Count == 0, string.Join("\n", wrong.Take(12)));
        // Behind a boat's console there is no metal for a fused wire to wear through onto.
        var afloat = machine.Wires.Count(w => w.NoMetal == true) * 3 > machine.Wires.Count;
        Assert.True(guards.Count == 0 || afloat || opened > 10, $"only {opened} cases opened anything");
    }

    /// <summary>
    /// What blew stays blown, whatever is moved after: each chafe in each setting one move from rest, then rest, then every other of those
    /// settings. What is renewed is a repair's affair.
    /// </summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void A_fuse_that_blew_is_never_whole_again(string id)
    {
        const int Every = 4;
        var circuit = Shipped.Circuit(id);
        var guards = circuit.Machine.Parts.Where(p => p.Kind is "fuse" or "bolted-fuse").ToList();
        var chafes = circuit
            .Faults.Where(f => f.Id.Text.EndsWith("/chafed", StringComparison.Ordinal))
            .Where((_, i) => i % Every == 0)
            .ToList();
        var settings = circuit.SettingsNearRest(1).ToList();
        var (blown, wrong) = (0, new List<string>());
        foreach (var chafe in guards.Count == 0 ? [] : chafes)
        {
            var faulty = Faulty(circuit, chafe);
            foreach (var setting in settings)
            {
                var state = Settled(faulty, setting);
                HashSet<Part> Gone() =>
                    [.. guards.Where(g => state.StateAt(circuit.StateOf(Texts.Part(g.Id.Text))) == 1)];
                var gone = Gone();
                blown += gone.Count;
                foreach (var after in gone.Count == 0 ? [] : settings.Prepend(circuit.Setting(null)))
                {
                    state.Move(after);
                    var now = Gone();
                    if (!now.IsSupersetOf(gone))
                    {
                        wrong.Add(
                            $"{chafe.Id}: blown in {setting.AllWords(circuit.Machine)}, whole in {after.AllWords(circuit.Machine)}"
                        );
                    }

                    gone = now;
                }
            }
        }

        Assert.True(wrong.Count == 0, string.Join("\n", wrong.Take(12)));
        var afloat = circuit.Machine.Wires.Count(w => w.NoMetal == true) * 3 > circuit.Machine.Wires.Count;
        Assert.True(guards.Count == 0 || afloat || blown > 0, $"only {blown} blew");
    }

    /// <summary>A large battery, its key, two guards "one" and "two" and a load, in a row.</summary>
    private static Circuit InARow((string Kind, double Amps) one, (string Kind, double Amps) two, double ohms) =>
        new SmallMachine()
            .Battery("coldCrankingAmps", 1500)
            .InLine("one", one.Kind, "ratingAmps", one.Amps)
            .InLine("two", two.Kind, "ratingAmps", two.Amps)
            .Load("load", "load", "ohms", ohms)
            .Wire("key.A", "one.1")
            .Wire("one.2", "two.1")
            .Wire("two.2", "load.+")
            .Wire("load.-", "frame.bolt")
            .Compile();

    private static double Rating(Part part) => part.Values!["ratingAmps"];

    private static Dictionary<string, double> Rated(Part part, double amps) =>
        new(part.Values!, StringComparer.Ordinal) { ["ratingAmps"] = amps };

    private static Networks.BranchId BranchOf(Circuit circuit, Part part)
    {
        var nodes = (circuit.NodeOf(part.At("1")), circuit.NodeOf(part.At("2")));
        return new Networks.BranchId(
            Enumerable
                .Range(0, circuit.Network.Branches.Count)
                .Single(b => (circuit.Network.Branches[b].From, circuit.Network.Branches[b].To) == nodes)
        );
    }

    private static (Circuit Circuit, double[] Values) Faulty(Circuit circuit, Faults.Fault fault)
    {
        var @case = new Case
        {
            Circuit = circuit,
            Settings = [circuit.Setting(null)],
            Faults = [new PlantedFault(fault, 1)],
        };
        return (@case.Wired, @case.FaultyParameters());
    }

    private static CircuitState Settled((Circuit Circuit, double[] Values) faulty, ControlSetting setting)
    {
        var state = new CircuitState(faulty.Circuit);
        state.Begin(faulty.Values);
        state.Move(setting);
        return state;
    }

    private static CircuitState Settled(Circuit circuit, ControlSetting setting) =>
        Settled((circuit, circuit.NominalParameters()), setting);
}
