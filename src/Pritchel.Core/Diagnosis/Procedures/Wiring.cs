using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>What procedures ask of a loom: where leads end, what comes off, what a place is called.</summary>
public static class Wiring
{
    /// <summary>Parts that a lead passes without ending: couplings and splices.</summary>
    public const PartTraits Passed = PartTraits.ComesApart | PartTraits.IsSplice;

    /// <summary>Switches and relays, off which a wire is pulled.</summary>
    public const PartTraits Contacts = PartTraits.IsSwitched | PartTraits.IsRelayed;

    /// <summary>Couplings of a machine.</summary>
    public static IEnumerable<Part> Couplings(this Circuit circuit) => circuit.PartsThat(PartTraits.ComesApart);

    /// <summary>Ends of wires whose terminal has the metal of one of some nodes.</summary>
    public static List<WireEndId> EndsAtNodes(this Circuit circuit, IReadOnlySet<int> nodes) =>
        [
            .. circuit
                .Machine.Wires.SelectMany(w => w.Ends)
                .Where(e => nodes.Contains(circuit.NodeOf(e.At)))
                .Select(e => e.Name),
        ];

    /// <summary>Ends of the wires on a part.</summary>
    public static List<WireEndId> EndsOn(this Machine machine, Part part) =>
        [.. machine.Wires.SelectMany(w => w.Ends).Where(e => e.At.Part == part.Id).Select(e => e.Name)];

    /// <summary>Terminals that wires, couplings and splices alone join to one, not through a coupling taken apart.</summary>
    public static HashSet<TerminalAddress> Reached(this Circuit circuit, TerminalAddress from, PartId? apart = null)
    {
        var machine = circuit.Machine;
        var reached = new HashSet<TerminalAddress> { from };
        var open = new Queue<TerminalAddress>([from]);
        while (open.TryDequeue(out var at))
        {
            var next = machine.Index.EndsAt(at).Select(e => machine.Index.TerminalOf(e.Name.Other)!.Value).ToList();
            if (at.Part != apart && circuit.Is(at.Part, PartTraits.ComesApart))
            {
                next.Add(at.Part.At(Cavity.OtherHalf(at.Terminal)));
            }

            foreach (var address in next.Where(reached.Add))
            {
                // A body joins everything that is bolted to it: a lead ends there.
                if (circuit.Is(address.Part, Passed))
                {
                    open.Enqueue(address);
                }
            }
        }

        return reached;
    }

    /// <summary>What a winding's leads end at, with the wire ends to pull off there.</summary>
    public static IEnumerable<(Part Fed, List<WireEndId> Ends)> FarEnds(
        this Circuit circuit,
        Part winding,
        IReadOnlyList<HashSet<TerminalAddress>> reached
    ) =>
        circuit
            .Machine.Wires.SelectMany(w => w.Ends)
            .Where(e =>
                reached.Any(r => r.Contains(e.At))
                && e.At.Part != winding.Id
                && !circuit.Is(e.At.Part, Passed | PartTraits.IsMetal)
            )
            .GroupBy(e => e.At.Part)
            .Select(g => (circuit.Machine.Index.Part(g.Key)!, g.Select(e => e.Name).ToList()));

    /// <summary>Whether a lead goes on to an address of another part where a probe finds a terminal.</summary>
    public static bool LeadsTo(this Circuit circuit, TerminalAddress address, TerminalAddress from) =>
        address.Part != from.Part && !circuit.Is(address.Part, PartTraits.IsSplice | PartTraits.IsMetal);

    /// <summary>
    /// The one lead to ground, or every lead to every other, in lists in which no point is under red here and under black
    /// there.
    /// </summary>
    public static IEnumerable<List<(int Red, int Black)>> Pairs(IReadOnlyList<int> leads, int ground) =>
        leads.Count == 1
            ?
            [
                [(leads[0], ground)],
            ]
            : Enumerable
                .Range(1, Math.Max(0, leads.Count - 1))
                .Select(i => leads.Take(i).Select(l => (l, leads[i])).ToList());

    /// <summary>Leads of a winding, its case left out, and the node that they are read to when there is only one.</summary>
    public static (List<TerminalAddress> Leads, int Ground) LeadsOf(this Circuit circuit, Part winding)
    {
        var metal = new TerminalId("case");
        return (
            [.. winding.Terminals.Where(t => t != metal).Select(winding.At)],
            winding.Terminals.Contains(metal) ? circuit.NodeOf(winding.At(metal)) : circuit.Reference
        );
    }

    /// <summary>What a wire is called among others.</summary>
    public static string Called(Wire wire) => $"{string.Join('/', wire.Colours)} wire {wire.Id}";

    /// <summary>How pulling a wire off a part is said.</summary>
    public static string Pulled(Wire wire, Part at) => $", {Called(wire)} off the {at.Name}";

    /// <summary>
    /// Wires that a fuse alone feeds, pulled off where they end: at a switch, a relay, or whatever uses what it feeds.
    /// </summary>
    public static IEnumerable<(WireEndId End, string Words)> LeavingGuarded(TestedDuty tested)
    {
        var (circuit, machine) = (tested.Circuit, tested.Machine);
        var guarded = tested.Feeding.Through(tested.Duty.Load, tested.Own);
        return from wire in machine.Wires
            from end in wire.Ends
            where
                end.At.Part != tested.Duty.Load
                && guarded.Contains(circuit.NodeOf(end.At))
                && !circuit.Is(end.At.Part, Passed | PartTraits.IsMetal)
            select (end.Name, Pulled(wire, machine.Index.PartAt(end.At)!));
    }

    /// <summary>What a node is called.</summary>
    public static string Called(this Circuit circuit, int node)
    {
        var terminal = circuit.TerminalsAt(node).Select(t => (TerminalAddress?)t).FirstOrDefault();
        return terminal is { } at ? MachineWords.Terminal(circuit.Machine, at) : circuit.NodePoints[node][0].ToString();
    }
}
