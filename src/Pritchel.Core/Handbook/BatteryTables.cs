using Pritchel.Core.Units;

namespace Pritchel.Core.Handbook;

/// <summary>12 V flooded lead-acid batteries.</summary>
public static class BatteryTables
{
    // Rested 4 to 24 h at about 27 °C: BCI, from memory.
    private static readonly (double Charge, double Volts)[] Rested =
    [
        (0, 11.89),
        (0.25, 12.06),
        (0.5, 12.24),
        (0.75, 12.45),
        (1, 12.65),
    ];

    // From memory.
    private static readonly (double Charge, double Volts)[] GlassMatRested =
    [
        (0, 11.8),
        (0.25, 12.0),
        (0.5, 12.3),
        (0.75, 12.6),
        (1, 12.85),
    ];

    /// <summary>Rest volts by state of charge, straight lines between the points of the BCI table (from memory).</summary>
    /// <param name="charge">0 flat to 1 full; clamped.</param>
    public static Volts RestVolts(double charge) => Between(Rested, charge);

    /// <summary>The same of absorbed-glass-mat batteries (from memory).</summary>
    /// <param name="charge">0 flat to 1 full; clamped.</param>
    public static Volts GlassMatRestVolts(double charge) => Between(GlassMatRested, charge);

    private static Volts Between((double Charge, double Volts)[] table, double charge)
    {
        var at = Math.Clamp(charge, 0, 1);
        for (var i = 1; i < table.Length; i++)
        {
            if (at <= table[i].Charge)
            {
                var (low, high) = (table[i - 1], table[i]);
                var share = (at - low.Charge) / (high.Charge - low.Charge);
                return new Volts(low.Volts + (share * (high.Volts - low.Volts)));
            }
        }

        return new Volts(table[^1].Volts);
    }

    /// <summary>State of charge by rest volts, the other way round.</summary>
    public static double ChargeAt(Volts rest) => ChargeAt(Rested, rest);

    /// <summary>The same of absorbed-glass-mat batteries; gel ones lie near them (from memory).</summary>
    public static double GlassMatChargeAt(Volts rest) => ChargeAt(GlassMatRested, rest);

    /// <summary>
    /// About what a 12 V starting battery holds, by its cold-cranking amps: a seventh to an eighth of them (common practice, no
    /// source; its label goes first).
    /// </summary>
    public static AmpHours HoldsAbout(Amps coldCranking) => new(coldCranking.Value / 7.5);

    private static double ChargeAt((double Charge, double Volts)[] table, Volts rest)
    {
        for (var i = 1; i < table.Length; i++)
        {
            if (rest.Value <= table[i].Volts)
            {
                var (low, high) = (table[i - 1], table[i]);
                var share = (rest.Value - low.Volts) / (high.Volts - low.Volts);
                return Math.Max(0, low.Charge + (share * (high.Charge - low.Charge)));
            }
        }

        return 1;
    }

    /// <summary>
    /// Internal resistance. At −18 °C a full battery gives its cold-cranking amps at 7.2 V (SAE J537), so it is
    /// (12.65 − 7.2) / CCA there; it falls by about 0.9 % a kelvin as it warms and rises as charge falls to about
    /// thirty times when flat (both from memory).
    /// </summary>
    public static Ohms InternalOhms(Amps coldCranking, Celsius temperature, double charge)
    {
        var cold = (12.65 - 7.2) / coldCranking.Value;
        var warming = Math.Exp(-0.009 * (temperature.Value + 18));
        var at = Math.Clamp(charge, 0, 1);
        var discharge = 1 + (0.35 * (1 - at)) + (29 * Math.Pow(1 - at, 8));
        return new Ohms(cold * warming * discharge);
    }

    /// <summary>
    /// What a battery on charge sets against its charger. At 14.4 V a 30 Ah battery takes about 6 A at half charge, 1.5 A
    /// at nine tenths and half an amp full; driven by 10 A at half charge it shows 13 V. All from memory.
    /// </summary>
    public static BackPressure Gassing(Amps coldCranking, double charge)
    {
        var at = Math.Clamp(charge, 0, 1);
        const double UsualColdCranking = 230;
        var size = UsualColdCranking / coldCranking.Value;
        return new BackPressure(0.3 + (1.9 * at * at), size * 0.2 / (1.06 - at), size * 0.06 * at);
    }
}

/// <summary>How a battery on charge pushes back: little is taken up to its gassing volts, then much.</summary>
/// <param name="Volts">Gassing volts above rest.</param>
/// <param name="Ohms">Ohms on the way there.</param>
/// <param name="Beyond">Ohms beyond, on top of its internal resistance.</param>
public readonly record struct BackPressure(double Volts, double Ohms, double Beyond)
{
    /// <summary>Amps at which gassing begins.</summary>
    public double Amps => Volts / Ohms;

    /// <summary>Volts above rest at so many amps into the battery, its internal resistance apart.</summary>
    public double At(double amps) =>
        amps <= 0 ? 0
        : amps <= Amps ? amps * Ohms
        : Volts + ((amps - Amps) * Beyond);
}
