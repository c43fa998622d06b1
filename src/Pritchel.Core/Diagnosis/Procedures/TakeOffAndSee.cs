using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>
/// A lamp that is lit, a horn that sounds, a starter or an accessory that works when it must not: the lead off the switch, the
/// sender or the coil that commands it, or a coupling apart, and see. What still does it lies on this side of what came off.
/// </summary>
public sealed class TakeOffAndSee : Procedure
{
    private const int MostEnds = 6;
    private const int MostCouplings = 3;
    private const double FedShare = 0.5;

    /// <inheritdoc/>
    public override string Key => "take-off-and-see";

    /// <inheritdoc/>
    public override string Why => "what still does it with the lead off lies on this side of it, what stops beyond";

    /// <inheritdoc/>
    public override int Rank => 500;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (
            !tested.Duty.Refuses
            || !tested.HasBattery
            || tested.Effect is not (EffectKind.Glows or EffectKind.Sounds or EffectKind.Works or EffectKind.Turns)
        )
        {
            yield break;
        }

        var (circuit, machine) = (tested.Circuit, tested.Machine);
        var commanding = Commanding(tested);
        var ends =
            from wire in machine.Wires
            where wire.Cable != true
            from end in wire.Ends
            where
                commanding.ContainsKey(circuit.NodeOf(end.At))
                && end.At.Part != tested.Duty.Load
                && !circuit.Is(end.At.Part, Wiring.Passed | PartTraits.IsMetal | PartTraits.IsOneWay)
                && Case.CanComeOff(circuit, end.Name)
            orderby commanding[circuit.NodeOf(end.At)]
            select (Off: (Disconnection)end.Name, Words: Wiring.Pulled(wire, machine.Index.PartAt(end.At)!)[2..]);
        var couplings = circuit
            .Couplings()
            .Where(c => c.Addresses.Any(a => commanding.ContainsKey(circuit.NodeOf(a))))
            .Select(c => (Off: (Disconnection)c.Id, Words: $"{c.Name} apart"));
        foreach (var (off, words) in ends.Take(MostEnds).Concat(couplings.Take(MostCouplings)))
        {
            yield return Seen(tested, off, words);
        }
    }

    private static Condition Seen(TestedDuty tested, Disconnection off, string words)
    {
        var load = tested.Load.Addresses.Select(a => tested.Circuit.NodeOf(a)).ToList();
        (int, int)[] pairs = [(load[0], load[^1])];
        var condition =
            tested.Duty.Speed == DutySpeed.Rest
                ? tested.In(tested.Own) with
                {
                    Observable = LoadSeen.Instance,
                    Pairs = pairs,
                }
                : tested.Turning(tested.Own, tested.Duty.Speed, LoadSeen.Instance, pairs, "");
        return condition with
        {
            Off = [off],
            Words =
                tested.Duty.Speed == DutySpeed.Rest
                    ? $"{words} · {tested.Own.Words(tested.Machine)}"
                    : $"{words} before the engine is started, then {SpeedWords.Of(tested.Duty.Speed)} · {tested.Own.Words(tested.Machine)}",
        };
    }

    /// <summary>
    /// Nodes by which the load is worked, with how far each is from it: the loom's metal at its terminals, then what diodes and
    /// relays join to that, and so on; without what is ground anyway and what a bulb finds fed.
    /// </summary>
    private static Dictionary<int, int> Commanding(TestedDuty tested)
    {
        var circuit = tested.Circuit;
        var ground = circuit.Topology.Ground();
        var passing = tested.Machine.Parts.Where(p => Passes(circuit, p)).Select(Nodes).ToList();
        var found = new Dictionary<int, int>();
        var next = tested.LineParts.SelectMany(p => Nodes(tested.Machine.Index.Part(p)!)).ToList();
        for (var far = 0; next.Count > 0; far++)
        {
            // Asked once for each node: a bulb is a solve of its own.
            next = [.. next.Distinct().Where(n => !found.ContainsKey(n) && !ground.Contains(n) && !IsFed(tested, n))];
            var metal = circuit.Topology.MetalOf(next);
            foreach (var node in metal)
            {
                found.TryAdd(node, far);
            }

            next = [.. passing.Where(p => p.Exists(metal.Contains)).SelectMany(p => p).Except(found.Keys)];
        }

        return found;

        List<int> Nodes(Part part) => [.. part.Addresses.Select(a => circuit.NodeOf(a))];
    }

    /// <summary>Whether what one of a part's terminals is at says something of the others: a diode, or a coil with its contacts.</summary>
    private static bool Passes(Circuit circuit, Part part) =>
        circuit.Is(part.Id, PartTraits.IsOneWay)
        || (circuit.HasDevice(part.Id) && circuit.DeviceOf(part.Id).CoilContacts.Count > 0);

    private static bool IsFed(TestedDuty tested, int node)
    {
        var circuit = tested.Circuit;
        var state = new CircuitState(circuit, circuit.WithMeter(node, circuit.Reference)) { FollowsWaves = false };
        state.Begin(circuit.NominalParameters());
        state.ConnectMeter(0, Jump.BulbOhms);
        state.Move(tested.Own);
        var battery = circuit.PartsThat(PartTraits.StoresCharge).First();
        return state.Drop(node, circuit.Reference)
            > FedShare * state.Drop(circuit.NodeOf(battery.At("+")), circuit.NodeOf(battery.At("-")));
    }
}
