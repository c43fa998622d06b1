using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Practice;

/// <summary>
/// A good mechanic with a diagram and the healthy figures, apart from the program's planner and beliefs: each reading is
/// sound or not; a sound one clears the stretch it speaks for, another leaves that stretch alone in question. What is
/// left goes by the rates that the complaint leaves. Ends as the program does, when acting costs less than the next test.
/// </summary>
public abstract class ByHand : IStrategy
{
    // As the program's own: minutes that the wrong part costs, and how sure to be at least.
    private const double WrongRepairMinutes = 60;
    private const double LeastShare = 0.9;
    private const int LeastReadings = 2;

    private readonly DiagnosisKit kit;
    private readonly Stretches stretches;
    private (Complaint Of, double[] Rates)? told;

    /// <summary>A mechanic at one machine, for one hunt after another.</summary>
    protected ByHand(DiagnosisKit kit)
    {
        this.kit = kit;
        stretches = new Stretches(kit);
    }

    /// <inheritdoc/>
    public abstract string Name { get; }

    /// <summary>Which of the tests that would tell something comes next.</summary>
    /// <param name="offers">Tests with the share of what is left that each speaks for, each between none and all.</param>
    private protected abstract PlannedTest Choose(IEnumerable<(PlannedTest Test, double Share)> offers);

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        var left = Left(beliefs);
        var total = left.Sum();
        var ground = kit.Circuit.Reference;
        var offers = plan.Allowed(situation)
            .Where(p => kit.Table.Conditions[p.Condition].Pairs is not null || p.Black == ground)
            .Where(p => beliefs.Readings.All(r => r.At != p) && Speaks(beliefs, p))
            .Select(p => (At: p, Share: Covers(beliefs, p).Zip(left, (on, rate) => on ? rate : 0).Sum() / total))
            .Where(p => p.Share is > 1e-3 and < 1 - 1e-3)
            .Select(p => (plan.Plan(p.At, situation, 1), p.Share))
            .ToList();
        if (offers.Count == 0 || total <= 0)
        {
            return null;
        }

        // Volts first: the meter stays where it is and nothing comes off.
        var live = offers.Where(o => o.Item1.Condition.Observable is DirectVolts).ToList();
        return Choose(live.Count > 0 ? live : offers);
    }

    /// <summary>
    /// Whether a place says anything to this way of thinking: where the duty is tried, unless figures jump there, or where
    /// sound wiring is live.
    /// </summary>
    private bool Speaks(Beliefs beliefs, ProbePair at) =>
        kit.Table.Conditions[at.Condition].Jump is null
        && kit.Table.Conditions[at.Condition].Observable.CanRead(beliefs.Meter)
        && (
            kit.Table.Conditions[at.Condition].Observable is not DirectVolts
            || (at.Condition == 0 && !beliefs.Readings.Any(r => r.At.Condition == 0 && r.Value is null))
            || Staircase.Sound(beliefs, at).WorkingLow > SoundBands.HalfTheVolts
        );

    /// <summary>Enough volts where there should be some, few enough where there should be none; other figures as they should be.</summary>
    private static bool IsSound(Beliefs beliefs, ProbePair at, double read)
    {
        const double SlackVolts = 0.1;
        var sound = Staircase.Sound(beliefs, at);
        return sound.Observable is not DirectVolts ? sound.Agrees(read)
            : sound.WorkingLow > SoundBands.HalfTheVolts ? read > sound.WorkingLow - SlackVolts
            : read < sound.WorkingHigh + SlackVolts;
    }

    /// <inheritdoc/>
    public Decision Decide(Beliefs beliefs, PlannedTest? next, PlannedWiggle? stir = null)
    {
        var left = Left(beliefs);
        var total = left.Sum();
        if (total <= 0)
        {
            return default;
        }

        var first = kit
            .Table.Hypotheses.Select((h, i) => (h.Fault, Rate: left[i]))
            .Where(h => h.Fault is not null)
            .GroupBy(h => h.Fault!.Repair.Id)
            .Select(g => (Repair: g.Key, Share: g.Sum(h => h.Rate) / total))
            .MaxBy(g => g.Share);
        var sure =
            beliefs.Readings.Count >= LeastReadings
            && first.Share >= LeastShare
            && next is not null
            && (1 - first.Share) * WrongRepairMinutes < next.Minutes.Value;
        return new Decision(sure || next is null ? first.Repair : null);
    }

    private bool[] Covers(Beliefs beliefs, ProbePair at) => stretches.Of(at, Staircase.Sound(beliefs, at).WorkingLow);

    /// <summary>Rate of each hypothesis that the readings leave; where they cross each other, by the later ones.</summary>
    private double[] Left(Beliefs beliefs)
    {
        var rates = Rates(beliefs);
        var left = (double[])rates.Clone();
        foreach (var reading in beliefs.Readings.Where(r => r.Value is not null))
        {
            var sound = IsSound(beliefs, reading.At, reading.Value!.Value);
            var covers = Covers(beliefs, reading.At);
            var then = left.Select((rate, h) => covers[h] == sound ? 0 : rate).ToArray();
            left = then.Sum() > 0 ? then : [.. rates.Select((rate, h) => covers[h] == sound ? 0 : rate)];
        }

        return left;
    }

    private double[] Rates(Beliefs beliefs)
    {
        if (told is { } before && ReferenceEquals(before.Of, beliefs.Complaint))
        {
            return before.Rates;
        }

        var heard = Beliefs.Weigh(kit.Table, beliefs.Complaint, beliefs.Meter, []);
        double[] rates = [.. kit.Table.Hypotheses.Select((h, i) => h.Fault is null ? 0 : heard.Share(i))];
        told = (beliefs.Complaint, rates);
        return rates;
    }
}

/// <summary>Half-splitting by hand: the test that leaves the most even halves, the cheaper of equal ones.</summary>
public sealed class ByHalves(DiagnosisKit kit) : ByHand(kit)
{
    /// <inheritdoc/>
    public override string Name => "half-splitting along the path";

    private protected override PlannedTest Choose(IEnumerable<(PlannedTest Test, double Share)> offers) =>
        offers.OrderBy(o => Math.Round(Math.Abs(o.Share - 0.5), 2)).ThenBy(o => o.Test.Minutes.Value).First().Test;
}

/// <summary>End to end by hand: the next small step along the path, from the battery on.</summary>
public sealed class EndToEnd(DiagnosisKit kit) : ByHand(kit)
{
    /// <inheritdoc/>
    public override string Name => "end to end";

    private protected override PlannedTest Choose(IEnumerable<(PlannedTest Test, double Share)> offers) =>
        offers.OrderBy(o => o.Test.At.Condition).ThenBy(o => o.Share).ThenBy(o => o.Test.Minutes.Value).First().Test;
}
