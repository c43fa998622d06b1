using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Where a probe can be put.</summary>
/// <param name="Node">Node touched.</param>
/// <param name="Address">What it is known by.</param>
/// <param name="Name">"Start solenoid S", "wire 4 at key switch S, on its crimp".</param>
/// <param name="Where">Wire colour and place.</param>
/// <param name="Place">Place to be reached.</param>
/// <param name="Fiddly">Whether the metal is a wire's own crimp rather than a terminal.</param>
public sealed record ProbePoint(int Node, PointId Address, string Name, string Where, Place Place, bool Fiddly)
{
    /// <summary>Whether it is inside a part, where no probe comes: a stator's star point.</summary>
    public bool IsInside { get; init; }
}

/// <summary>Probe points of a circuit: one per node, named by the handiest metal there.</summary>
public sealed class ProbePoints
{
    private readonly ProbePoint[] byNode;

    private ProbePoints(ProbePoint[] byNode, IReadOnlyList<ProbePoint> grounds)
    {
        this.byNode = byNode;
        Grounds = grounds;
    }

    /// <summary>Points that a probe comes to, by node.</summary>
    public IEnumerable<ProbePoint> All => byNode.Where(p => !p.IsInside);

    /// <summary>Places for the black probe: battery negative, then each ground body. Tests across parts find the rest.</summary>
    public IReadOnlyList<ProbePoint> Grounds { get; }

    /// <summary>The point on a node, inside a part or not.</summary>
    public ProbePoint At(int node) => byNode[node];

    /// <summary>Names every node of a circuit.</summary>
    public static ProbePoints Of(Circuit circuit)
    {
        var points = new ProbePoint[circuit.Network.NodeCount];
        for (var n = 0; n < points.Length; n++)
        {
            points[n] = Name(circuit, n);
        }

        var bodies = circuit.PartsThat(PartTraits.IsMetal).Select(p => points[circuit.NodeOf(p.At(p.Terminals[0]))]);
        return new ProbePoints(points, [points[circuit.Reference], .. bodies]);
    }

    private static ProbePoint Name(Circuit circuit, int node)
    {
        var machine = circuit.Machine;
        if (circuit.TerminalsAt(node).Select(t => (TerminalAddress?)t).FirstOrDefault() is { } terminal)
        {
            return AtTerminal(circuit, node, terminal);
        }

        var end = circuit.NodePoints[node][0].WireEnd!.Value;
        var wire = machine.Index.Wire(end.Wire)!;
        var joined = wire.End(end.Side);
        var place = MachineWords.PlaceOf(machine, MachineWords.PartAt(machine, joined.At));
        return new ProbePoint(
            node,
            end,
            $"the {JointKinds.Named(joined.Joint)!.Metal} itself {MachineWords.AtTerminal(machine, joined.At)}",
            $"{MachineWords.Colours(wire)} · {place.Name}",
            place,
            Fiddly: true
        );
    }

    private static ProbePoint AtTerminal(Circuit circuit, int node, TerminalAddress terminal)
    {
        var machine = circuit.Machine;
        var part = MachineWords.PartAt(machine, terminal);
        var place = MachineWords.PlaceOf(machine, part);
        if (circuit.Is(part.Id, PartTraits.IsMetal))
        {
            return new ProbePoint(
                node,
                terminal,
                $"{part.Name}, bare metal",
                $"not painted metal · {place.Name}",
                place,
                Fiddly: false
            );
        }

        var wire = machine.Index.EndsAt(terminal).Select(e => e.Wire).FirstOrDefault();
        var colour = wire is null ? "no wire" : $"{MachineWords.Colours(wire)}, left on";
        return new ProbePoint(
            node,
            terminal,
            MachineWords.Terminal(machine, terminal),
            $"{colour} · {place.Name}",
            place,
            Fiddly: circuit.Is(part.Id, PartTraits.IsSplice)
        )
        {
            IsInside = !part.Terminals.Contains(terminal.Terminal),
        };
    }
}
