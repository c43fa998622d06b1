using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>Where a spark is lost, and what a tester in the place of plug or lead makes of it.</summary>
public class SparkTesterTests
{
    public static TheoryData<string> Machines => [.. Shipped.Ids];

    [Fact]
    public void A_worn_plug_sparks_on_a_tester_and_a_leaking_lead_only_at_the_coil()
    {
        var plug = Levels("coil/plug");
        Assert.True(plug.None < 1 && plug.PlugLead >= 1 && plug.Coil >= 1, plug.ToString());
        var lead = Levels("coil/lead");
        Assert.True(lead.None < 1 && lead.PlugLead < 1 && lead.Coil >= 1, lead.ToString());
        var coil = Levels("coil/open");
        Assert.True(coil is { None: 0, PlugLead: 0, Coil: 0 }, coil.ToString());
    }

    [Fact]
    public void A_magneto_is_bought_with_its_lead_and_a_coil_is_not()
    {
        Assert.Equal("part:magneto", Fault("hedgerow-mower-2", "magneto/lead").Repair.Id.Text);
        Assert.Equal("lead:coil", Fault("quay-scooter-3", "coil/lead").Repair.Id.Text);
    }

    [Theory]
    [MemberData(nameof(Machines))]
    public void No_spark_can_always_be_looked_at_with_a_tester(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        foreach (var duty in Symptoms.Of(circuit).Select(s => s.Duty).Where(d => d is { Refuses: false }))
        {
            if (Effect(circuit, duty) == EffectKind.Sparks)
            {
                Assert.Contains(
                    ProcedureCatalogue.Conditions(new TestedDuty(circuit, duty)),
                    c => c is { Observable: SparkSeen, Tester: SparkTesterAt.PlugLead, Off.Count: 0 }
                );
            }
        }
    }

    [Fact]
    public void Looking_again_at_the_same_spark_is_not_looking_with_another_eye()
    {
        var kit = Shipped.Kit("run-stand-1", "sparks-magneto");
        var looks = kit
            .Table.Conditions.Select((c, i) => (Condition: c, At: i))
            .Where(c => c.Condition.Observable.Key == Quantity.Spark)
            .Select(c => new ProbePair(c.At, c.Condition.Pairs![0].Red, c.Condition.Pairs[0].Black))
            .ToList();
        var complaint = new Complaint { Duty = new DutyId("sparks-magneto"), Heard = Heard.Nothing };
        Beliefs Seen(int times) =>
            Beliefs.Weigh(
                kit.Table,
                complaint,
                Meter.Ordinary,
                [.. looks.Take(times).Select(at => new Reading(at, 0, SymptomNow.Present))]
            );
        var (once, often) = (Seen(1), Seen(looks.Count));
        var same = Enumerable
            .Range(0, kit.Table.Hypotheses.Count)
            .Where(h => kit.Table.Hypotheses[h] is { HasPredictions: true } && once.Share(h) > 1e-3)
            .Where(h => looks.TrueForAll(at => ShowsTheSame(kit.Table.Hypotheses[h], looks[0], at)))
            .ToList();
        Assert.True(looks.Count >= 4 && same.Count >= 2, $"{looks.Count} looks, {same.Count} alike");
        var ratios = same.Select(h => often.Share(h) / once.Share(h)).ToList();
        Assert.InRange(ratios.Max() / ratios.Min(), 1, 1.3);
    }

    [Fact]
    public void Volts_beside_windings_that_are_not_followed_are_neither_asked_nor_weighed()
    {
        var kit = Shipped.Few("ridge-twin-1", "sparks-coil1");
        var (free, duty) = (kit.Table.Conditions[0], kit.Table.Duty);
        Assert.True(free.IsFree && duty.Speed == DutySpeed.Crank);
        Assert.DoesNotContain(kit.Plan.Allowed(new Situation()), at => at.Condition == 0);
        var complaint = new Complaint { Duty = duty.Id, Heard = Heard.Nothing };
        var odd = new Reading(
            new ProbePair(0, kit.Circuit.NodeOf("battery.+"), kit.Circuit.Reference),
            7.7,
            SymptomNow.Present
        );
        var (with, without) = (
            Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, [odd]),
            Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, [])
        );
        foreach (var suspect in without.Suspects)
        {
            Assert.Equal(suspect.Share, with.Suspects.First(s => s.Id == suspect.Id).Share, 1e-9);
        }
    }

    /// <summary>Whether a tester shows each particle no better than weak, and the same here as there.</summary>
    private static bool ShowsTheSame(Hypothesis hypothesis, ProbePair one, ProbePair other)
    {
        const float Weak = 2;
        var here = hypothesis.At(one.Condition, one.Red).ToArray();
        var there = hypothesis.At(other.Condition, other.Red).ToArray();
        return here.Zip(there).All(s => s.First <= Weak && Math.Abs(s.First - s.Second) < 0.01);
    }

    private static (double None, double PlugLead, double Coil) Levels(string fault)
    {
        var circuit = Shipped.Circuit("quay-scooter-3");
        double At(SparkTesterAt tester) =>
            Outcome
                .Of(
                    new Case
                    {
                        Circuit = circuit,
                        Settings = [circuit.Setting(Symptoms.Duty(circuit, new DutyId("sparks-coil")).Setting)],
                        Speeds = Cranking(circuit),
                        Faults = [new PlantedFault(Fault("quay-scooter-3", fault), 0.5)],
                        SparkTester = tester,
                    }
                )
                .Sparks.First(s => s.Part.Text == "coil")
                .Level;
        return (At(SparkTesterAt.Nowhere), At(SparkTesterAt.PlugLead), At(SparkTesterAt.Coil));
    }

    private static Dictionary<EngineId, Rpm> Cranking(Circuit circuit) =>
        circuit.Engines.ToDictionary(e => e.Id, e => new Rpm(e.CrankRpm));

    private static EffectKind Effect(Circuit circuit, Duty duty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return circuit.DeviceOf(duty.Load).Effect(state).Kind;
    }

    private static Fault Fault(string machine, string id) =>
        Shipped.Circuit(machine).Faults.First(f => f.Id.Text == id);
}
