using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// Readings of one pair of points that say the same, taken together: repeats average the meter's noise, and leave little room for
/// a slip. Those that say otherwise stand by themselves, one of them a slip. In an order of their own, so that it does not matter
/// in which they were taken.
/// </summary>
/// <param name="At">Where.</param>
/// <param name="Value">Mean of the readings, on the scale; null when it jumped.</param>
/// <param name="Symptom">Whether the symptom was there.</param>
/// <param name="Noise">Standard deviation of the mean.</param>
/// <param name="Times">How many times it was read.</param>
/// <param name="Digits">How finely it was typed: the least fine of them.</param>
internal sealed record GroupedReading(
    ProbePair At,
    double? Value,
    SymptomNow Symptom,
    double Noise,
    int Times,
    TypedDigits? Digits
)
{
    // Two readings further apart than this many deviations of the meter, and than contacts make of it, are not of one thing.
    private const double Deviations = 4;
    private const double Slack = 0.1;

    public static List<GroupedReading> Of(PredictionTable table, IReadOnlyList<Reading> readings, Meter meter) =>
        [
            .. readings
                .GroupBy(r => (r.At, r.Symptom, Jumps: r.Value is null))
                .SelectMany(g =>
                {
                    var observable = table.Conditions[g.Key.At.Condition].Observable;
                    double Noise(Reading r) => observable.Noise(meter, r.Value ?? 0, r.Digits);
                    return Alike([.. g.OrderBy(r => r.Value)], Noise)
                        .Select(alike =>
                        {
                            var coarsest = alike.MaxBy(Noise)!;
                            return new GroupedReading(
                                g.Key.At,
                                alike.Average(r => r.Value),
                                g.Key.Symptom,
                                Noise(coarsest) / Math.Sqrt(alike.Count),
                                alike.Count,
                                coarsest.Digits
                            );
                        });
                })
                .OrderBy(r => (r.At.Condition, r.At.Red, r.At.Black, r.Symptom, r.Value)),
        ];

    /// <summary>Readings of one pair, the least first, in runs that say the same.</summary>
    private static IEnumerable<List<Reading>> Alike(IReadOnlyList<Reading> readings, Func<Reading, double> noise)
    {
        var alike = new List<Reading>();
        foreach (var reading in readings)
        {
            if (
                alike.Count > 0
                && reading.Value - alike[^1].Value > (Deviations * Math.Max(noise(reading), noise(alike[^1]))) + Slack
            )
            {
                yield return alike;
                alike = [];
            }

            alike.Add(reading);
        }

        yield return alike;
    }
}
