namespace Pritchel.Core.Handbook;

/// <summary>Copper by temperature.</summary>
public static class Copper
{
    // 0.393 % a kelvin from 20 °C: IEC 60028.
    private const double PerKelvin = 0.00393;

    /// <summary>Ohms at 20 °C of what was read at another temperature.</summary>
    public static double At20(double ohms, double celsius) => ohms / (1 + (PerKelvin * (celsius - 20)));

    /// <summary>Ohms at a temperature of what has so many at 20 °C.</summary>
    public static double At(double ohmsAt20, double celsius) => ohmsAt20 * (1 + (PerKelvin * (celsius - 20)));
}
