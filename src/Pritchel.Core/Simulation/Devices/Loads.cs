using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>Anything that is one resistance between two terminals, with its open fault.</summary>
internal abstract class PlainLoad(Part part, string from, string to, double ohms, double openRate) : Device
{
    private protected Resistance Load { get; private set; } = null!;

    private protected Part Part => part;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration) =>
        Load = new Resistance(declaration, part, "ohms", from, to, ohms, Spread.Winding);

    public override void Stamp(CircuitState state) => Load.Stamp(state);

    /// <summary>How it fails when nothing goes through it.</summary>
    private protected virtual string OpenWords => "winding open";

    public override IEnumerable<Fault> Faults() => [Load.Gone("open", OpenWords, openRate)];
}

/// <summary>A load that works from some volts up: a clutch coil, a pump, an injector, a heater plug, a trim motor.</summary>
internal sealed class WorkingLoad(Part part, PartFigures figures)
    : PlainLoad(part, "+", "-", figures["ohms"], 2),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "load",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("ohms", 0.02, 100_000, 6), new ValueRule("worksAtVolts", 0.5, 48, 8.5) { Differs = 0.2 }],
            (part, figures) => new WorkingLoad(part, figures)
        );

    public override Effect Effect(CircuitState state) =>
        new(EffectKind.Works, Load.IsWhole(state) ? state.Heating(Load.Branch) / figures["worksAtVolts"] : 0);

    public override IEnumerable<Fault> Faults() =>
        [.. base.Faults(), Load.Shorted("shorted inside", 0.7, PartFault.DeadShort)];
}

/// <summary>An hour meter: a few milliamps while it counts, from about eight volts up (from memory).</summary>
internal sealed class HourMeter(Part part, PartFigures figures)
    : PlainLoad(part, "+", "-", figures["ohms"], 1),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "hour-meter",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("ohms", 10, 100_000, 900)],
            (part, figures) => new HourMeter(part, figures)
        );

    private const double CountsFromVolts = 8;

    public override Effect Effect(CircuitState state) =>
        new(EffectKind.Works, Load.IsWhole(state) ? state.Heating(Load.Branch) / CountsFromVolts : 0);
}

/// <summary>A buzzer or horn.</summary>
internal sealed class Buzzer(Part part, PartFigures figures)
    : PlainLoad(part, "+", "-", figures["ohms"], 2),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "buzzer",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("ohms", 1, 10_000, 240), new ValueRule("volts", 1, 48, 12) { Differs = 0 }],
            (part, figures) => new Buzzer(part, figures)
        );

    public override Effect Effect(CircuitState state) => new(EffectKind.Sounds, Load.Drive(state) / figures["volts"]);

    public override IEnumerable<Fault> Faults() =>
        [.. base.Faults(), Load.Shorted("shorted inside", 0.5, PartFault.DeadShort)];
}

/// <summary>A gauge: a coil between its feed and its sender, read by its share of the volts.</summary>
internal sealed class Gauge(Part part, PartFigures figures)
    : PlainLoad(part, "+", "S", figures["ohms"], 1),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "gauge",
            ["+", "S"],
            "exactly \"+\" (feed) and \"S\" (sender)",
            [new ValueRule("ohms", 1, 10_000, 90), new ValueRule("fullAmps", 0.001, 1, 0.12)],
            (part, figures) => new Gauge(part, figures)
        );

    public override Effect Effect(CircuitState state) =>
        new(EffectKind.Reads, Math.Clamp(Math.Abs(state.Through(Load.Branch)) / figures["fullAmps"], 0, 1));
}
