using Pritchel.Core.Circuits;

namespace Pritchel.Core.Diagnosis;

/// <summary>Volts left at one point of a line.</summary>
/// <param name="Node">The point.</param>
/// <param name="Low">Lower edge of healthy.</param>
/// <param name="Middle">Middle of healthy.</param>
/// <param name="High">Upper edge of healthy.</param>
/// <param name="Suspected">What the first suspect would leave there.</param>
public readonly record struct Step(int Node, double Low, double Middle, double High, double Suspected);

/// <summary>Volts left along a line, above battery negative: healthy band and the first suspect's.</summary>
public static class Staircase
{
    /// <summary>Steps of a line in one condition.</summary>
    public static IReadOnlyList<Step> Of(Beliefs beliefs, LinePath line, int condition)
    {
        var draws = DrawWeights(beliefs);
        var first = FirstHypothesis(beliefs);
        var reference = beliefs.Table.Circuit.Reference;
        return
        [
            .. line.Nodes.Select(n =>
            {
                var (low, middle, high) = Band(beliefs, new ProbePair(condition, n, reference), draws);
                var suspected = first is null ? middle : Middle(first, new ProbePair(condition, n, reference), beliefs);
                return new Step(n, low, middle, high, suspected);
            }),
        ];
    }

    /// <summary>Where a sound machine like this one would read: 5th, 50th and 95th percentile, meter noise left out.</summary>
    public static (double Low, double Middle, double High) HealthyBand(Beliefs beliefs, ProbePair at) => Band(beliefs, at, DrawWeights(beliefs));

    /// <summary>Whether a reading agrees with a sound machine, within its spread and the meter's own error.</summary>
    public static bool Agrees(Beliefs beliefs, ProbePair at, double volts)
    {
        var (low, _, high) = HealthyBand(beliefs, at);
        return Agrees(beliefs, low, high, volts);
    }

    /// <summary>The same, with the band at hand.</summary>
    internal static bool Agrees(Beliefs beliefs, double low, double high, double volts)
    {
        var meter = beliefs.Meter;
        var doubt = (2 * meter.Noise(new Units.Volts(volts)).Value) + (2 * meter.GainSigma * Math.Abs(volts)) + 0.03;
        return volts >= low - doubt && volts <= high + doubt;
    }

    /// <summary>
    /// How probable each draw of a healthy machine has become. All hypotheses share the draws, so readings that pin
    /// the battery's charge narrow the healthy band too.
    /// </summary>
    private static double[] DrawWeights(Beliefs beliefs)
    {
        var weights = new double[PredictionTable.Particles];
        for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
        {
            var particles = beliefs.Weights(h);
            for (var p = 0; p < weights.Length; p++)
            {
                weights[p] += particles[p];
            }
        }

        // A floor keeps the band from closing on one particle.
        var floor = weights.Sum() * 0.3 / weights.Length;
        return [.. weights.Select(w => w + floor)];
    }

    private static (double, double, double) Band(Beliefs beliefs, ProbePair at, double[] draws)
    {
        var sorted = Enumerable
            .Range(0, draws.Length)
            .Select(p => (Volts: Predicted(beliefs.Table.Healthy, at, p, beliefs), Weight: draws[p]))
            .OrderBy(x => x.Volts)
            .ToArray();
        return (Quantile(sorted, 0.05), Quantile(sorted, 0.5), Quantile(sorted, 0.95));
    }

    private static double Middle(Hypothesis hypothesis, ProbePair at, Beliefs beliefs)
    {
        var index = beliefs.Table.Hypotheses.ToList().IndexOf(hypothesis);
        var weights = beliefs.Weights(index);
        var sorted = new (double Volts, double Weight)[weights.Length];
        for (var p = 0; p < sorted.Length; p++)
        {
            sorted[p] = (Predicted(hypothesis, at, p, beliefs), weights[p]);
        }

        Array.Sort(sorted);
        return Quantile(sorted, 0.5);
    }

    private static Hypothesis? FirstHypothesis(Beliefs beliefs)
    {
        var best = Enumerable.Range(0, beliefs.Table.Hypotheses.Count).MaxBy(beliefs.Share);
        var hypothesis = beliefs.Table.Hypotheses[best];
        return hypothesis.HasVolts && hypothesis.Fault is not null ? hypothesis : null;
    }

    private static double Predicted(Hypothesis hypothesis, ProbePair at, int particle, Beliefs beliefs)
    {
        var nodes = beliefs.Table.Circuit.Network.NodeCount;
        return Hypothesis.Between(
            hypothesis.Volts(at.Condition, at.Red, nodes)[particle],
            hypothesis.Volts(at.Condition, at.Black, nodes)[particle]
        );
    }

    private static double Quantile((double Volts, double Weight)[] sorted, double share)
    {
        var (wanted, so) = (share * sorted.Sum(x => x.Weight), 0.0);
        foreach (var (volts, weight) in sorted)
        {
            so += weight;
            if (so >= wanted)
            {
                return volts;
            }
        }

        return sorted[^1].Volts;
    }
}
