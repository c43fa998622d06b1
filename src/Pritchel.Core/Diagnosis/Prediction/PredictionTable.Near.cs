using System.Collections.Concurrent;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <content>Severities drawn anew where belief has come to lie.</content>
public sealed partial class PredictionTable
{
    /// <summary>
    /// A hypothesis with its severities drawn anew about where they have come to lie, when few of those it has are near.
    /// The same place gives the same hypothesis, however it was come by; a few are kept.
    /// </summary>
    /// <param name="hypothesis">Which.</param>
    /// <param name="about">Where, as a fraction of the fault's range.</param>
    /// <param name="within">Half the width they are to be spread over.</param>
    internal Hypothesis Near(int hypothesis, double about, double within)
    {
        const int MostKept = 96;
        const double Steps = 40;
        var key = (hypothesis, (int)Math.Round(about * Steps), (int)Math.Round(within * Steps));
        if (near.TryGetValue(key, out var known))
        {
            return known;
        }

        if (near.Count > MostKept)
        {
            near.Clear();
        }

        var (severities, mass) = Spread(key.Item2 / Steps, Math.Max(1, key.Item3) / Steps);
        var before = Hypotheses[hypothesis];
        var runner = new CaseRunner(this, Circuit.With([before.Fault!]), DutyWaves.BeliefTolerance);
        return near.GetOrAdd(
            key,
            runner
                .Again(before, draws ??= new ParticleDraws(Circuit, Particles, Seed), Healthy, severities, mass)
                .Pack(Healthy, new ConcurrentDictionary<float, float[]>())
        );
    }

    /// <summary>
    /// Severities of which most lie evenly near a place and the rest evenly everywhere, with what each stands for: one over
    /// the density it was drawn with (importance sampling).
    /// </summary>
    private (double[] Severities, double[] Mass) Spread(double about, double within)
    {
        const double NearShare = 0.8;
        var (low, high) = (Math.Max(0, about - within), Math.Min(1, about + within));
        var inside = (int)(NearShare * Particles);
        var random = new Random(Seed);
        var severities = Enumerable
            .Range(0, Particles)
            .Select(p =>
                p < inside
                    ? low + ((high - low) * (p + random.NextDouble()) / inside)
                    : (p - inside + random.NextDouble()) / (Particles - inside)
            )
            .ToArray();
        random.Shuffle(severities);
        var (share, rest) = ((double)inside / Particles, 1 - ((double)inside / Particles));
        return (
            severities,
            [.. severities.Select(s => 1 / (rest + (s >= low && s <= high ? share / (high - low) : 0)))]
        );
    }
}
