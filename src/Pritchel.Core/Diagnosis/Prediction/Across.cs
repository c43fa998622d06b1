using System.Runtime.CompilerServices;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>How metal that hangs on leakage gives way to a meter.</summary>
/// <param name="Share">Share of its open volts that it gives, G/(G + Gm).</param>
/// <param name="Low">Volts that a diode from firm metal does not let it be pulled below.</param>
/// <param name="High">Volts that a diode to firm metal does not let it be pulled above.</param>
public readonly record struct Hanging(float Share, float Low, float High)
{
    /// <summary>Metal that gives all it has.</summary>
    public static readonly Hanging Firm = new(1, float.NegativeInfinity, float.PositiveInfinity);

    /// <summary>Its volts when a meter joins it to firm metal.</summary>
    /// <param name="open">Its volts without.</param>
    /// <param name="other">Volts of that metal.</param>
    public double Loaded(double open, double other) => Math.Max(Low, Math.Min(High, other + ((open - other) * Share)));
}

/// <summary>
/// What a meter shows between two points, by particle, on the scale of what is read. Metal that hangs on leakage gives way to
/// the meter's own load, as <see cref="MeterLoad"/> finds.
/// </summary>
public readonly ref struct Across
{
    // Volts of metal that floats are kept this far apart for each piece of it, more than twice what any two nodes of one
    // differ by: an exciter without its load stands at many hundreds.
    private const double IslandStep = 4096;

    // Volts of firm metal from which damp makes anything of what floats beside it.
    private const double Live = 0.5;

    private readonly ReadOnlySpan<float> red;
    private readonly ReadOnlySpan<float> black;
    private readonly ReadOnlySpan<Hanging> redHangs;
    private readonly ReadOnlySpan<Hanging> blackHangs;

    internal Across(
        ReadOnlySpan<float> red,
        ReadOnlySpan<float> black,
        ReadOnlySpan<Hanging> redHangs,
        ReadOnlySpan<Hanging> blackHangs
    )
    {
        this.red = red;
        this.black = black;
        this.redHangs = redHangs;
        this.blackHangs = blackHangs;
    }

    /// <summary>What one particle shows; zero where the points float apart, or where it is not known.</summary>
    public double this[int particle]
    {
        // Read some millions of times for each choice of a test.
        [MethodImpl(MethodImplOptions.AggressiveInlining)]
        get
        {
            var (a, b) = (red[particle], black[particle]);
            double drop = a - b;
            return double.IsNaN(drop) || Math.Abs(drop) > IslandStep / 2 ? 0
                : redHangs.IsEmpty && blackHangs.IsEmpty ? drop
                : Loaded(a, b, particle);
        }
    }

    /// <summary>Whether a meter's own load pulls on what one particle shows.</summary>
    public bool Hangs(int particle) =>
        (!redHangs.IsEmpty && redHangs[particle].Share < 1) || (!blackHangs.IsEmpty && blackHangs[particle].Share < 1);

    /// <summary>
    /// Whether damp decides what one particle shows: from firm live metal to metal that nothing is joined to a voltmeter shows nothing or
    /// all there is, by a leak that nobody knows (common practice, no source).
    /// </summary>
    public bool IsByDamp(int particle)
    {
        var (a, b) = (red[particle], black[particle]);
        var (redFloats, blackFloats) = (Math.Abs(a) > IslandStep / 2, Math.Abs(b) > IslandStep / 2);
        return redFloats != blackFloats && Math.Abs(redFloats ? b : a) > Live;
    }

    /// <summary>Whether it is known what one particle shows: not where a meter's load decides what passes of a wave.</summary>
    public bool IsKnown(int particle) => !float.IsNaN(red[particle] - black[particle]);

    /// <summary>How volts of floating metal are kept: those above the piece's own first node, and which piece it is.</summary>
    internal static double Afloat(int island, double volts) => (island * IslandStep) + volts;

    /// <summary>Where both points hang, each leak is in series with the other's.</summary>
    private double Loaded(double a, double b, int particle)
    {
        var one = redHangs.IsEmpty ? Hanging.Firm : redHangs[particle];
        var other = blackHangs.IsEmpty ? Hanging.Firm : blackHangs[particle];
        return other.Share >= 1 ? one.Loaded(a, b) - b
            : one.Share >= 1 ? a - other.Loaded(b, a)
            : (a - b) * one.Share * other.Share;
    }
}
