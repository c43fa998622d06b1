using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>A way to bring two sides together, weighed before anything is cut.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Cannot">Why it cannot be done here; null where it can.</param>
/// <param name="Permanent">Joints that cannot be taken apart again.</param>
/// <param name="Contacts">Contacts and terminals crimped or moved.</param>
/// <param name="NewWire">Metres of wire that must be bought and laid.</param>
/// <param name="Minutes">At the bench and in the bay: common practice, no source.</param>
/// <param name="Papers">Which papers stay true.</param>
/// <param name="Buys">What has to be bought.</param>
public sealed record JoiningWay(
    string Name,
    string? Cannot,
    int Permanent,
    int Contacts,
    Metres NewWire,
    Minutes Minutes,
    string Papers,
    string Buys
)
{
    /// <summary>Whether it can be undone without a trace.</summary>
    public bool ComesApart => Permanent == 0;
}

/// <summary>
/// Ways to bring two sides together, the gentlest first: an adapter between both plugs, contacts moved, splices, a loom of new
/// wires.
/// </summary>
public static class JoiningWays
{
    // Minutes each, setting up included: common practice, no source.
    private const double Begin = 10;
    private const double PerCrimp = 3;
    private const double PerMovedContact = 4;
    private const double PerSplice = 6;
    private const double PerNewWire = 12;
    private const double AdapterMetres = 0.3;

    /// <summary>The ways of a plan, by what is joined in it; by what is suggested where nothing is joined yet.</summary>
    public static IReadOnlyList<JoiningWay> Of(RewirePlan plan, IReadOnlyList<SuggestedJoin> suggested)
    {
        var joins = plan.Joins.Count > 0 ? [.. plan.Joins] : suggested.Select(s => s.Join).ToList();
        if (joins.Count == 0)
        {
            return [];
        }

        var ends = joins.SelectMany(j => j.Ends).Where(e => e.Wire is not null).ToList();
        var bare = ends.Where(e => !IsInPlug(plan, e)).ToList();
        var leads = joins.Count(j => j.Ends.Count > 1);
        var landed = joins.Count(j => j.Onto is not null);

        // One wire from part to part in place of each two leads that meet.
        var wires = joins.Sum(j => j.Onto is null ? j.Ends.Count - 1 : j.Ends.Count);
        var drawn = plan.Added is not null;
        var noPlugs =
            plan.Donor is null ? "One machine is joined to itself: there is no second plug to meet."
            : drawn ? "What comes in is new wire and has no plug."
            : bare.Count > 0 ? $"{bare.Count} of {ends.Count} ends are not in a plug."
            : null;
        var metres = ends.Select(e => plan.Side(e.Side)!.Machine.Index.Wire(e.Wire!.Value.Wire)!.LengthM).Sum();
        return
        [
            new JoiningWay(
                "Adapter between both plugs, nothing cut",
                noPlugs,
                0,
                2 * leads,
                new Metres(AdapterMetres * leads),
                new Minutes(Begin + (PerCrimp * 2 * leads) + (PerCrimp * landed)),
                "those of both sides; the adapter gets a table of its own",
                "the mating half of each plug, its contacts and seals"
            ),
            new JoiningWay(
                "Contacts moved to other cavities",
                noPlugs ?? (joins.Exists(j => j.Ends.Count > 2) ? "Some joins want three leads in one cavity." : null),
                0,
                leads + landed,
                new Metres(0),
                new Minutes(Begin + (PerMovedContact * leads) + (PerCrimp * landed)),
                "all but the plug’s chart, which is drawn anew",
                "the release tool; only where both plugs are of one family"
            ),
            new JoiningWay(
                "Leads cut and spliced",
                null,
                leads,
                landed,
                new Metres(drawn ? metres : 0),
                new Minutes(Begin + (PerSplice * leads) + (PerCrimp * landed)),
                "the machine’s up to the cut; the splice table goes with them",
                drawn ? "wire by the cut list, butts, sleeve" : "butts and sleeve"
            ),
            new JoiningWay(
                "A loom of new wires, from part to part",
                null,
                0,
                2 * wires,
                new Metres(metres),
                new Minutes(Begin + (PerNewWire * wires)),
                "none of the old along these leads: drawn anew",
                "wire by the spool, terminals, loom and tape"
            ),
        ];
    }

    private static bool IsInPlug(RewirePlan plan, EndKey end)
    {
        var machine = plan.Side(end.Side)!.Machine;
        var at = machine.Index.TerminalOf(end.Wire!.Value)!.Value;
        return machine.Index.PartAt(at)?.Kind == PartKinds.Coupling;
    }
}
