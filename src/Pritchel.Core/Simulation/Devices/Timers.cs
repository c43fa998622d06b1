using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A timer relay: feed 30, output 87, trigger 15 against 31 (DIN 72552), one contact. How long and when is its kind's.
/// Time passes by <see cref="CircuitState.Elapse"/>.
/// </summary>
internal abstract class TimerRelay(Part part, PartFigures figures) : Device, IHidesInside
{
    private const double Milliseconds = 10;
    private const double TriggerVolts = 6;
    private const double ReleaseVolts = 3;
    private const int Fed = 1;

    private Resistance trigger = null!;
    private Resistance contact = null!;
    private ParameterId seconds;
    private StateId fed;
    private MemoryId left;

    private protected static string[] Terminals { get; } = ["15", "30", "31", "87"];

    private protected const string TerminalRule = "exactly \"15\", \"30\", \"31\" and \"87\"";

    private protected static IReadOnlyList<ValueRule> Values { get; } =
    [
        new ValueRule("seconds", 0.1, 3600, 8),
        new ValueRule("triggerOhms", 20, 100_000, 400),
        new ValueRule("contactOhms", 0.0005, 0.1, 0.006) { Differs = 0.6 },
    ];

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    /// <summary>Whether time runs from the trigger's going off, rather than its coming on.</summary>
    private protected abstract bool FromRelease { get; }

    /// <summary>Whether the contact is also closed while the trigger is fed.</summary>
    private protected abstract bool ClosedWhileFed { get; }

    public override void Declare(Declaration declaration)
    {
        trigger = new Resistance(declaration, part, "triggerOhms", "15", "31", figures["triggerOhms"], Spread.Winding);
        contact = new Resistance(declaration, part, "contactOhms", "30", "87", figures["contactOhms"], Spread.Contact);
        seconds = declaration.Parameter(part.Element(), "seconds", figures["seconds"], Spread.Winding);
        fed = declaration.State(part.Element());
        left = declaration.Memory(0);
    }

    public override void Stamp(CircuitState state)
    {
        trigger.Stamp(state);
        contact.Stamp(state, state[left] > 0 || (ClosedWhileFed && state[fed] == Fed));
    }

    public override Change Step(CircuitState state)
    {
        var now = trigger.Drive(state) >= (state[fed] == Fed ? ReleaseVolts : TriggerVolts);
        if (now == (state[fed] == Fed))
        {
            return Change.None;
        }

        state[left] = now != FromRelease ? state[seconds] : 0;
        return Change.Switch(fed, now ? Fed : 0, Milliseconds);
    }

    public override double Due(CircuitState state) => state[left] > 0 ? state[left] : double.PositiveInfinity;

    public override void Elapse(CircuitState state, double elapsed)
    {
        if (state[left] > 0)
        {
            state[left] = Math.Max(0, state[left] - elapsed);
        }
    }

    public override IEnumerable<Fault> Faults() =>
        [
            trigger.Gone("dead", "does not time", 2),
            contact.Gone("contact-open", "contact burnt away", 2),
            PartFault.Of(
                part,
                "endless",
                FaultKind.StuckClosed,
                "never times out",
                1,
                contact.Nodes,
                new ParameterChange(seconds, ChangeRule.Set, double.PositiveInfinity)
            ),
        ];
}

/// <summary>Closes when its trigger goes off, for its seconds: feeds a stop solenoid after key-off.</summary>
internal sealed class AfterRunTimer(Part part, PartFigures figures) : TimerRelay(part, figures), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "timer-after-release",
            Terminals,
            TerminalRule,
            Values,
            (part, figures) => new AfterRunTimer(part, figures)
        );

    private protected override bool FromRelease => true;

    private protected override bool ClosedWhileFed => false;
}

/// <summary>Closes when its trigger comes on, for its seconds: preheat.</summary>
internal sealed class PulseTimer(Part part, PartFigures figures) : TimerRelay(part, figures), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new("timer-pulse", Terminals, TerminalRule, Values, (part, figures) => new PulseTimer(part, figures));

    private protected override bool FromRelease => false;

    private protected override bool ClosedWhileFed => false;
}

/// <summary>Closed while its trigger is fed and its seconds after.</summary>
internal sealed class OffDelayTimer(Part part, PartFigures figures) : TimerRelay(part, figures), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new("timer-off-delay", Terminals, TerminalRule, Values, (part, figures) => new OffDelayTimer(part, figures));

    private protected override bool FromRelease => true;

    private protected override bool ClosedWhileFed => true;
}
