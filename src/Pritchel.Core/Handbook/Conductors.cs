using System.Globalization;
using System.Text.RegularExpressions;
using Pritchel.Core.Units;

namespace Pritchel.Core.Handbook;

/// <summary>A copper conductor by size.</summary>
/// <param name="Area">Cross-section.</param>
/// <param name="OhmsPerMetre">Resistance at 20 °C, one way.</param>
/// <param name="Source">Where the figure comes from.</param>
public readonly record struct ConductorSize(SquareMillimetres Area, double OhmsPerMetre, string Source);

/// <summary>
/// Copper conductors. Metric sizes take the maxima of IEC 60228 class 5 at 20 °C; sizes between, and AWG, take
/// 1.724 µΩ·cm (IEC 60028) over the area, AWG areas by the geometry of ASTM B258.
/// </summary>
public static partial class Conductors
{
    /// <summary>Resistivity of annealed copper at 20 °C, in ohm·mm² per metre: IEC 60028.</summary>
    public const double CopperOhmSquareMillimetresPerMetre = 0.01724;

    private static readonly Dictionary<double, double> Class5MilliohmsPerMetre = new()
    {
        [0.75] = 26.0,
        [1] = 19.5,
        [1.5] = 13.3,
        [2.5] = 7.98,
        [4] = 4.95,
        [6] = 3.30,
        [10] = 1.91,
        [16] = 1.21,
        [25] = 0.780,
        [35] = 0.554,
    };

    /// <summary>What a gauge may be written as.</summary>
    public const string Allowed = "\"2.5 mm2\" (0.2 to 120) or \"14 AWG\" (0 to 24)";

    /// <summary>Reads a gauge such as "2.5 mm2" or "14 AWG"; null when it is not one.</summary>
    public static ConductorSize? Parse(string gauge)
    {
        var match = Gauge().Match(gauge);
        if (!match.Success)
        {
            return null;
        }

        var size = double.Parse(match.Groups["size"].Value, CultureInfo.InvariantCulture);
        if (match.Groups["unit"].Value == "AWG")
        {
            return size is >= 0 and <= 24 && double.IsInteger(size) ? FromAwg((int)size) : null;
        }

        return size is >= 0.2 and <= 120 ? FromArea(size) : null;
    }

    private static ConductorSize FromArea(double area) =>
        Class5MilliohmsPerMetre.TryGetValue(area, out var milliohms)
            ? new(new SquareMillimetres(area), milliohms / 1000, "IEC 60228 class 5, 20 °C")
            : new(new SquareMillimetres(area), CopperOhmSquareMillimetresPerMetre / area, "IEC 60028");

    private static ConductorSize FromAwg(int number)
    {
        // ASTM B258: diameter in mm = 0.127 · 92^((36 − n)/39).
        var diameter = 0.127 * Math.Pow(92, (36 - number) / 39.0);
        var area = Math.PI * diameter * diameter / 4;
        return new(new SquareMillimetres(area), CopperOhmSquareMillimetresPerMetre / area, "ASTM B258, IEC 60028");
    }

    [GeneratedRegex(
        @"^(?<size>\d{1,3}(?:\.\d{1,2})?) (?<unit>mm2|AWG)$",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Gauge();
}
