using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// What beliefs predict against a meter put into the circuit: ohms come by another way there (with the meter's own current
/// in the network, everything settled), and figures lent by the sound machine must be the fault's own too.
/// </summary>
public class PredictedReadingTests
{
    private const int Seed = 20261;
    private const int MostFaults = 10;

    // Every so many nodes: each is a network of its own, with a meter in it.
    private const int Stride = 5;
    private const int PairStride = 7;

    private static Meter Exact { get; } = Meter.Ordinary with { LeadsNulled = true };

    [Theory]
    [InlineData("hedgerow-mower-2", "stops-magneto-lever-0")]
    [InlineData("orchard-tractor-4", "runs-fuel-cut")]
    [InlineData("tide-outboard-3", "sparks-coil1")]
    [InlineData("orchard-zero-turn-7", "sparks-magneto1")]
    [InlineData("harbour-launch-1", "cranks")]
    [InlineData("hill-quad-2", "charges-battery")]
    public void Ohms_are_those_of_a_meter_in_the_circuit(string machine, string duty)
    {
        var kit = Shipped.Few(machine, duty);
        var drawn = HealthyMachine.Draw(kit.Circuit, new Random(Seed), 1);
        var compared = 0;
        foreach (var hypothesis in Plain(kit))
        {
            for (var c = 0; c < kit.Table.Conditions.Count; c++)
            {
                var condition = kit.Table.Conditions[c];
                foreach (var (red, black) in condition.Observable.Key == Quantity.Ohms ? condition.Pairs! : [])
                {
                    var @case = new Case
                    {
                        Circuit = kit.Circuit,
                        Settings = [condition.Setting],
                        Faults = hypothesis.Fault is null ? [] : [new PlantedFault(hypothesis.Fault, 0)],
                        Off = condition.Off,
                        BatteryDisconnected = true,
                        Parameters = drawn,
                    };
                    var read = Bench.Read(@case, Exact, MeterFunction.Ohms, red, black);
                    if (read.Refusal is not null)
                    {
                        continue;
                    }

                    var shown = read.OverRange ? Observable.Open : Texts.Reads(Quantity.Ohms).Scaled(read.Value!.Value);
                    var predicted = hypothesis.Across(new ProbePair(c, red, black))[0];
                    Assert.True(
                        Math.Abs(shown - predicted) < 0.02 || (shown > 14 && predicted > 14),
                        $"{hypothesis.Fault?.Id.Text ?? "sound"}, {condition.Words}: meter {shown}, predicted {predicted}"
                    );
                    compared++;
                }
            }
        }

        Assert.True(compared > 50, $"only {compared} readings were comparable");
    }

    [Theory]
    [InlineData("orchard-tractor-4", "cranks")]
    [InlineData("quay-scooter-3", "cranks")]
    [InlineData("terrace-dumper-1", "does-work-lamp")]
    [InlineData("harbour-launch-1", "stops-stop")]
    [InlineData("ridge-twin-1", "cranks")]
    public void Volts_are_those_of_a_meter_in_the_circuit(string machine, string duty)
    {
        var kit = Shipped.Few(machine, duty);
        var drawn = HealthyMachine.Draw(kit.Circuit, new Random(Seed), 1);
        var (rest, pairs) = (kit.Circuit.Setting(null), Pairs(kit));
        var compared = 0;
        foreach (var hypothesis in Plain(kit))
        {
            for (var c = 0; c < kit.Table.Conditions.Count; c++)
            {
                var condition = kit.Table.Conditions[c];
                if (!condition.IsFree || hypothesis.Chatters(c)[0])
                {
                    continue;
                }

                var @case = new Case
                {
                    Circuit = kit.Circuit,
                    Settings =
                        c == 0 ? [condition.Setting] : [kit.Table.Conditions[0].Setting, rest, condition.Setting],
                    Faults = hypothesis.Fault is null ? [] : [new PlantedFault(hypothesis.Fault, 0)],
                    Parameters = drawn,
                };
                foreach (var at in pairs[c])
                {
                    // A meter of ten megohms, put in: it pulls down what hangs on leakage and reads nothing of what floats.
                    var read = Bench.Read(@case, Exact, MeterFunction.DcVolts, at.Red, at.Black);
                    // Behind a blocking diode its leak bends with what the meter leaves across it.
                    var (predicted, least) = (hypothesis.Across(at)[0], hypothesis.Across(at).Hangs(0) ? 0.1 : 0.02);
                    Assert.True(
                        Math.Abs(read.Value!.Value - predicted) < least + (0.01 * Math.Abs(predicted)),
                        $"{hypothesis.Fault?.Id.Text ?? "sound"}, {condition.Words}, {kit.Circuit.NodePoints[at.Red][0]} over {kit.Circuit.NodePoints[at.Black][0]}: meter {read.Value} V, predicted {predicted}"
                    );
                    compared++;
                }
            }
        }

        Assert.True(compared > 1000, $"only {compared} volts were comparable");
    }

