using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>
/// Something that conducts. A device names its nodes, parameters, branches and states once, in
/// <see cref="Declare"/>, then turns parameters and states into conductances in <see cref="Stamp"/>.
/// The solver knows devices only through this class.
/// </summary>
public abstract class Device
{
    /// <summary>Names what the device is made of, once, when a machine is compiled.</summary>
    public abstract void Declare(Declaration declaration);

    /// <summary>The part it is, or null for wires and mounts.</summary>
    public virtual PartId? PartId => null;

    /// <summary>Writes conductances and e.m.f.s for the present parameters, control positions and states.</summary>
    public abstract void Stamp(CircuitState state);

    /// <summary>Whether <see cref="Step"/> can ever ask for a change.</summary>
    public virtual bool IsActive => false;

    /// <summary>Whether it follows within a turn of the flywheel, as diodes do and relays do not.</summary>
    public virtual bool IsFast => false;

    /// <summary>After a solve: asks for a state to switch, or refines a nonlinear value.</summary>
    public virtual Change Step(CircuitState state) => Change.None;

    /// <summary>Whether its e.m.f. changes along a wave, so that it is stamped at every step.</summary>
    public virtual bool IsRotating => false;

    /// <summary>Carries what lags, such as a winding's current, from one step of a wave to the next.</summary>
    public virtual void Advance(CircuitState state) { }

    /// <summary>Seconds until it acts of itself, as a timer does; infinite when it waits for nothing.</summary>
    public virtual double Due(CircuitState state) => double.PositiveInfinity;

    /// <summary>Lets that much time pass; never more than <see cref="Due"/>.</summary>
    public virtual void Elapse(CircuitState state, double seconds) { }

    /// <summary>Why it does not do its work now, in words, or null when it does or has none.</summary>
    public virtual string? WhyNot(CircuitState state) => null;

    /// <summary>What an operator would see or hear of this device now.</summary>
    public virtual Effect Effect(CircuitState state) => Simulation.Effect.None;

    /// <summary>Contacts that its own coil works, for a chart of them; none for most.</summary>
    public virtual IReadOnlyList<CoilContact> CoilContacts => [];

    /// <summary>Faults that can sit in this device.</summary>
    public virtual IEnumerable<Fault> Faults() => [];
}

/// <summary>A contact worked by its device's own coil.</summary>
/// <param name="A">One terminal.</param>
/// <param name="B">The other.</param>
/// <param name="ClosedPulledIn">Whether it is closed while the coil holds it in; else it is closed at rest.</param>
public readonly record struct CoilContact(TerminalId A, TerminalId B, bool ClosedPulledIn);

/// <summary>Ways in which a device shows itself.</summary>
public enum EffectKind
{
    /// <summary>Shows nothing.</summary>
    None,

    /// <summary>Glows; level is volts as a share of its rating.</summary>
    Glows,

    /// <summary>Clicks when its state changes; level is 1 pulled in, 0 out.</summary>
    Clicks,

    /// <summary>Turns; level is speed as a share of healthy.</summary>
    Turns,

    /// <summary>Sounds; level is volts as a share of its rating.</summary>
    Sounds,

    /// <summary>Sparks; level is kilovolts to hand over kilovolts needed.</summary>
    Sparks,

    /// <summary>Lets the engine run when 1, stops it when 0: fuel and stop solenoids.</summary>
    LetsRun,

    /// <summary>Takes charge; level is amps into it.</summary>
    Charges,

    /// <summary>Works, as a clutch, pump or injector; level is volts as a share of what it needs.</summary>
    Works,

    /// <summary>Shows a reading, as a gauge; level is 0 to 1 of its scale.</summary>
    Reads,

    /// <summary>Holds, as a fuse or a breaker; level is 1 whole, 0 blown or tripped.</summary>
    Holds,
}

/// <summary>What an operator would see or hear of a device.</summary>
/// <param name="Kind">How it shows itself.</param>
/// <param name="Level">How much; see <see cref="EffectKind"/>.</param>
public readonly record struct Effect(EffectKind Kind, double Level)
{
    /// <summary>Shows nothing.</summary>
    public static readonly Effect None = new(EffectKind.None, 0);
}

/// <summary>What a device asks for after a solve.</summary>
/// <param name="Refined">A nonlinear value moved and must be solved again before states are judged.</param>
/// <param name="State">State to switch, when <see cref="Switches"/>.</param>
/// <param name="To">Value to give it.</param>
/// <param name="Milliseconds">How long the real thing takes; the fastest asked for goes first.</param>
public readonly record struct Change(bool Refined, StateId State, int To, double Milliseconds)
{
    /// <summary>Nothing to do.</summary>
    public static readonly Change None = new(false, new StateId(-1), 0, 0);

    /// <summary>A nonlinear value was moved; solve again.</summary>
    public static readonly Change Refine = new(true, new StateId(-1), 0, 0);

    /// <summary>Whether a state is to switch.</summary>
    public bool Switches => State.Index >= 0;

    /// <summary>Whether what it switches stays so until the case begins anew: a fuse, not a relay.</summary>
    public bool IsForGood { get; init; }

    /// <summary>Asks for a state to switch.</summary>
    public static Change Switch(StateId state, int to, double milliseconds) => new(false, state, to, milliseconds);
}
