using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Readings of ohms as tests: what pins of a coupling show, what errors count for, what is not asked twice.</summary>
public class OhmsTests
{
    private static Meter Exact { get; } = Meter.Ordinary with { LeadsNulled = true };

    public static TheoryData<string> Machines => [.. Shipped.Ids];

    /// <summary>Rayleigh's monotonicity law: a path more never raises the ohms between two points, nor leaves more than its own.</summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void Pins_that_touch_are_shown_by_their_coupling_apart(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        foreach (var fault in circuit.Faults.Where(f => f.Kind == FaultKind.ShortedToNeighbour && f.Paths.Count == 1))
        {
            double Ohms(IReadOnlyList<PlantedFault> faults)
            {
                var @case = new Case
                {
                    Circuit = circuit,
                    Settings = [circuit.Setting(null)],
                    Faults = faults,
                    Off = [Disconnection.Of(fault.Id.Text.Split('/')[0])],
                    BatteryDisconnected = true,
                };
                var shown = Bench.Read(@case, Exact, MeterFunction.Ohms, fault.Nodes.From, fault.Nodes.To);
                return shown.OverRange ? double.PositiveInfinity : shown.Value!.Value;
            }

            var (sound, touching) = (Ohms([]), Ohms([new PlantedFault(fault, 0.5)]));
            Assert.True(touching <= sound + 0.01, $"{fault.Id}: {touching} touching, {sound} sound");
            Assert.True(touching <= (fault.Severity.At(0.5) * 1.01) + 0.1, $"{fault.Id}: {touching}");
        }
    }

    /// <summary>With the halves apart nothing of a coupling joins them, wherever its wires sit: it reads as the sound machine does.</summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void Wires_swapped_in_a_coupling_do_not_conduct_with_it_apart(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        foreach (var fault in circuit.Faults.Where(f => f.Kind == FaultKind.Swapped))
        {
            foreach (var path in fault.Paths)
            {
                double Ohms(IReadOnlyList<PlantedFault> faults, IReadOnlyList<Disconnection> off)
                {
                    var @case = new Case
                    {
                        Circuit = circuit,
                        Settings = [circuit.Setting(null)],
                        Faults = faults,
                        Off = off,
                        BatteryDisconnected = true,
                    };
                    var (one, other) = (circuit.NodeOf(path.From), circuit.NodeOf(path.To));
                    var shown = Bench.Read(@case, Exact, MeterFunction.Ohms, one, other);
                    return shown.OverRange ? double.PositiveInfinity : shown.Value!.Value;
                }

                IReadOnlyList<Disconnection> apart = [fault.Id.Of.Owner.Part!.Value];
                Assert.Equal(Ohms([], apart), Ohms([new PlantedFault(fault, 0.5)], apart), 0.01);
                Assert.InRange(Ohms([new PlantedFault(fault, 0.5)], []), 0, 0.1);
            }
        }
    }

    [Fact]
    public void Readings_with_a_coupling_apart_are_predicted_alike_whether_its_wires_are_swapped()
    {
        var circuit = Shipped.Circuit("orchard-zero-turn-7");
        var kit = Shipped.Kit("orchard-zero-turn-7", "stops-magneto1-blades-1");
        var compared = 0;
        foreach (
            var swapped in kit.Table.Hypotheses.Where(h => h is { HasPredictions: true, Fault.Kind: FaultKind.Swapped })
        )
        {
            var coupling = swapped.Fault!.Id.Text.Split('/')[0];
            for (var c = 0; c < kit.Table.Conditions.Count; c++)
            {
                foreach (
                    var (red, _) in kit.Table.Conditions[c].Off is [var off] && off.Text == coupling
                        ? kit.Table.Conditions[c].Pairs ?? []
                        : []
                )
                {
                    for (var p = 0; p < kit.Table.Particles; p++)
                    {
                        Assert.Equal(kit.Table.Healthy.At(c, red)[p], swapped.At(c, red)[p], 0.001f);
                        compared++;
                    }
                }
            }
        }

        Assert.True(compared > 0);
    }

    /// <summary>
    /// A prediction is kept for each red point of a condition, the black one counting as none: a point that was red for one
    /// pair and black for another would be taken off twice.
    /// </summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void No_point_is_red_for_one_pair_of_a_condition_and_black_for_another(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        foreach (
            var condition in Symptoms
                .Of(circuit)
                .SelectMany(s => ProcedureCatalogue.Conditions(new TestedDuty(circuit, s.Duty)))
        )
        {
            var reds = (condition.Pairs ?? []).Select(p => p.Red).ToList();
            Assert.Equal(reds.Count, reds.Distinct().Count());
            Assert.DoesNotContain(condition.Pairs ?? [], p => reds.Contains(p.Black));
        }
    }

    [Theory]
    // Off at the coil and wire to block: let go it beeps, held it is silent. Silent let go: switch or wire; beeping held: chafed.
    [InlineData("stops-magneto-lever-0", "everything at rest", null, 2)]
    [InlineData("stops-magneto-lever-0", "everything at rest", "brake-switch/stop/open", 0)]
    [InlineData("sparks-magneto", "lever held", null, 0)]
    [InlineData("sparks-magneto", "lever held", "3/chafed", 2)]
    public void A_kill_wire_beeps_when_it_should_and_only_then(string duty, string words, string? fault, double heard)
    {
        var kit = Shipped.Kit("hedgerow-mower-2", duty);
        var (condition, index) = kit
            .Table.Conditions.Select((c, i) => (c, i))
            .First(c =>
                c.c.Observable.Key == Quantity.Beep
                && c.c.Words.StartsWith("kill wire off at the coil", StringComparison.Ordinal)
                && c.c.Words.Contains(words, StringComparison.Ordinal)
            );
        var (red, black) = condition.Pairs!.First(p => kit.Circuit.NodePoints[p.Red].Contains(PointId.Of("1@from")));
        var hypothesis = kit.Table.Hypotheses.First(h => h.Fault?.Id.Text == fault && h.HasPredictions);
        var shown = hypothesis.At(index, red).ToArray().Select(s => Texts.Reads(Quantity.Beep).Figure(s)).ToList();
        Assert.NotEqual(red, black);

        // A chafe bridges by more or less; at its worst it beeps.
        Assert.Equal(heard, heard > 0 ? shown.Max() : shown.Min(), 6);
    }

    [Theory]
    [InlineData(0.1, 2)]
    [InlineData(20, 2)]
    [InlineData(40, 1)]
    [InlineData(100, 0)]
    public void A_beep_tells_a_bad_joint_from_a_good_one_no_more_than_it_can(double ohms, double heard) =>
        Assert.Equal(heard, Beep.Of(Meter.Ordinary, ohms));

    [Theory]
    [InlineData(0, 0.2, 1, 1.2)]
    [InlineData(0, 0.1, 2, 2.1)]
    [InlineData(0.5, 0.1, 0, 0.4)]
    public void Tenths_of_an_ohm_count_alike_wherever_they_are_read(
        double read,
        double expected,
        double elsewhere,
        double there
    )
    {
        static double Deviations(double r, double e)
        {
            var (read, expected) = (Texts.Reads(Quantity.Ohms).Scaled(r), Texts.Reads(Quantity.Ohms).Scaled(e));
            return Math.Abs(read - expected) / Texts.Reads(Quantity.Ohms).Noise(Meter.Ordinary, read, expected, null);
        }

        Assert.Equal(Deviations(read, expected), Deviations(expected, read), 1e-9);
        Assert.InRange(Deviations(read, expected) / Deviations(elsewhere, there), 0.8, 1.35);
    }

    /// <summary>
    /// A joint in the outboard's feed reads two volts low at a plug; battery volts all along the other side are one fact,
    /// however many terminals show them.
    /// </summary>
    [Fact]
    public void Metal_that_has_been_read_is_not_asked_again_and_again()
    {
        var kit = Shipped.Kit("tide-outboard-3", "charges-battery");
        var fault = kit.Circuit.Faults.First(f => f.Id.Text == "2@from/joint/resistive");
        var asked = 0;
        for (var seed = 0; seed < 3; seed++)
        {
            if (HiddenFault.Hide(kit.Table, fault, Meter.Ordinary, new Random(seed)) is { } hidden)
            {
                var noted = new Noting();
                Rehearsal.Play(kit, hidden, Meter.Ordinary, noted);
                var repeats = noted
                    .Readings.Where(r => kit.Table.Conditions[r.At.Condition].Observable.Key == Quantity.Volts)
                    .GroupBy(r => (r.At.Condition, Tenths: Math.Round((r.Value ?? -1) * 10)))
                    .Max(g => g.Count());
                Assert.InRange(repeats, 1, 4);
                asked++;
            }
        }

        Assert.True(asked > 0);
    }

    private sealed class Noting : IStrategy
    {
        private readonly ByInformation inner = new();

        public IReadOnlyList<Reading> Readings { get; private set; } = [];

        public string Name => inner.Name;

        public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
        {
            Readings = beliefs.Readings;
            return inner.Next(plan, beliefs, situation);
        }
    }
}
