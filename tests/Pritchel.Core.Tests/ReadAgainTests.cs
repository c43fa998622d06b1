using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>A verdict hangs on figures, and any of them may be a slip: what they are worth said twice, and when they are asked for again.</summary>
public class ReadAgainTests
{
    // Volts, or steps of the scale, that no meter's doubt spans.
    private const double FarOff = 3;
    private const double OppositeLooks = 1.5;
    private const double AsGoodAsCleared = 1e-6;

    public static TheoryData<string, string> Complaints =>
        new()
        {
            { "orchard-tractor-4", "cranks" },
            { "hedgerow-mower-2", "sparks-magneto" },
            { "run-stand-1", "runs-fuel-cut" },
        };

    [Theory]
    [MemberData(nameof(Complaints))]
    public void The_same_twice_leaves_less_to_a_slip_and_something_else_more(string machine, string duty)
    {
        var hunts = Hunts(machine, duty)
            .Where(h =>
                h.Beliefs
                    is { Suspects: [{ Share: > 0.85, Repair: not null }, ..], Readings: [.., { Value: not null }] }
            )
            .ToList();
        Assert.NotEmpty(hunts);
        foreach (var (kit, before, _) in hunts)
        {
            var (first, last) = (before.Suspects[0], before.Readings[^1]);
            Beliefs Then(params Reading[] more) =>
                Beliefs.Weigh(kit.Table, before.Complaint, before.Meter, [.. before.Readings, .. more]);
            double Share(params Reading[] more) => Then(more).Suspects.Single(s => s.Id == first.Id).Share;
            double Elsewhere(Beliefs beliefs) => ShowingElse(kit, beliefs, last);

            // What would show something else there was left only by a slip: one chance in five that it is the same slip again.
            Assert.True(Elsewhere(Then(last)) <= Elsewhere(before) / 2 + 1e-9);
            var otherwise = last with { Value = Otherwise(kit, last) };
            Assert.True(
                Elsewhere(Then(otherwise)) >= Elsewhere(Then(last)) - (IsLook(kit, last) ? AsGoodAsCleared : 1e-9)
            );

            // However finely it was typed the second time, it is the same figure.
            Assert.True(Elsewhere(Then(last with { Digits = new TypedDigits(0.1) })) <= (Elsewhere(before) / 2) + 1e-9);

            // A third time settles which of two was the slip, in whatever order they came.
            Assert.Equal(Share(otherwise, last), Share(last, otherwise), 1e-9);
            Assert.True(Elsewhere(Then(otherwise, last)) <= Elsewhere(Then(otherwise)) + 1e-9);
        }
    }

    [Theory]
    [MemberData(nameof(Complaints))]
    public void What_is_asked_once_more_was_read_and_is_not_asked_when_it_was_passed_over(string machine, string duty)
    {
        foreach (var (kit, beliefs, situation) in Hunts(machine, duty))
        {
            var again = kit.Plan.Best(beliefs, situation, 60).Where(t => t.IsOnceMore).ToList();
            Assert.All(again, t => Assert.Contains(beliefs.Readings, r => r.At == t.At));
            Assert.True(again.Count == 0 || beliefs.Suspects[0].Share >= Isolation.Nearly);
            foreach (var test in again)
            {
                Assert.DoesNotContain(kit.Plan.Best(beliefs, situation.PassedOver(test.At), 60), t => t.At == test.At);
            }

            var often = again
                .Select(t => t.At)
                .Aggregate(situation, (s, at) => kit.Plan.After(kit.Plan.After(s, at), at));
            Assert.DoesNotContain(kit.Plan.Best(beliefs, often, 60), t => t.IsOnceMore);
        }
    }

    /// <summary>
    /// A lamp seen out and seen bright with nothing changed between: one of the two was a slip, and which is asked among the first.
    /// Seen a third time it is settled, and not asked again.
    /// </summary>
    [Fact]
    public void What_contradicts_itself_is_asked_a_third_time_and_no_fourth()
    {
        var kit = Shipped.Kit("hill-quad-2", "not-neutral-lamp");
        var conditions = kit.Table.Conditions.ToList();
        var off = conditions.FindIndex(c => c.Observable is LoadSeen && c.Off.Any(o => o.WireEnd?.Text == "21@to"));
        var (red, black) = conditions[off].Pairs!.Single();
        var at = new ProbePair(off, red, black);
        PlannedTest? Again(params double[] seen) =>
            kit
                .Plan.Best(
                    Beliefs.Weigh(
                        kit.Table,
                        Shipped.Told(kit),
                        Meter.Ordinary,
                        [.. seen.Select(s => new Reading(at, s, SymptomNow.Present))]
                    ),
                    seen.Aggregate(new Situation(), (situation, _) => kit.Plan.After(situation, at)),
                    4
                )
                .FirstOrDefault(t => t.At == at);
        var (dark, bright) = (conditions[off].Observable.Scaled(0), conditions[off].Observable.Scaled(2));
        Assert.True(Again(dark, bright)?.IsOnceMore);
        Assert.Null(Again(bright, bright));
        Assert.Null(Again(dark, bright, bright));
    }

