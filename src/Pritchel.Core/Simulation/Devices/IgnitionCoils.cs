using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// An ignition coil. Discharged into, its volts come out in its ratio; fed and cut off, it gives in proportion to the amps
/// that were cut off.
/// </summary>
internal sealed class IgnitionCoil(Part part, PartFigures figures) : Device, INamedDevice, IIgnition, ISparkTested
{
    public static DeviceKind Kind { get; } =
        new(
            "ignition-coil",
            ["+", "-"],
            "\"+\" and \"-\", and \"ht\" where its lead is on the drawing",
            [
                // Primary 0.02–1 ohm discharged into, some ohms fed from a battery: common practice, no source.
                new ValueRule("primaryOhms", 0.02, 20, 3),
                new ValueRule("ratio", 10, 300, 90),
                new ValueRule("fullAmps", 0.2, 20, 3),
                new ValueRule("fullKilovolts", 2, 60, 22),
                .. HighTension.Values,
            ],
            (part, figures) => new IgnitionCoil(part, figures)
        )
        {
            OptionalTerminals = ["ht"],
        };

    // Less than this is rounding, not a current that was let through.
    private const double NoAmps = 1e-6;

    private const double VoltsInAKilovolt = 1000;

    private Resistance primary = null!;
    private HighTension high = null!;
    private ParameterId turns;
    private SourceId flyback;
    private MemoryId dwelt;

    public override PartId? PartId => part.Id;

    public override bool IsActive => true;

    /// <inheritdoc/>
    public IEnumerable<ParameterId> ReplacedBy(SparkTesterAt at) => high.ReplacedBy(at);

    public override void Declare(Declaration declaration)
    {
        primary = new Resistance(declaration, part, "primaryOhms", "+", "-", figures["primaryOhms"], Spread.Winding);
        turns = declaration.Parameter(part.Element(), "turnsShare", 1, Spread.None);
        flyback = declaration.Source(part.Element("flyback"), part.At("-"), part.At("+"));
        high = new HighTension(declaration, part, figures, "-");
        dwelt = declaration.Memory(0);
    }

    public override void Stamp(CircuitState state)
    {
        // Cut off, the primary drives its own far end up: the kilovolts that come of it, over the ratio of turns.
        var cutOff = state.Moment == Moment.Firing && state[dwelt] > NoAmps;
        primary.Stamp(state, closed: !cutOff);
        state.SetSource(
            flyback,
            cutOff ? Fed(state[dwelt]) * VoltsInAKilovolt / figures["ratio"] * state[turns] : 0,
            cutOff ? state[primary.Ohms] : double.PositiveInfinity
        );
        high.Stamp(state);
    }

    public void Observe(CircuitState state)
    {
        if (state.Moment == Moment.Positive)
        {
            state[dwelt] = Math.Abs(state.Through(primary.Branch));
        }
        else if (state.Moment == Moment.Firing)
        {
            var goesOn = Math.Abs(state.Through(flyback)) + Math.Abs(state.Through(primary.Branch));
            var fed = Fed(Math.Max(0, state[dwelt] - goesOn));
            var discharged = state[dwelt] > NoAmps ? 0 : primary.Drive(state) * figures["ratio"] / VoltsInAKilovolt;
            high.Fire(state, Math.Max(fed, discharged) * state[turns]);
        }
    }

    private double Fed(double amps) => figures["fullKilovolts"] * Math.Min(1, amps / figures["fullAmps"]);

    public override Effect Effect(CircuitState state) => high.Effect(state);

    public override string? WhyNot(CircuitState state) => high.WhyNot(state);

    public override IEnumerable<Fault> Faults() =>
        [
            primary.Gone("open", "primary open", 2),
            PartFault.Of(
                part,
                "turns",
                FaultKind.ShortedWinding,
                "turns shorted",
                1.5,
                primary.Nodes,
                new ParameterChange(primary.Ohms, ChangeRule.MultiplyBySeverity),
                new ParameterChange(turns, ChangeRule.MultiplyBySeverity)
            ) with
            {
                Severity = new Severity(0.6, 0.1),
            },
            PartFault.Of(
                part,
                "wrong-coil",
                FaultKind.WrongPart,
                "a coil for another kind of ignition is fitted",
                0.3,
                primary.Nodes,
                new ParameterChange(primary.Ohms, ChangeRule.MultiplyBySeverity),
                new ParameterChange(turns, ChangeRule.Set, 0.3)
            ) with
            {
                Severity = new Severity(4, 12),
                Weakness = Weakness.RecentWork,
            },
            .. high.Faults(),
        ];
}

/// <summary>An exciter winding on the flywheel: hundreds of volts for a capacitor-discharge unit.</summary>
internal sealed class ExciterWinding(Part part, PartFigures figures) : LoneIgnitionWinding(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "exciter-winding",
            ["out", "case"],
            "exactly \"out\" and \"case\"",
            [
                // 100 ohm to several kilohm, hundreds of volts peak: common practice, no source.
                new ValueRule("ohms", 20, 20_000, 500),
                new ValueRule("peakVoltsPer1000Rpm", 5, 2000, 300),
                new ValueRule("reactancePer1000Rpm", 0, 50_000, 900),
            ],
            (part, figures) => new ExciterWinding(part, figures)
        );

    private protected override string Words => "winding";

    private protected override IgnitionWinding Make(Declaration declaration) =>
        new(
            declaration,
            Part,
            ("", "out", "case"),
            figures["peakVoltsPer1000Rpm"],
            figures["ohms"],
            figures["reactancePer1000Rpm"]
        );
}

/// <summary>A pickup: a small pulse that says when.</summary>
internal sealed class Pickup(Part part, PartFigures figures) : LoneIgnitionWinding(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "pickup",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [
                // 15–1500 ohm, about 0.5 V peak and up at cranking: common practice, no source.
                new ValueRule("ohms", 5, 5000, 200),
                new ValueRule("peakVoltsPer1000Rpm", 0.2, 200, 4),
            ],
            (part, figures) => new Pickup(part, figures)
        );

    private protected override string Words => "winding";

    private protected override IgnitionWinding Make(Declaration declaration) =>
        new(declaration, Part, ("", "+", "-"), figures["peakVoltsPer1000Rpm"], figures["ohms"], 0);
}

/// <summary>A part that is one ignition winding.</summary>
internal abstract class LoneIgnitionWinding(Part part) : Device, INeedsEngine
{
    private IgnitionWinding winding = null!;

    private protected Part Part => part;

    private protected abstract string Words { get; }

    public override PartId? PartId => part.Id;

    public override bool IsActive => true;

    public override bool IsRotating => true;

    public override void Declare(Declaration declaration) => winding = Make(declaration);

    public override void Stamp(CircuitState state) => winding.Stamp(state);

    public override IEnumerable<Fault> Faults() => winding.Faults("", Words);

    private protected abstract IgnitionWinding Make(Declaration declaration);
}
