using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Jobs;

/// <summary>
/// The trial that proves a place before anything is renewed: a clip lead over it and the symptom goes, off and it comes
/// back. Offered only where the circuit, solved with the fault and the lead, says that it would.
/// </summary>
/// <param name="From">One end.</param>
/// <param name="To">The other.</param>
/// <param name="Jump">The lead.</param>
public sealed record ClipLead(PointId From, PointId To, Jump Jump)
{
    /// <summary>The lead for a fault, or null where none can stand in for what is missing.</summary>
    /// <param name="kit">The complaint's circuit and duty.</param>
    /// <param name="fault">What the verdict names.</param>
    public static ClipLead? For(DiagnosisKit kit, Fault fault)
    {
        var (circuit, table) = (kit.Circuit, kit.Table);
        var heavy = table.Effect == EffectKind.Turns && IsHeavy(circuit, fault);
        if (
            fault.Kind is not (FaultKind.Open or FaultKind.HighResistance)
            || table.Duty.Refuses
            || !table.Conditions[0].IsFree
            || circuit.Machine.PetrolVapour == true
            || table.Effect is EffectKind.Sparks or EffectKind.Charges
        )
        {
            return null;
        }

        var jump = new Jump(fault.Nodes.From, fault.Nodes.To, JumpKind.Lead) { IsHeavy = heavy };
        return Helps(kit, fault, jump) ? new ClipLead(Called(kit, jump.From), Called(kit, jump.To), jump) : null;
    }

    private static bool Helps(DiagnosisKit kit, Fault fault, Jump jump)
    {
        var (circuit, table) = (kit.Circuit, kit.Table);
        var @case = new Case
        {
            Circuit = circuit,
            Settings = DutyMoment.Settings(circuit, table.Duty),
            Faults = [new PlantedFault(fault, 1)],
        };
        var wired = @case.Wired;
        var state = new CircuitState(wired, wired.WithMeter(jump.From, jump.To));
        double Seen(Func<double, double> lead) =>
            jump.Seen(
                state,
                ohms => @case.Settle(state, () => state.ConnectMeter(0, lead(ohms))),
                wired.DeviceOf(table.Duty.Load),
                null,
                table.Meter
            );
        return Seen(ohms => ohms) >= 2 && Seen(_ => double.PositiveInfinity) < 2;
    }

    private static bool IsHeavy(Circuit circuit, Fault fault)
    {
        var cables = circuit
            .Machine.Wires.Where(w => w.Cable == true)
            .SelectMany(w => new[] { circuit.NodeOf(w.From.At), circuit.NodeOf(w.To.At) })
            .ToHashSet();
        return cables.Contains(fault.Nodes.From) || cables.Contains(fault.Nodes.To);
    }

    private static PointId Called(DiagnosisKit kit, int node) => kit.Points.At(node).Address;
}
