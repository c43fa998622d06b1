namespace Pritchel.Core.Observables;

/// <summary>
/// A scale for what spans decades: 2·log10(1 + x/x₀). Zero stays zero, a decade is two, and below x₀ it is straight.
/// </summary>
/// <param name="Least">x₀, below which a figure is as good as none.</param>
internal readonly record struct LogScale(double Least)
{
    private const double PerDecade = 2;

    /// <summary>A figure on the scale.</summary>
    public double Of(double figure) => PerDecade * Math.Log10(1 + (figure / Least));

    /// <summary>Back from the scale.</summary>
    public double Figure(double scaled) => Least * (Math.Pow(10, scaled / PerDecade) - 1);

    /// <summary>How much it rises for a unit of the figure.</summary>
    public double Steepness(double figure) => PerDecade / Math.Log(10) / (Least + figure);
}
