using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>A path that a fault lays: a chafe, a short to a neighbour, a pin in the wrong cavity, a track that ignition jumps.</summary>
internal sealed class AddedPath(FaultId fault, LaidPath path) : Device
{
    private const int BrokenDown = 1;
    private ParameterId ohms;
    private BranchId branch;
    private StateId state;

    /// <summary>Its resistance.</summary>
    public ParameterId Ohms => ohms;

    /// <summary>Coupling whose halves it joins; null for none.</summary>
    public PartId? Through => path.Through;

    /// <summary>The fault that lays it.</summary>
    public FaultId Fault => fault;

    /// <summary>Whether its resistance is the fault's severity.</summary>
    public bool TakesSeverity => path.FixedOhms is null;

    public override bool IsActive => path.BreaksDownAt > 0;

    public override bool IsFast => true;

    public override void Declare(Declaration declaration)
    {
        var of = Owner.Of(fault).Element("path");
        ohms = declaration.Parameter(of, "ohms", path.FixedOhms ?? double.PositiveInfinity, Spread.None);
        branch = declaration.Branch(of, path.From, path.To);
        state = declaration.State(of);
    }

    public override void Stamp(CircuitState circuit) =>
        circuit.SetOhms(
            branch,
            path.BreaksDownAt == 0 || circuit[state] == BrokenDown ? circuit[ohms] : double.PositiveInfinity
        );

    /// <summary>A gap breaks down at its volts and goes out when nothing drives it; it is judged open at each new instant.</summary>
    public override Change Step(CircuitState circuit)
    {
        const double GoesOutUnder = 1;
        var volts = Math.Abs(circuit.Across(branch));
        return circuit[state] == BrokenDown
            ? volts < GoesOutUnder && circuit.Moment is Moment.Still
                ? Change.Switch(state, 0, 0)
                : Change.None
            : volts >= path.BreaksDownAt
                ? Change.Switch(state, BrokenDown, 0)
                : Change.None;
    }
}
