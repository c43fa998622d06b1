using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A remote start solenoid: one coil from its small post to its own metal, which moves one heavy contact. It
/// pulls in at one voltage and lets go at a lower one.
/// </summary>
internal sealed class StartSolenoid(Part part, PartFigures figures) : Device, INamedDevice
{
    private const double Milliseconds = 15;
    private const int In = 1;

    public static DeviceKind Kind { get; } =
        new(
            "start-solenoid",
            ["B", "M", "S", "case"],
            "exactly \"B\", \"M\", \"S\" and \"case\"",
            [
                // Coil 3–6 ohm, pulls in by 7–8 V, holds to 2–4 V: common practice, no source.
                new ValueRule("coilOhms", 0.2, 100, 4.2),
                new ValueRule("pullInVolts", 1, 24, 7.5) { Differs = 0.3 },
                new ValueRule("dropOutVolts", 0.2, 20, 3),
                new ValueRule("contactOhms", 0.00005, 0.01, 0.0006) { Differs = 0.6 },
            ],
            (part, figures) => new StartSolenoid(part, figures)
        );

    private ParameterId coil;
    private ParameterId contact;
    private ParameterId welded;
    private ParameterId pullIn;
    private BranchId coilBranch;
    private BranchId contactBranch;
    private StateId plunger;
    private (int, int) coilNodes;
    private (int, int) contactNodes;

    public override bool IsActive => true;

    public override IReadOnlyList<CoilContact> CoilContacts => [new(new("B"), new("M"), true)];

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        coil = declaration.Parameter(part.Element(), "coilOhms", figures["coilOhms"], Spread.Winding);
        contact = declaration.Parameter(part.Element(), "contactOhms", figures["contactOhms"], Spread.Contact);
        welded = declaration.Parameter(part.Element(), "welded", 0, Spread.None);
        pullIn = declaration.Parameter(part.Element(), "pullInVolts", figures["pullInVolts"], new Spread(0.06, 0, 0));
        coilBranch = declaration.Branch(part.Element("coil"), part.At("S"), part.At("case"), BranchRole.Coil);
        contactBranch = declaration.Branch(part.Element("contact"), part.At("B"), part.At("M"), BranchRole.Contact);
        plunger = declaration.State(part.Element());
        coilNodes = (declaration.Node(part.At("S")), declaration.Node(part.At("case")));
        contactNodes = (declaration.Node(part.At("B")), declaration.Node(part.At("M")));
    }

    public override void Stamp(CircuitState state)
    {
        state.SetOhms(coilBranch, state[coil]);
        var closed = state[plunger] == In || state[welded] > 0;
        state.SetOhms(contactBranch, closed ? state[contact] : double.PositiveInfinity);
    }

    public override Change Step(CircuitState state)
    {
        // An open coil pulls nothing, whatever the volts across it; nor does a shorted one.
        var volts =
            double.IsInfinity(state[coil]) || state[coil] < PartFault.ShortedShare * figures["coilOhms"]
                ? 0
                : Math.Abs(state.Across(coilBranch));
        if (state[plunger] == In)
        {
            var holds = figures["dropOutVolts"] * (state[pullIn] / figures["pullInVolts"]);
            return volts < holds ? Change.Switch(plunger, 0, Milliseconds) : Change.None;
        }

        return volts >= state[pullIn] ? Change.Switch(plunger, In, Milliseconds) : Change.None;
    }

    public override Effect Effect(CircuitState state) => new(EffectKind.Clicks, state[plunger]);

    public override IEnumerable<Fault> Faults()
    {
        var repair = part.Repaired(RepairKind.ReplacePart);
        yield return new Fault
        {
            Id = part.Fault("coil-open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": coil open",
            Repair = repair,
            Rate = 4,
            Changes = [new(coil, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = coilNodes,
        };
        yield return PartFault.Shorted(part, "coil shorted", 0.5, coilNodes, coil);
        yield return new Fault
        {
            Id = part.Fault("contact-open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": contacts burnt away",
            Repair = repair,
            Rate = 4,
            Changes = [new(contact, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = contactNodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("contact-resistive"),
            Kind = FaultKind.HighResistance,
            Words = part.Name + ": contacts burnt",
            Repair = repair,
            Rate = 4,
            Severity = new Severity(0.02, 10),
            Changes = [new(contact, ChangeRule.AddSeverity)],
            Nodes = contactNodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("welded"),
            Kind = FaultKind.StuckClosed,
            Words = part.Name + ": contacts welded",
            Repair = repair,
            Rate = 1,
            Changes = [new(welded, ChangeRule.Set, 1)],
            Nodes = contactNodes,
        };
    }
}
