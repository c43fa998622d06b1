namespace Pritchel.Core.PartTests.Leads;

/// <summary>What leads that join one another are.</summary>
public enum LeadGroupKind
{
    /// <summary>One lead that joins nothing: broken off, or of electronics.</summary>
    Alone,

    /// <summary>The core, which no lead meets.</summary>
    CoreAlone,

    /// <summary>A winding between two leads, clear of the core.</summary>
    Floating,

    /// <summary>A winding between a lead and the core.</summary>
    Grounded,

    /// <summary>Two leads, or a lead and the core, that are one piece of copper.</summary>
    OneCopper,

    /// <summary>Three like legs: three-phase, star or delta.</summary>
    ThreePhase,

    /// <summary>Three like legs that meet in a lead of their own, or in the core.</summary>
    StarPointOut,

    /// <summary>Three like legs of which one meets the core somewhere: a stator that is grounded.</summary>
    ThreePhaseGrounded,

    /// <summary>A winding with a tap, its ends free or one of them on the core.</summary>
    Tapped,

    /// <summary>Readings of which one does not agree with the others.</summary>
    DoesNotAddUp,

    /// <summary>Several that join, of which not all pairs are read.</summary>
    NotAllRead,
}

/// <summary>Leads that join one another, and what they are.</summary>
/// <param name="Points">Their numbers; the core among them where they meet it.</param>
/// <param name="Kind">What they are.</param>
/// <param name="Order">
/// Points in the order in which they lie along the winding, ends outermost; those of one copper beside each other. As numbered
/// where nothing tells.
/// </param>
/// <param name="Whole">Ohms from end to end; not a number where it was not read.</param>
public sealed record LeadGroup(IReadOnlyList<int> Points, LeadGroupKind Kind, IReadOnlyList<int> Order, double Whole)
{
    // Two probes and their contacts, read twice: what a sum may be off, beside a share for the meter: from memory.
    private const double ContactOhms = 0.25;
    private const double MeterShare = 0.03;

    // Legs of one stator agree within a few hundredths: common practice, no source.
    private const double LegShare = 0.08;

    // Below it two leads are one wire, as far as an ordinary meter tells.
    private const double CopperOhms = 0.25;

    /// <summary>Pairs within it.</summary>
    public IEnumerable<LeadPair> Pairs =>
        Points.SelectMany((a, i) => Points.Skip(i + 1).Select(b => LeadPair.Of(a, b)));

    /// <summary>Judges a group.</summary>
    /// <param name="points">Its points, in order.</param>
    /// <param name="core">Number of the core.</param>
    /// <param name="ohms">What a pair read, in ohms; null where it was not.</param>
    public static LeadGroup Of(IReadOnlyList<int> points, int core, Func<int, int, double?> ohms)
    {
        LeadGroup As(LeadGroupKind kind, IReadOnlyList<int>? order = null, double whole = double.NaN) =>
            new(points, kind, order ?? points, whole);
        if (points.Count == 1)
        {
            return As(points[0] == core ? LeadGroupKind.CoreAlone : LeadGroupKind.Alone);
        }

        if (points.Count == 2)
        {
            var across = ohms(points[0], points[1])!.Value;
            return As(
                across < CopperOhms ? LeadGroupKind.OneCopper
                    : points.Contains(core) ? LeadGroupKind.Grounded
                    : LeadGroupKind.Floating,
                whole: across
            );
        }

        var pairs = points
            .SelectMany((a, i) => points.Skip(i + 1).Select(b => (A: a, B: b, Ohms: ohms(a, b))))
            .ToList();
        if (pairs.Exists(p => p.Ohms is null))
        {
            return As(LeadGroupKind.NotAllRead);
        }

        var figures = pairs.Select(p => p.Ohms!.Value).ToList();
        if (points.Count == 3 && !points.Contains(core) && Alike(figures))
        {
            return As(LeadGroupKind.ThreePhase, whole: figures.Average());
        }

        if (points.Count == 4 && Star(points, core, ohms) is var (kind, middle, leg))
        {
            return As(kind, [middle, .. points.Where(p => p != middle)], leg);
        }

        // Along one winding every point lies where its ohms to one end say, and all other pairs must agree with that.
        var (from, to, whole) = pairs.OrderByDescending(p => p.Ohms).Select(p => (p.A, p.B, p.Ohms!.Value)).First();
        double At(int point) => point == from ? 0 : ohms(from, point)!.Value;
        var agrees = pairs.TrueForAll(p => Math.Abs(Math.Abs(At(p.A) - At(p.B)) - p.Ohms!.Value) <= Slack(whole));
        var order = points.OrderBy(At).ToList();
        return agrees ? As(LeadGroupKind.Tapped, order, whole) : As(LeadGroupKind.DoesNotAddUp, order, whole);
    }

    /// <summary>Points that lie at one place of the winding: leads that are one copper.</summary>
    /// <param name="ohms">What a pair read.</param>
    public IEnumerable<LeadPair> OneCopper(Func<int, int, double?> ohms) =>
        Pairs.Where(p => ohms(p.One, p.Other) is < CopperOhms);

    /// <summary>Three like legs and a fourth point: their own star point, or the core that one of them has worn through to.</summary>
    private static (LeadGroupKind Kind, int Middle, double LegToLeg)? Star(
        IReadOnlyList<int> points,
        int core,
        Func<int, int, double?> ohms
    )
    {
        foreach (var middle in points)
        {
            var legs = points.Where(p => p != middle).ToList();
            List<double> between =
            [
                ohms(legs[0], legs[1])!.Value,
                ohms(legs[0], legs[2])!.Value,
                ohms(legs[1], legs[2])!.Value,
            ];
            var toMiddle = legs.ConvertAll(l => ohms(l, middle)!.Value);
            if (!Alike(between))
            {
                continue;
            }

            var legToLeg = between.Average();
            if (Alike(toMiddle) && Math.Abs((2 * toMiddle.Average()) - legToLeg) <= Slack(legToLeg))
            {
                return (LeadGroupKind.StarPointOut, middle, legToLeg);
            }

            if (middle == core)
            {
                return (LeadGroupKind.ThreePhaseGrounded, middle, legToLeg);
            }
        }

        return null;
    }

    private static double Slack(double whole) => ContactOhms + (MeterShare * whole);

    private static bool Alike(List<double> figures) =>
        figures.Max() - figures.Min() <= Math.Min(ContactOhms, LegShare * figures.Max()) + (MeterShare * figures.Max());
}
