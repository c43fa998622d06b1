using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Circuits.Devices;

/// <summary>Anything that is, at rest, one resistance between two terminals, with its open and shorted faults.</summary>
internal abstract class PlainLoad(Part part, string from, string to, double ohms, double openRate) : Device
{
    private ParameterId value;
    private BranchId branch;
    private (int, int) nodes;

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        value = declaration.Parameter(part.Id + "/ohms", ohms, Spread.Winding);
        branch = declaration.Branch(part.Id, $"{part.Id}.{from}", $"{part.Id}.{to}");
        nodes = (declaration.Node($"{part.Id}.{from}"), declaration.Node($"{part.Id}.{to}"));
    }

    public override void Stamp(CircuitState state) => state.SetOhms(branch, state[value]);

    public override IEnumerable<Fault> Faults()
    {
        yield return new Fault
        {
            Id = part.Id + "/open",
            Kind = FaultKind.Open,
            Words = part.Name + ": winding open",
            Repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ReplacePart, part.Place),
            Rate = openRate,
            Changes = [new(value, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
    }
}

/// <summary>A fuel-cut solenoid: a coil from its lead to its own metal.</summary>
internal sealed class FuelCutSolenoid(Part part, PartFigures figures)
    : PlainLoad(part, "in", "case", figures["coilOhms"], 3),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "fuel-cut-solenoid",
            ["in", "case"],
            "exactly \"in\" and \"case\"",
            [new ValueRule("coilOhms", 1, 500, 14)],
            (part, figures) => new FuelCutSolenoid(part, figures)
        );
}

/// <summary>An hour meter: a few milliamps while it counts.</summary>
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
}

/// <summary>A flywheel magneto's kill lead at rest: the primary winding to the block.</summary>
internal sealed class Magneto(Part part, PartFigures figures)
    : PlainLoad(part, "kill", "case", figures["primaryOhms"], 2),
        INamedDevice,
        IKillable
{
    public KillTerminal Terminal(Circuit circuit) =>
        new(circuit.NodeOf(PartId + ".kill"), circuit.NodeOf(PartId + ".case"), Faults().First());

    public static DeviceKind Kind { get; } =
        new(
            "magneto",
            ["kill", "case"],
            "exactly \"kill\" and \"case\"",
            [
                // Primary 0.2–1.5 ohm: common practice, no source.
                new ValueRule("primaryOhms", 0.05, 50, 0.6),
            ],
            (part, figures) => new Magneto(part, figures)
        );
}

/// <summary>A charge winding with one end on the block, at rest: its copper.</summary>
internal sealed class ChargeWinding(Part part, PartFigures figures)
    : PlainLoad(part, "out", "case", figures["ohms"], 2),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "charge-winding",
            ["out", "case"],
            "exactly \"out\" and \"case\"",
            [new ValueRule("ohms", 0.05, 50, 0.4)],
            (part, figures) => new ChargeWinding(part, figures)
        );
}

/// <summary>A regulator–rectifier with the engine at rest: its diodes hold the battery off; a shorted one does not.</summary>
internal sealed class Rectifier(Part part) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "rectifier",
            ["ac", "dc", "case"],
            "exactly \"ac\", \"dc\" and \"case\"",
            [],
            (part, _) => new Rectifier(part)
        );

    // A sound diode's reverse leakage, microamps, is left out.
    private const double BlockingOhms = double.PositiveInfinity;
    private ParameterId ohms;
    private BranchId branch;
    private (int, int) nodes;

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        ohms = declaration.Parameter(part.Id + "/ohms", BlockingOhms, Spread.None);
        branch = declaration.Branch(part.Id, part.Id + ".dc", part.Id + ".ac");
        declaration.Node(part.Id + ".case");
        nodes = (declaration.Node(part.Id + ".dc"), declaration.Node(part.Id + ".ac"));
    }

    public override void Stamp(CircuitState state) => state.SetOhms(branch, state[ohms]);

    public override IEnumerable<Fault> Faults()
    {
        yield return new Fault
        {
            Id = part.Id + "/shorted",
            Kind = FaultKind.StuckClosed,
            Words = part.Name + ": diode shorted",
            Repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ReplacePart, part.Place),
            Rate = 1,
            Severity = new Severity(0.02, 0.1),
            Changes = [new(ohms, ChangeRule.SetToSeverity)],
            Nodes = nodes,
        };
    }
}

/// <summary>A pressure switch to ground that is closed while the engine stands still: an oil alarm.</summary>
internal sealed class PressureSwitch(Part part) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "pressure-switch",
            ["out", "case"],
            "exactly \"out\" and \"case\"",
            [],
            (part, _) => new PressureSwitch(part)
        );

    private ParameterId ohms;
    private BranchId branch;
    private (int, int) nodes;

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        ohms = declaration.Parameter(part.Id + "/ohms", 0.05, Spread.Contact);
        branch = declaration.Branch(part.Id, part.Id + ".out", part.Id + ".case");
        nodes = (declaration.Node(part.Id + ".out"), declaration.Node(part.Id + ".case"));
    }

    public override void Stamp(CircuitState state) => state.SetOhms(branch, state[ohms]);

    public override IEnumerable<Fault> Faults()
    {
        yield return new Fault
        {
            Id = part.Id + "/open",
            Kind = FaultKind.Open,
            Words = part.Name + ": never closes",
            Repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ReplacePart, part.Place),
            Rate = 2,
            Changes = [new(ohms, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
    }
}
