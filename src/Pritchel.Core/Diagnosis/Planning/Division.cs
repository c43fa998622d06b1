namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>One figure that parts the suspects: what is read lies below it or above.</summary>
/// <param name="Figure">The figure, on the scale of what is read.</param>
/// <param name="Bits">Mutual information between the side that is read and which repair is needed.</param>
/// <param name="Below">Share of belief below, by repair.</param>
/// <param name="Above">Share of belief above, by repair.</param>
public sealed record Division(double Figure, double Bits, double[] Below, double[] Above)
{
    private const int MostTried = 64;

    // 1/(1 + e^(-1.702 z)) lies within a hundredth of the normal distribution: from memory.
    private const double Logistic = 1.702;

    // Of what is left after rounding nothing can be said.
    private const double LeastBits = 1e-4;

    /// <summary>The figure that tells most; null where none tells anything.</summary>
    /// <param name="expected">Figures that may be read, each with the index of its repair and its share of belief.</param>
    /// <param name="repairs">How many repairs there are.</param>
    /// <param name="sigma">Standard deviation of what is read about a figure.</param>
    public static Division? Best(
        IReadOnlyList<(double Figure, int Repair, double Weight)> expected,
        int repairs,
        Func<double, double> sigma
    )
    {
        var blurred = expected.Select(e => (e.Figure, e.Repair, e.Weight, Sigma: sigma(e.Figure))).ToArray();
        return Tried(expected)
            .Select(t => At(t, blurred, repairs))
            .Where(d => d.Bits > LeastBits && d.Below.Sum() > 0 && d.Above.Sum() > 0)
            .MaxBy(d => d.Bits);
    }

    private static Division At(
        double figure,
        (double Figure, int Repair, double Weight, double Sigma)[] expected,
        int repairs
    )
    {
        var (below, above) = (new double[repairs], new double[repairs]);
        foreach (var (at, repair, weight, sigma) in expected)
        {
            var share = 1 / (1 + Math.Exp(Logistic * (at - figure) / sigma));
            below[repair] += weight * share;
            above[repair] += weight * (1 - share);
        }

        var all = below.Sum() + above.Sum();
        return new Division(
            figure,
            (Unsure([.. below.Zip(above, (b, a) => b + a)]) - Unsure(below) - Unsure(above)) / all,
            below,
            above
        );
    }

    /// <summary>Entropy of shares times their sum, in bits.</summary>
    private static double Unsure(double[] shares)
    {
        var all = shares.Sum();
        return shares.Where(s => s > 0).Sum(s => s * Math.Log2(all / s));
    }

    /// <summary>Half-way across the widest gap in each of so many equal steps of belief.</summary>
    private static IEnumerable<double> Tried(IReadOnlyList<(double Figure, int Repair, double Weight)> expected)
    {
        var sorted = expected.OrderBy(e => e.Figure).ToArray();
        var step = sorted.Sum(e => e.Weight) / MostTried;
        var (so, next, widest, middle) = (0.0, step, 0.0, 0.0);
        for (var i = 0; i + 1 < sorted.Length; i++)
        {
            so += sorted[i].Weight;
            if (sorted[i + 1].Figure - sorted[i].Figure > widest)
            {
                widest = sorted[i + 1].Figure - sorted[i].Figure;
                middle = (sorted[i].Figure + sorted[i + 1].Figure) / 2;
            }

            if (widest > 0 && (so >= next || i + 2 == sorted.Length))
            {
                yield return middle;
                (next, widest) = (so + step, 0);
            }
        }
    }
}
