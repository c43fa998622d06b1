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
/// <param name="Digits">How finely it was typed.</param>
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
                .GroupBy(r => (r.At, r.Symptom, Jumps: r.Value is null, r.Digits))
                .SelectMany(g => OfOnePair(table, g.Key.At, g.Key.Symptom, g.Key.Digits, [.. g], meter))
                .OrderBy(r => (r.At.Condition, r.At.Red, r.At.Black, r.Symptom, r.Value)),
        ];

    private static IEnumerable<GroupedReading> OfOnePair(
        PredictionTable table,
        ProbePair at,
        SymptomNow symptom,
        TypedDigits? digits,
        IReadOnlyList<Reading> readings,
        Meter meter
    )
    {
        var observable = table.Conditions[at.Condition].Observable;
        double Noise(double value) => observable.Noise(meter, value, digits);
        if (readings[0].Value is null)
        {
            yield return new(at, null, symptom, Noise(0) / Math.Sqrt(readings.Count), readings.Count, digits);
            yield break;
        }

        var values = readings.Select(r => r.Value!.Value).Order().ToList();
        for (var first = 0; first < values.Count; )
        {
            var past = first + 1;
            while (past < values.Count && values[past] - values[past - 1] <= (Deviations * Noise(values[past])) + Slack)
            {
                past++;
            }

            var (times, mean) = (past - first, values[first..past].Average());
            yield return new(at, mean, symptom, Noise(mean) / Math.Sqrt(times), times, digits);
            first = past;
        }
    }
}
