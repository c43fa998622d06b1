using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>Where along its range a fault's severity would best explain the readings.</summary>
/// <param name="About">Fraction of the range.</param>
/// <param name="Within">Half the width worth drawing over.</param>
/// <param name="Weight">About what the hypothesis would weigh with particles there; a guide for whom to draw anew, no more.</param>
internal readonly record struct SeverityFit(double About, double Within, double Weight)
{
    private const int Steps = 40;
    private const double Slack = 0.15;
    private const double LeastWithin = 0.05;

    /// <summary>
    /// Fits by going through the particles in order of severity and reading between them; null where there are no degrees.
    /// </summary>
    public static SeverityFit? Of(
        Beliefs beliefs,
        Hypothesis hypothesis,
        IReadOnlyList<GroupedReading> readings,
        double[] before
    )
    {
        if (
            hypothesis is not { HasPredictions: true, Severities.Length: > 0, Fault.Severity: var range }
            || range.Worst.Equals(range.Mildest)
        )
        {
            return null;
        }

        var order = Enumerable.Range(0, hypothesis.Severities.Length).OrderBy(p => hypothesis.Severities[p]).ToArray();
        var (best, about, mass) = (double.NegativeInfinity, 0.5, before.Sum() / Steps);
        var next = 0;
        for (var s = 0; s < Steps; s++)
        {
            var severity = (s + 0.5) / Steps;
            while (next < order.Length - 1 && hypothesis.Severities[order[next]] < severity)
            {
                next++;
            }

            var (low, high) = (order[Math.Max(0, next - 1)], order[next]);
            var (from, to) = (hypothesis.Severities[low], hypothesis.Severities[high]);
            var part = to > from ? Math.Clamp((severity - from) / (to - from), 0, 1) : 0;
            var log = Math.Log(((1 - part) * before[low]) + (part * before[high]) + (1e-6 * mass));
            foreach (var reading in readings.Where(r => r.Value is not null))
            {
                log += Math.Log(Density(beliefs, hypothesis, reading, low, high, part));
            }

            if (log > best)
            {
                (best, about) = (log, severity);
            }
        }

        // A tenth of the range, at the density of particles there.
        return new SeverityFit(about, LeastWithin, Math.Exp(best) * before.Length / 10);
    }

    private static double Density(
        Beliefs beliefs,
        Hypothesis hypothesis,
        GroupedReading reading,
        int low,
        int high,
        double part
    )
    {
        var figures = hypothesis.Across(reading.At);
        var predicted = ((1 - part) * figures[low]) + (part * figures[high]);
        var observable = beliefs.Table.Conditions[reading.At.Condition].Observable;
        var spread = observable.GainSigma(beliefs.Meter) * predicted;
        var sigma = Math.Sqrt((reading.Noise * reading.Noise) + (Slack * Slack) + (spread * spread));
        return Likelihood.OfReading(
            reading.Value!.Value,
            predicted,
            sigma,
            Likelihood.WildDensity(observable, reading.Value.Value, sigma)
        );
    }
}
