using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>What becomes of a wire in a cavity of a plug that is cut off.</summary>
public enum LeadFate
{
    /// <summary>No wire of this side is in it.</summary>
    Empty,

    /// <summary>Cut at length and joined.</summary>
    Joined,

    /// <summary>Cut and capped.</summary>
    Capped,

    /// <summary>Goes with what does not stay.</summary>
    Dropped,
}

/// <summary>One cavity of a plug that is cut off.</summary>
/// <param name="Cavity">As moulded.</param>
/// <param name="Fate">What becomes of its wire.</param>
/// <param name="End">The flagged end that it leaves; null where it leaves none.</param>
/// <param name="Join">Number of its join; null for none.</param>
/// <param name="Colours">Colours of its wire; none where it has none.</param>
public sealed record CutLead(string Cavity, LeadFate Fate, FlaggedEnd? End, int? Join, IReadOnlyList<string> Colours);

/// <summary>
/// A half of a plug that is cut off, cavity by cavity, in the order of its file. How its rows lie is not in a drawing: the moulded
/// numbers count, and from the other face every row runs the other way.
/// </summary>
/// <param name="Side">Whose it is.</param>
/// <param name="Plug">The coupling.</param>
/// <param name="Half">Name of the half, as the file has it.</param>
/// <param name="Leads">Its cavities.</param>
public sealed record CutPlug(SideKey Side, Part Plug, string Half, IReadOnlyList<CutLead> Leads)
{
    private const int LongestRow = 8;

    /// <summary>Its cavities in rows as seen from the wires' side; two where one would be too long.</summary>
    public IReadOnlyList<IReadOnlyList<CutLead>> FromTheWires =>
        [.. Leads.Chunk(Leads.Count > LongestRow ? (Leads.Count + 1) / 2 : Math.Max(1, Leads.Count))];

    /// <summary>The same rows as seen into its face: each runs the other way.</summary>
    public IReadOnlyList<IReadOnlyList<CutLead>> IntoItsFace =>
        [.. FromTheWires.Select(row => row.Reverse().ToArray())];
}

/// <summary>What is cut at each plug that does not stay: keep, join, cap or drop, lead by lead.</summary>
public static class CutMap
{
    /// <summary>Halves of plugs that are cut off, the host's first; those that leave nothing flagged are left out.</summary>
    public static IReadOnlyList<CutPlug> Of(
        RewirePlan plan,
        IReadOnlyList<FlaggedEnd> ends,
        IReadOnlyList<SpliceLine> lines
    )
    {
        var flagged = ends.ToDictionary(e => e.End);
        return
        [
            .. from side in plan.Sides
            from plug in side.Machine.Parts.Where(p => p.Kind == PartKinds.Coupling && !side.Has(p.Id))
            from half in Enumerable.Range(0, 2)
            let leads = Cavity.Of(plug).Select(c => Lead(side, c, half, flagged, lines)).ToList()
            where leads.Exists(l => l.End is not null)
            select new CutPlug(side.Key, plug, plug.Sides is { Count: 2 } names ? names[half] : "", leads),
        ];
    }

    private static CutLead Lead(
        RewireSide side,
        Cavity cavity,
        int half,
        Dictionary<EndKey, FlaggedEnd> flagged,
        IReadOnlyList<SpliceLine> lines
    )
    {
        var at = half == 0 ? cavity.A : cavity.B;
        var wires = side.Machine.Index.EndsAt(at).Select(e => e.Name).ToList();
        if (wires.Count == 0)
        {
            return new CutLead(cavity.Name, LeadFate.Empty, null, null, []);
        }

        var colours = side.Machine.Index.Wire(wires[0].Wire)!.Colours;
        var end = wires.Select(w => flagged.GetValueOrDefault(new EndKey(side.Key, w, null))).OfType<FlaggedEnd>();
        if (end.FirstOrDefault() is not { } left)
        {
            return new CutLead(cavity.Name, LeadFate.Dropped, null, null, colours);
        }

        var join = lines.FirstOrDefault(l => l.Join.Ends.Contains(left.End))?.Number;
        return new CutLead(cavity.Name, join is null ? LeadFate.Capped : LeadFate.Joined, left, join, colours);
    }
}
