namespace Pritchel.Core.Handbook;

/// <summary>The load test of a 12 V lead-acid battery: half its cold-cranking amps for 15 s (BCI practice, from memory).</summary>
public static class LoadTest
{
    private static readonly (double Celsius, double Volts)[] Floors =
    [
        (-18, 8.5),
        (-12, 8.7),
        (-7, 8.9),
        (-1, 9.1),
        (4, 9.3),
        (10, 9.4),
        (16, 9.5),
        (21, 9.6),
    ];

    /// <summary>Least volts at the end of the test, by the battery's temperature; straight lines between the points.</summary>
    public static double Floor(double celsius)
    {
        if (celsius <= Floors[0].Celsius)
        {
            return Floors[0].Volts;
        }

        for (var i = 1; i < Floors.Length; i++)
        {
            if (celsius <= Floors[i].Celsius)
            {
                var (low, high) = (Floors[i - 1], Floors[i]);
                var share = (celsius - low.Celsius) / (high.Celsius - low.Celsius);
                return low.Volts + (share * (high.Volts - low.Volts));
            }
        }

        return Floors[^1].Volts;
    }
}
