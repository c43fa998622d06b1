namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>Figures with weights, cut at a share of the weight.</summary>
internal static class Quantiles
{
    /// <summary>The least figure at which a share of all the weight is reached; NaN without figures.</summary>
    /// <param name="sorted">Figures in ascending order, each with a weight that is not negative.</param>
    /// <param name="share">Share of the weight, 0 to 1.</param>
    public static double Of(ReadOnlySpan<(double Figure, double Weight)> sorted, double share)
    {
        double all = 0;
        foreach (var (_, weight) in sorted)
        {
            all += weight;
        }

        double so = 0;
        foreach (var (figure, weight) in sorted)
        {
            so += weight;
            if (so >= share * all)
            {
                return figure;
            }
        }

        return sorted.Length == 0 ? double.NaN : sorted[^1].Figure;
    }
}
