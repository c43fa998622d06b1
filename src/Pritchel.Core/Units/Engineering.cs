using System.Globalization;

namespace Pritchel.Core.Units;

/// <summary>Writes figures as an electrician reads them: 12.58 V, 0.31 Ω, 4.7 kΩ, 85 A.</summary>
public static class Engineering
{
    /// <summary>Formats a figure to three or four significant digits with its unit.</summary>
    /// <param name="value">In the base unit (V, Ω, A).</param>
    /// <param name="unit">Unit sign to append.</param>
    /// <returns>Text such as "12.58 V", "38 mV" or "4.7 kΩ"; never an exponent.</returns>
    public static string Format(double value, string unit)
    {
        if (double.IsNaN(value))
        {
            return "no reading";
        }

        if (double.IsInfinity(value))
        {
            return "OL";
        }

        var size = Math.Abs(value);
        var (scale, prefix) = size switch
        {
            >= 1e6 => (1e-6, "M"),
            >= 1e3 => (1e-3, "k"),
            < 0.0995 when size > 0 => (1e3, "m"),
            _ => (1.0, ""),
        };
        return Digits(value * scale) + " " + prefix + unit;
    }

    /// <summary>A reading in volts with two decimals, or millivolts under a tenth of a volt.</summary>
    public static string Reading(Volts volts) =>
        Math.Abs(volts.Value) < 0.0995
            ? string.Create(CultureInfo.InvariantCulture, $"{volts.Value * 1000:0} mV")
            : string.Create(CultureInfo.InvariantCulture, $"{volts.Value:0.00} V");

    private static string Digits(double scaled)
    {
        var format = Math.Abs(scaled) switch
        {
            >= 99.5 => "0",
            >= 19.95 => "0.#",
            _ => "0.##",
        };
        return scaled.ToString(format, CultureInfo.InvariantCulture);
    }
}
