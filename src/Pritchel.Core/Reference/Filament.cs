namespace Pritchel.Core.Reference;

/// <summary>
/// A lamp's filament: amps grow as about volts to the power 0.55, and its cold resistance is about a tenth of hot. From
/// memory of general lamp data.
/// </summary>
public static class Filament
{
    private const double CurrentPower = 0.55;
    private const double ColdShare = 0.1;

    /// <summary>Share of its volts from which a lamp looks as bright as ever; judgement, no source.</summary>
    public const double BrightFrom = 0.85;

    /// <summary>Share of its volts from which it glows at all; judgement, no source.</summary>
    public const double GlowsFrom = 0.4;

    /// <summary>Resistance as a share of hot, at a share of rated volts.</summary>
    public static double OhmsShare(double voltsShare) => Math.Max(ColdShare, Math.Pow(voltsShare, 1 - CurrentPower));
}