    /// <summary>
    /// A lighting wire that sits in the exciter's cavity carries the exciter's hundreds of volts: they are predicted as
    /// hundreds, as the meter reads them on the machine that has it.
    /// </summary>
    [Fact]
    public void Hundreds_of_volts_are_predicted_as_hundreds()
    {
        var kit = Shipped.Few("quay-scooter-3", "charges-battery");
        var swapped = kit.Table.Hypotheses.First(h => h.Fault?.Id.Text == "P1/2-3-swapped");
        var running = kit.Table.Conditions.ToList().FindIndex(c => c is { IsFree: true, Speed: DutySpeed.Work });
        var at = new ProbePair(running, kit.Circuit.NodeOf("P1.2b"), kit.Circuit.Reference);
        var hidden = HiddenFault.Hide(kit.Table, swapped.Fault!, Exact, new Random(Seed))!;
        var read = hidden.Read(at).Value!.Value;
        Assert.InRange(Math.Abs(read), 200, 1000);
        for (var p = 0; p < kit.Table.Particles; p++)
        {
            // Machines differ in what their windings give.
            Assert.InRange(swapped.Across(at)[p] / read, 0.5, 2);
        }
    }

    /// <summary>
    /// Battery volts stand at a battery's post and at the regulator's output beside it, running or not. That a battery's own
    /// failure leaves nothing there does not make nothing a sound reading.
    /// </summary>
    [Theory]
    [InlineData("ridge-twin-1", "battery.+")]
    [InlineData("ridge-twin-1", "regulator.dc")]
    [InlineData("hill-quad-2", "battery.+")]
    [InlineData("orchard-tractor-4", "battery.+")]
    public void A_dead_point_is_not_sound_when_the_complaint_is_of_the_battery(string machine, string point)
    {
        // A good battery while it cranks, and the most that charges it: common practice, no source.
        const double LeastCranking = 9.6;
        const double MostCharging = 15;
        var kit = Shipped.Few(machine, "charges-battery");
        var beliefs = Beliefs.Weigh(
            kit.Table,
            new Complaint { Duty = new DutyId("charges-battery"), Heard = Heard.Nothing },
            Exact,
            []
        );
        foreach (var condition in kit.Table.Conditions.Index().Where(c => c.Item is { IsFree: true, Off.Count: 0 }))
        {
            var at = new ProbePair(condition.Index, kit.Circuit.NodeOf(point), kit.Circuit.Reference);
            var sound = Staircase.Sound(beliefs, at);
            Assert.False(sound.Agrees(0), condition.Item.Words);
            Assert.InRange(Math.Min(sound.WorkingLow, sound.IdleLow), LeastCranking, MostCharging);
        }
    }

    /// <summary>
    /// Before an open joint in the command of a starter stands all that a rested battery has (12.4 to 12.7 V, the usual table of open-circuit
    /// volts, from memory), and that is sound wiring: also where two windings meet at the solenoid's post, of which one open leaves the other's amps.
    /// </summary>
    [Theory]
    [InlineData("harbour-launch-2", "P1.2b", "start.-")]
    [InlineData("hill-quad-2", "solenoid.S", "battery.-")]
    public void Before_an_open_joint_all_that_the_battery_has_is_sound(string machine, string red, string black)
    {
        const double Rested = 12.5;
        var kit = Shipped.Few(machine, "cranks");
        var beliefs = Beliefs.Weigh(kit.Table, Shipped.Told(kit), Exact, []);
        var at = new ProbePair(0, kit.Circuit.NodeOf(red), kit.Circuit.NodeOf(black));
        Assert.True(Staircase.Agrees(beliefs, at, Rested));
        Assert.False(Staircase.Agrees(beliefs, at, 0.4));
    }

    /// <summary>Some nodes to the reference, and some of the pairs that tests are chosen from.</summary>
    private static ILookup<int, ProbePair> Pairs(DiagnosisKit kit)
    {
        var (nodes, reference) = (kit.Circuit.Network.NodeCount, kit.Circuit.Reference);
        var toReference = Enumerable
            .Range(0, kit.Table.Conditions.Count)
            .SelectMany(c =>
                Enumerable
                    .Range(0, nodes)
                    .Where(n => n % Stride == c % Stride)
                    .Select(n => new ProbePair(c, n, reference))
            );
        var chosen = kit
            .Plan.Allowed(new Situation())
            .GroupBy(p => p.Condition)
            .SelectMany(g => g.Chunk(PairStride).Select(some => some[0]));
        return toReference.Concat(chosen).ToLookup(p => p.Condition);
    }

    /// <summary>The sound machine, and faults that are there or not: a degree would be drawn anew, and is not told.</summary>
    private static IEnumerable<Hypothesis> Plain(DiagnosisKit kit) =>
        kit
            .Table.Hypotheses.Where(h => h.HasPredictions && h.Fault is null or { Severity: { Mildest: 1, Worst: 1 } })
            .Reverse()
            .Take(MostFaults);
}