    /// <summary>
    /// A probe that does not touch shows nothing, and so does a sound contact: nothing clears a contact less than some other figure does,
    /// and nothing read twice more than once.
    /// </summary>
    [Fact]
    public void Nothing_read_leaves_more_doubt_than_a_figure_that_no_lead_in_the_air_shows()
    {
        var kit = Shipped.Kit("orchard-tractor-4", "cranks");
        var condition = kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.Words.StartsWith("key START", StringComparison.Ordinal));
        ProbePair At(string red, string black) => new(condition, kit.Circuit.NodeOf(red), kit.Circuit.NodeOf(black));
        double Brake(params (ProbePair At, double Volts)[] read) =>
            Beliefs
                .Weigh(
                    kit.Table,
                    Shipped.Told(kit),
                    Meter.Ordinary,
                    [.. read.Select(r => new Reading(r.At, r.Volts, SymptomNow.Present))]
                )
                .Suspects.Single(s => s.Repair?.Id.Text == "part:brake")
                .Share;

        // Open, the brake switch has all the volts across it and none behind it.
        var before = Brake();
        var (across, behind) = (At("brake.in", "brake.out"), At("brake.out", "battery.-"));
        var once = Brake((across, 0)) / before;
        Assert.InRange(once, 0.003, 0.05);
        Assert.True(Brake((across, 0), (across, 0)) / before < once / 2);
        Assert.True(Brake((behind, 12.4)) / before < once / 2);
    }

    /// <summary>Share of faults that, however bad, show something else than was read by far, and not because it hangs on a leak.</summary>
    private static double ShowingElse(DiagnosisKit kit, Beliefs beliefs, Reading reading) =>
        Enumerable
            .Range(0, kit.Table.Hypotheses.Count)
            .Where(h => kit.Table.Hypotheses[h] is { HasPredictions: true } fault && IsFarOff(kit, fault, reading))
            .Sum(beliefs.Share);

    /// <summary>A figure far off; of a look, whose three answers are 0 to 2, the opposite one.</summary>
    private static double Otherwise(DiagnosisKit kit, Reading reading)
    {
        var read = reading.Value!.Value;
        return IsLook(kit, reading) ? (read > 1 ? 0 : 2)
            : read > 6 ? read - FarOff
            : read + FarOff;
    }

    private static bool IsLook(DiagnosisKit kit, Reading reading) =>
        kit.Table.Conditions[reading.At.Condition].Observable.IsSeen;

    private static bool IsFarOff(DiagnosisKit kit, Hypothesis fault, Reading reading)
    {
        var far = IsLook(kit, reading) ? OppositeLooks : FarOff;
        var figures = fault.Across(reading.At);
        for (var p = 0; p < PredictionTable.UsualParticles; p++)
        {
            if (figures.Hangs(p) || !(Math.Abs(figures[p] - reading.Value!.Value) > far))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Every moment of some hunts from the first reading on.</summary>
    private static IEnumerable<(DiagnosisKit Kit, Beliefs Beliefs, Situation Situation)> Hunts(
        string machine,
        string duty
    )
    {
        const int Hidden = 6;
        var kit = Shipped.Kit(machine, duty);
        var evaluation = new Evaluation(kit, World.Believed);
        for (var seed = 1; seed <= Hidden; seed++)
        {
            if (evaluation.Hide(seed) is not { } hidden)
            {
                continue;
            }

            var (readings, situation) = (new List<Reading>(), new Situation());
            while (readings.Count < 4)
            {
                var beliefs = Beliefs.Weigh(kit.Table, hidden.Complaint, Meter.Ordinary, readings);
                if (readings.Count > 0)
                {
                    yield return (kit, beliefs, situation);
                }

                if (kit.Plan.Best(beliefs, situation, 1) is not [var next])
                {
                    break;
                }

                var reading = hidden.Read(next.At);
                situation = kit.Plan.After(situation, next.At);
                readings.Add(reading);
            }
        }
    }
}
