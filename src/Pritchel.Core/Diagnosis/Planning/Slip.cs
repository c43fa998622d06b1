using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>How much of what is believed stands only because a reading may have been a slip.</summary>
internal static class Slip
{
    // Further from what was read than the meter's doubt and what contacts make of it: nothing but a slip brings the two together.
    private const double Deviations = 6;
    private const double LeastApart = 0.5;

    /// <summary>Share of what would show something else at a point than was read, a suspect and the sound machine left out.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="at">The point.</param>
    /// <param name="read">What was read there, on its scale.</param>
    /// <param name="suspect">The suspect.</param>
    public static double Share(Beliefs beliefs, ProbePair at, double read, RepairId suspect) =>
        Others(beliefs, suspect).Sum(o => FarOff(beliefs, o.Shown, at, read, beliefs.Weights(o.Index)));

    /// <summary>The same of what was likely by its rate alone, before anything was read: 0 to 1 of all other suspects.</summary>
    /// <inheritdoc cref="Share"/>
    public static double Elsewhere(Beliefs beliefs, ProbePair at, double read, RepairId suspect)
    {
        var even = Enumerable.Repeat(1.0 / beliefs.Table.Particles, beliefs.Table.Particles).ToArray();
        var (elsewhere, all) = (0.0, 0.0);
        foreach (var (shown, _) in Others(beliefs, suspect))
        {
            var rate = shown.Fault!.RateUnder(beliefs.Complaint.Circumstances);
            all += rate;
            elsewhere += rate * FarOff(beliefs, shown, at, read, even);
        }

        return all > 0 ? elsewhere / all : 0;
    }

    private static IEnumerable<(Hypothesis Shown, int Index)> Others(Beliefs beliefs, RepairId suspect) =>
        Enumerable
            .Range(0, beliefs.Table.Hypotheses.Count)
            .Select(h => (Shown: beliefs.Hypothesis(h), h))
            .Where(h => h.Shown is { Fault: { } fault, HasPredictions: true } && fault.Repair.Id != suspect);

    /// <summary>Whether two figures of one point are not one and the same: further apart than the meter's doubt and contacts make them.</summary>
    public static bool AreApart(Beliefs beliefs, ProbePair at, double low, double high) =>
        high - low
        > (
            beliefs.Table.Conditions[at.Condition].Observable.IsSeen
                ? Deviations * Eyesight.Glance
                : Apart(beliefs, at, high)
        );

    private static double Apart(Beliefs beliefs, ProbePair at, double read) =>
        Math.Max(LeastApart, Deviations * beliefs.Table.Conditions[at.Condition].Observable.Noise(beliefs.Meter, read));

    /// <summary>Weight of particles that show something else by far, and not on a leak, where nearly anything may stand.</summary>
    private static double FarOff(
        Beliefs beliefs,
        Hypothesis shown,
        ProbePair at,
        double read,
        ReadOnlySpan<double> weights
    )
    {
        var apart = Apart(beliefs, at, read);
        var figures = shown.Across(at);
        var sum = 0.0;
        for (var p = 0; p < weights.Length; p++)
        {
            sum += !figures.Hangs(p) && Math.Abs(figures[p] - read) > apart ? weights[p] : 0;
        }

        return sum;
    }

    /// <summary>Bits in whether it was one, against a suspect that it was not.</summary>
    public static double Bits(double slip, double suspect)
    {
        var share = slip / (slip + suspect);
        return share is <= 0 or >= 1 ? 0 : -(share * Math.Log2(share)) - ((1 - share) * Math.Log2(1 - share));
    }
}
