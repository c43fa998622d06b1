using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>Where a probe can be put.</summary>
/// <param name="Node">Node touched.</param>
/// <param name="Address">Its address in the machine.</param>
/// <param name="Name">"Start solenoid S", "wire 4 at key switch S, on its crimp".</param>
/// <param name="Where">Wire colour and place.</param>
/// <param name="Place">Place to be reached.</param>
/// <param name="Fiddly">Whether the metal is a wire's own crimp rather than a terminal.</param>
public sealed record ProbePoint(int Node, string Address, string Name, string Where, Place Place, bool Fiddly);

/// <summary>Probe points of a circuit: one per node, named by the handiest metal there.</summary>
public sealed class ProbePoints
{
    private readonly ProbePoint[] byNode;

    private ProbePoints(ProbePoint[] byNode, IReadOnlyList<ProbePoint> grounds)
    {
        this.byNode = byNode;
        Grounds = grounds;
    }

    /// <summary>Points by node.</summary>
    public IReadOnlyList<ProbePoint> All => byNode;

    /// <summary>Places for the black probe: battery negative, then each ground body. Tests across parts find the rest.</summary>
    public IReadOnlyList<ProbePoint> Grounds { get; }

    /// <summary>The point on a node.</summary>
    public ProbePoint At(int node) => byNode[node];

    /// <summary>Names every node of a circuit.</summary>
    public static ProbePoints Of(Circuit circuit)
    {
        var points = new ProbePoint[circuit.Network.NodeCount];
        for (var n = 0; n < points.Length; n++)
        {
            points[n] = Name(circuit, n);
        }

        var bodies = circuit
            .Machine.Parts.Where(p => string.Equals(p.Kind, PartKinds.Body, StringComparison.Ordinal))
            .Select(p => points[circuit.NodeOf($"{p.Id}.{p.Terminals[0]}")]);
        return new ProbePoints(points, [points[circuit.Reference], .. bodies]);
    }

    private static ProbePoint Name(Circuit circuit, int node)
    {
        var machine = circuit.Machine;
        var addresses = circuit.NodeAddresses[node];
        var terminal = addresses.FirstOrDefault(a => a.Contains('.', StringComparison.Ordinal));
        if (terminal is not null)
        {
            return AtTerminal(machine, node, terminal);
        }

        var end = addresses[0];
        var at = end.IndexOf('@', StringComparison.Ordinal);
        var wire = machine.Wires.First(w => string.Equals(w.Id, end[..at], StringComparison.Ordinal));
        var joined = string.Equals(end[(at + 1)..], "from", StringComparison.Ordinal) ? wire.From : wire.To;
        var place = MachineWords.PlaceOf(machine, MachineWords.PartAt(machine, joined.At));
        var metal = string.Equals(joined.Joint, "ring", StringComparison.Ordinal) ? "ring" : "crimp";
        return new ProbePoint(
            node,
            end,
            $"the {metal} itself {MachineWords.AtTerminal(machine, joined.At)}",
            $"{MachineWords.Colours(wire)} · {place.Name}",
            place,
            Fiddly: true
        );
    }

    private static ProbePoint AtTerminal(Machine machine, int node, string terminal)
    {
        var part = MachineWords.PartAt(machine, terminal);
        var place = MachineWords.PlaceOf(machine, part);
        if (string.Equals(part.Kind, PartKinds.Body, StringComparison.Ordinal))
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

        var wire = machine.Wires.FirstOrDefault(w =>
            string.Equals(w.From.At, terminal, StringComparison.Ordinal)
            || string.Equals(w.To.At, terminal, StringComparison.Ordinal)
        );
        var colour = wire is null ? "no wire" : $"{MachineWords.Colours(wire)}, left on";
        return new ProbePoint(
            node,
            terminal,
            MachineWords.Terminal(machine, terminal),
            $"{colour} · {place.Name}",
            place,
            Fiddly: string.Equals(part.Kind, "splice", StringComparison.Ordinal)
        );
    }
}
