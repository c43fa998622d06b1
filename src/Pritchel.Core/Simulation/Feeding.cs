using Pritchel.Core.Faults;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Simulation;

/// <summary>What the battery feeds on the sound machine, and through what; each setting solved once.</summary>
public sealed class Feeding
{
    // Less than half of a 12 V battery's rest volts stands there by some load's leave, and not because it is fed.
    private const double FedVolts = 6;

    private readonly Circuit circuit;
    private readonly CircuitState state;
    private readonly Dictionary<(PartId? Opened, ControlSetting Setting), HashSet<int>> solved = [];

    /// <summary>Looks at a circuit.</summary>
    public Feeding(Circuit circuit)
    {
        this.circuit = circuit;
        state = new CircuitState(circuit) { FollowsWaves = false };
    }

    /// <summary>Nodes that the battery feeds in a setting: where a chafe would draw a fuse's current.</summary>
    public IReadOnlySet<int> In(ControlSetting setting) => Solved(null, setting);

    /// <summary>Nodes that are fed through a fuse or a breaker and by no other way in a setting; none where it passes nothing.</summary>
    public HashSet<int> Through(PartId fuse, ControlSetting setting)
    {
        var fed = new HashSet<int>(Solved(null, setting));
        fed.ExceptWith(Solved(fuse, setting));
        return fed;
    }

    /// <summary>A fuse's or breaker's terminals, the fed one first: as they are named where neither is fed.</summary>
    public (TerminalAddress Feed, TerminalAddress Load) Sides(PartId fuse, ControlSetting setting)
    {
        var part = circuit.Machine.Index.Part(fuse)!;
        var (first, last) = (part.At(part.Terminals[0]), part.At(part.Terminals[^1]));
        var fed = Solved(fuse, setting);
        return fed.Contains(circuit.NodeOf(last)) && !fed.Contains(circuit.NodeOf(first))
            ? (last, first)
            : (first, last);
    }

    private HashSet<int> Solved(PartId? opened, ControlSetting setting)
    {
        if (solved.TryGetValue((opened, setting), out var nodes))
        {
            return nodes;
        }

        var values = circuit.NominalParameters();
        if (
            opened is not null
            && circuit.Faults.FirstOrDefault(f =>
                f.Id.Of.Owner.Part == opened && f.Kind is FaultKind.Blown or FaultKind.Open
            )
                is { } gone
        )
        {
            circuit.Plant(gone, gone.Severity.At(1), values);
        }

        state.Begin(values);
        state.Move(setting);
        nodes =
        [
            .. Enumerable
                .Range(0, circuit.Network.NodeCount)
                .Where(n => state.Joined(n, circuit.Reference) && state.Drop(n, circuit.Reference) > FedVolts),
        ];
        solved.Add((opened, setting), nodes);
        return nodes;
    }
}
