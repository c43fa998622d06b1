using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;

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
    public static double Share(Beliefs beliefs, ProbePair at, double read, RepairId suspect)
    {
        var noise = beliefs.Table.Conditions[at.Condition].Observable.Noise(beliefs.Meter, read);
        var apart = Math.Max(LeastApart, Deviations * noise);
        var slip = 0.0;
        for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
        {
            var shown = beliefs.Hypothesis(h);
            if (
                beliefs.Share(h) <= 0
                || shown is not { Fault: { } fault, HasPredictions: true }
                || fault.Repair.Id == suspect
            )
            {
                continue;
            }

            var figures = shown.Across(at);
            var weights = beliefs.Weights(h);
            for (var p = 0; p < weights.Length; p++)
            {
                slip += !figures.Hangs(p) && Math.Abs(figures[p] - read) > apart ? weights[p] : 0;
            }
        }

        return slip;
    }

    /// <summary>Bits in whether it was one, against a suspect that it was not.</summary>
    public static double Bits(double slip, double suspect)
    {
        var share = slip / (slip + suspect);
        return share is <= 0 or >= 1 ? 0 : -(share * Math.Log2(share)) - ((1 - share) * Math.Log2(1 - share));
    }
}
