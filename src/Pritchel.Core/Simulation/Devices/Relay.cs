using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A changeover relay, terminals numbered as DIN 72552 does: coil 86–85, common 30, made 87, broken 87a.</summary>
internal sealed class Relay(Part part, PartFigures figures) : Device, INamedDevice
{
    private const double Milliseconds = 8;
    private const int In = 1;

    public static DeviceKind Kind { get; } =
        new(
            "relay",
            ["85", "86", "30", "87", "87a"],
            "exactly \"85\", \"86\", \"30\", \"87\" and \"87a\"",
            [
                new ValueRule("coilOhms", 10, 1000, 85),
                new ValueRule("pullInVolts", 1, 24, 7),
                new ValueRule("dropOutVolts", 0.2, 20, 2.5),
                new ValueRule("contactOhms", 0.0005, 0.1, 0.006),
            ],
            (part, figures) => new Relay(part, figures)
        )
        {
            Traits = PartTraits.IsRelayed,
        };

    private ParameterId coil;
    private ParameterId made;
    private ParameterId broken;
    private ParameterId welded;
    private ParameterId stuck;
    private BranchId coilBranch;
    private BranchId madeBranch;
    private BranchId brokenBranch;
    private StateId armature;
    private (int, int) coilNodes;
    private (int, int) madeNodes;
    private (int, int) brokenNodes;

    public override bool IsActive => true;

    public override IReadOnlyList<CoilContact> CoilContacts =>
        [new(new("30"), new("87"), true), new(new("30"), new("87a"), false)];

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        coil = declaration.Parameter(part.Element(), "coilOhms", figures["coilOhms"], Spread.Winding);
        made = declaration.Parameter(part.Element(), "madeOhms", figures["contactOhms"], Spread.Contact);
        broken = declaration.Parameter(part.Element(), "brokenOhms", figures["contactOhms"], Spread.Contact);
        welded = declaration.Parameter(part.Element(), "welded", 0, Spread.None);
        stuck = declaration.Parameter(part.Element(), "stuck", 0, Spread.None);
        coilBranch = declaration.Branch(part.Element("coil"), part.At("86"), part.At("85"), BranchRole.Coil);
        madeBranch = declaration.Branch(part.Element("made"), part.At("30"), part.At("87"), BranchRole.Contact);
        brokenBranch = declaration.Branch(part.Element("broken"), part.At("30"), part.At("87a"), BranchRole.Contact);
        armature = declaration.State(part.Element());
        coilNodes = (declaration.Node(part.At("86")), declaration.Node(part.At("85")));
        madeNodes = (declaration.Node(part.At("30")), declaration.Node(part.At("87")));
        brokenNodes = (declaration.Node(part.At("30")), declaration.Node(part.At("87a")));
    }

    public override void Stamp(CircuitState state)
    {
        // Welded to 87, the armature cannot go back to 87a either.
        var pulled = state[armature] == In || state[welded] > 0;
        state.SetOhms(coilBranch, state[coil]);
        state.SetOhms(madeBranch, pulled ? state[made] : double.PositiveInfinity);
        state.SetOhms(brokenBranch, pulled ? double.PositiveInfinity : state[broken]);
    }

    public override Change Step(CircuitState state)
    {
        var volts =
            double.IsInfinity(state[coil]) || state[stuck] > 0 || state[welded] > 0
                ? 0
                : Math.Abs(state.Across(coilBranch));
        if (state[armature] == In)
        {
            return volts < figures["dropOutVolts"] ? Change.Switch(armature, 0, Milliseconds) : Change.None;
        }

        return volts >= figures["pullInVolts"] ? Change.Switch(armature, In, Milliseconds) : Change.None;
    }

    public override Effect Effect(CircuitState state) => new(EffectKind.Clicks, state[armature]);

    public override IEnumerable<Fault> Faults()
    {
        var repair = part.Repaired(RepairKind.ReplacePart);
        yield return new Fault
        {
            Id = part.Fault("coil-open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": coil open",
            Repair = repair,
            Rate = 2,
            Changes = [new(coil, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = coilNodes,
        };
        yield return new Fault
        {
            Id = part.Fault("contact-open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": contact burnt away",
            Repair = repair,
            Rate = 2,
            Changes = [new(made, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = madeNodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("contact-resistive"),
            Kind = FaultKind.HighResistance,
            Words = part.Name + ": contact burnt",
            Repair = repair,
            Rate = 3,
            Severity = new Severity(0.1, 100),
            Changes = [new(made, ChangeRule.AddSeverity)],
            Nodes = madeNodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("rest-contact-open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": contact at rest burnt away",
            Repair = repair,
            Rate = 1,
            Changes = [new(broken, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = brokenNodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("stuck"),
            Kind = FaultKind.Open,
            Words = part.Name + ": armature sticks, does not pull in",
            Repair = repair,
            Rate = 1,
            Changes = [new(stuck, ChangeRule.Set, 1)],
            Nodes = madeNodes,
            ComesAndGoes = true,
        };
        yield return new Fault
        {
            Id = part.Fault("welded"),
            Kind = FaultKind.StuckClosed,
            Words = part.Name + ": contact welded",
            Repair = repair,
            Rate = 1.5,
            Changes = [new(welded, ChangeRule.Set, 1)],
            Nodes = madeNodes,
            ComesAndGoes = true,
        };
    }
}
