namespace Pritchel.Core.Handbook;

/// <summary>
/// A lamp's filament: amps grow as about volts to the power 0.55, and its cold resistance is about a fourteenth of hot.
/// From memory of general lamp data.
/// </summary>
public static class Filament
{
    private const double CurrentPower = 0.55;
    private const double ColdShare = 0.07;

    /// <summary>Share of its volts from which a lamp looks as bright as ever; judgement, no source.</summary>
    public const double BrightFrom = 0.85;

    /// <summary>Share of its volts from which it glows at all; judgement, no source.</summary>
    public const double GlowsFrom = 0.4;

    /// <summary>Resistance as a share of hot, at a share of rated volts.</summary>
    public static double OhmsShare(double voltsShare) => Math.Max(ColdShare, Math.Pow(voltsShare, 1 - CurrentPower));

    /// <summary>
    /// Share of its rated volts that a lamp in a circuit comes to rest at: its resistance and its volts agree.
    /// </summary>
    /// <param name="hotOhms">Resistance at rated volts.</param>
    /// <param name="solve">Share of rated volts across it when it has so many ohms.</param>
    /// <param name="near">How near its ohms must come, as a share of them.</param>
    /// <param name="least">A share below which it is not followed further.</param>
    public static double ShareOf(double hotOhms, Func<double, double> solve, double near = 1e-9, double least = 0)
    {
        // Ohms grow as less than the root of volts, so each round halves what is left at least; from hot, shares only fall.
        const int MostRounds = 100;
        var (ohms, share) = (hotOhms, 0.0);
        for (var round = 0; round < MostRounds; round++)
        {
            share = solve(ohms);
            var next = hotOhms * OhmsShare(share);
            if (share < least || Math.Abs(next - ohms) < near * ohms)
            {
                break;
            }

            ohms = next;
        }

        return share;
    }
}
