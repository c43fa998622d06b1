namespace Pritchel.Core.Faults;

/// <summary>What wears on a place: each circumstance makes the faults that are weak to it likelier.</summary>
[Flags]
public enum Weakness
{
    /// <summary>Nothing in particular.</summary>
    None = 0,

    /// <summary>Years.</summary>
    Age = 1,

    /// <summary>Salt: green copper, white powder.</summary>
    Salt = 2,

    /// <summary>Damp.</summary>
    Damp = 4,

    /// <summary>Vibration: fretting, chafing, broken strands.</summary>
    Vibration = 8,

    /// <summary>Rodents: chewed insulation and wires.</summary>
    Rodents = 16,

    /// <summary>Someone's recent work: left off, swapped, pinched.</summary>
    RecentWork = 32,
}

/// <summary>A machine's life so far, as its electrician sees it. Factors are judgement: common practice, no source.</summary>
/// <param name="Years">Age of the wiring in years; 10 is as rates are given.</param>
/// <param name="Salt">Lives by or on salt water.</param>
/// <param name="Damp">Stored or used wet.</param>
/// <param name="Vibration">Shaken more than most: singles, rough ground.</param>
/// <param name="Rodents">Signs of rodents.</param>
/// <param name="RecentWork">Someone worked on it just before.</param>
/// <param name="Stored">It stood over a season or more before it failed.</param>
/// <param name="NewWiring">New wiring, a repower, an engine of another kind: it has never worked since.</param>
public sealed record Circumstances(
    double Years = 10,
    bool Salt = false,
    bool Damp = false,
    bool Vibration = false,
    bool Rodents = false,
    bool RecentWork = false,
    bool Stored = false,
    bool NewWiring = false
)
{
    private const double UsualYears = 10;

    /// <summary>As rates are given.</summary>
    public static Circumstances Usual { get; } = new();

    /// <summary>
    /// How many times likelier than usual it is that no single fault of the drawing is the cause: hands that worked on it put two leads
    /// on wrongly, or fitted what is wired otherwise inside.
    /// </summary>
    public double OtherwiseTimes =>
        NewWiring ? 8
        : RecentWork ? 3
        : 1;

    /// <summary>How many times likelier a fault of that weakness is than usual.</summary>
    public double Times(Weakness weakness)
    {
        var times = 1.0;
        if (weakness.HasFlag(Weakness.Age))
        {
            // In proportion to years, from a third at new to three times.
            times *= Math.Clamp(Years / UsualYears, 1.0 / 3, 3);
        }

        times *= Salt && weakness.HasFlag(Weakness.Salt) ? 4 : 1;
        times *= Damp && weakness.HasFlag(Weakness.Damp) ? 2 : 1;
        times *= Vibration && weakness.HasFlag(Weakness.Vibration) ? 2 : 1;
        times *= Rodents && weakness.HasFlag(Weakness.Rodents) ? 8 : 1;
        times *= Stored && (weakness & (Weakness.Salt | Weakness.Damp | Weakness.Rodents)) != Weakness.None ? 3 : 1;

        // What has never worked since it was wired is wired wrong before anything has worn out.
        var byHand =
            NewWiring ? 25
            : RecentWork ? 5
            : 1;
        return weakness.HasFlag(Weakness.RecentWork) ? times * byHand : times;
    }
}
