using Pritchel.Core.Faults;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Simulation;

/// <summary>What the battery feeds on the sound machine, and through what.</summary>
public static class Feeding
{
    // Less than half of a 12 V battery's rest volts stands there by some load's leave, and not because it is fed.
    private const double FedVolts = 6;

    /// <summary>Nodes that the battery feeds on the sound machine in a setting: where a chafe would draw a fuse's current.</summary>
    public static HashSet<int> Fed(this Circuit circuit, ControlSetting setting) => Fed(circuit, setting, null);

    /// <summary>Nodes that are fed through a fuse or a breaker and by no other way in a setting; none where it passes nothing.</summary>
    public static HashSet<int> FedThrough(this Circuit circuit, PartId fuse, ControlSetting setting)
    {
        var fed = Fed(circuit, setting, null);
        fed.ExceptWith(Fed(circuit, setting, Opened(circuit, fuse)));
        return fed;
    }

    /// <summary>A fuse's or breaker's terminals, the fed one first: as they are named where neither is fed.</summary>
    public static (TerminalAddress Feed, TerminalAddress Load) Sides(
        this Circuit circuit,
        PartId fuse,
        ControlSetting setting
    )
    {
        var part = circuit.Machine.Index.Part(fuse)!;
        var (first, last) = (part.At(part.Terminals[0]), part.At(part.Terminals[^1]));
        var fed = Fed(circuit, setting, Opened(circuit, fuse));
        return fed.Contains(circuit.NodeOf(last)) && !fed.Contains(circuit.NodeOf(first))
            ? (last, first)
            : (first, last);
    }

    private static Fault? Opened(Circuit circuit, PartId fuse) =>
        circuit.Faults.FirstOrDefault(f => f.Id.Of.Owner.Part == fuse && f.Kind is FaultKind.Blown or FaultKind.Open);

    private static HashSet<int> Fed(Circuit circuit, ControlSetting setting, Fault? planted)
    {
        var state = new CircuitState(circuit) { FollowsWaves = false };
        var values = circuit.NominalParameters();
        if (planted is not null)
        {
            circuit.Plant(planted, planted.Severity.At(1), values);
        }

        state.Begin(values);
        state.Move(setting);
        return
        [
            .. Enumerable
                .Range(0, circuit.Network.NodeCount)
                .Where(n => state.Joined(n, circuit.Reference) && state.Drop(n, circuit.Reference) > FedVolts),
        ];
    }
}
