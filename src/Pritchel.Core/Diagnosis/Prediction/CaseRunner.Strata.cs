using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <content>Severities drawn again where few particles fail in one way.</content>
internal sealed partial class CaseRunner
{
    /// <summary>
    /// Where only a few particles fail in one way, a complaint of that way would tie the fault to whatever battery and
    /// joints they chanced to have. So particles that work, or fail in a commoner way, are given severities like theirs until
    /// every way of failing has its share of them, and what each way stands for stays what the first draw gave it:
    /// importance sampling by strata.
    /// </summary>
    private (double[] Severities, double[]? Mass) Gathered(
        Fault? fault,
        ParticleDraws draws,
        Hypothesis? healthy,
        Heard[] heard,
        Predictions shown
    )
    {
        const double Jitter = 0.05;
        var count = draws.Count;
        var severities = Enumerable.Range(0, count).Select(draws.Severity).ToArray();
        var first = heard.ToArray();
        var ways = first.Where((h, p) => h != healthy?.HeardBy[p]).Distinct().ToList();
        if (fault is null || ways.Count == 0 || first.Distinct().Count() == 1)
        {
            return (severities, null);
        }

        var (random, quota) = (new Random(table.Seed), count / ways.Count);
        foreach (var way in ways)
        {
            var like = Enumerable.Range(0, count).Where(p => first[p] == way).Select(draws.Severity).ToArray();
            for (var p = 0; p < count && heard.Count(h => h == way) < quota; p++)
            {
                if (heard[p] == way || (ways.Contains(heard[p]) && heard.Count(h => h == heard[p]) <= quota))
                {
                    continue;
                }

                var severity = Math.Clamp(
                    like[random.Next(like.Length)] + (Jitter * (random.NextDouble() - 0.5)),
                    0,
                    1
                );
                (tried, carriedIn) = (spare, sound?.stands[p]);
                if (Begin(fault, draws.Parameters(p), severity) == way)
                {
                    (severities[p], heard[p]) = (severity, way);
                    (stands[p], spare) = (spare, stands[p]);
                    NoteAsTried(p, shown);
                }
            }
        }

        var (before, after) = (first.CountBy(h => h).ToDictionary(), heard.CountBy(h => h).ToDictionary());
        return (severities, [.. heard.Select(h => (double)before[h] / after[h])]);
    }
}
