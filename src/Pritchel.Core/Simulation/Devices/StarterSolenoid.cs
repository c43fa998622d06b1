using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A starter-mounted solenoid with two windings of equal turns on one plunger: pull-in from S through the motor, hold
/// from S to its own metal. What moves the plunger is their signed sum. Closing the contacts shorts pull-in out; when S
/// is let go, current comes back from the motor terminal through pull-in and on through hold, the two cancel, and it
/// drops out. docs/method.md.
/// </summary>
internal sealed class StarterSolenoid(Part part, PartFigures figures) : Device, INamedDevice
{
    private const double Milliseconds = 20;
    private const int In = 1;

    public static DeviceKind Kind { get; } =
        new(
            "starter-solenoid",
            ["B", "M", "S", "case"],
            "exactly \"B\", \"M\", \"S\" and \"case\"",
            [
                // Windings of a small 12 V starter: from memory.
                new ValueRule("pullInOhms", 0.05, 5, 0.4),
                new ValueRule("holdOhms", 0.2, 20, 1.2),
                new ValueRule("pullInVolts", 1, 24, 7.5) { Differs = 0.3 },
                new ValueRule("dropOutVolts", 0.2, 20, 3),
                new ValueRule("contactOhms", 0.00005, 0.01, 0.0006) { Differs = 0.6 },
            ],
            (part, figures) => new StarterSolenoid(part, figures)
        );

    private ParameterId pullIn;
    private ParameterId hold;
    private ParameterId contact;
    private ParameterId stuck;
    private BranchId pullInBranch;
    private BranchId holdBranch;
    private BranchId contactBranch;
    private StateId plunger;
    private (int, int) pullInNodes;
    private (int, int) holdNodes;
    private (int, int) contactNodes;

    public override bool IsActive => true;

    public override IReadOnlyList<CoilContact> CoilContacts => [new(new("B"), new("M"), true)];

    public override PartId? PartId => part.Id;

    /// <summary>Amps, both windings together, that pull it in: what its pull-in volts send through both in parallel.</summary>
    private double PullInAmps => figures["pullInVolts"] * ((1 / figures["pullInOhms"]) + (1 / figures["holdOhms"]));

    /// <summary>Amps that still hold it: what its drop-out volts send through hold alone.</summary>
    private double HoldingAmps => figures["dropOutVolts"] / figures["holdOhms"];

    public override void Declare(Declaration declaration)
    {
        var (b, m, s, body) = (part.At("B"), part.At("M"), part.At("S"), part.At("case"));
        pullIn = declaration.Parameter(part.Element(), "pullInOhms", figures["pullInOhms"], Spread.Winding);
        hold = declaration.Parameter(part.Element(), "holdOhms", figures["holdOhms"], Spread.Winding);
        contact = declaration.Parameter(part.Element(), "contactOhms", figures["contactOhms"], Spread.Contact);
        stuck = declaration.Parameter(part.Element(), "stuck", 0, Spread.None);
        pullInBranch = declaration.Branch(part.Element("pull-in"), s, m);
        holdBranch = declaration.Branch(part.Element("coil"), s, body, BranchRole.Coil);
        contactBranch = declaration.Branch(part.Element("contact"), b, m, BranchRole.Contact);
        plunger = declaration.State(part.Element());
        pullInNodes = (declaration.Node(s), declaration.Node(m));
        holdNodes = (declaration.Node(s), declaration.Node(body));
        contactNodes = (declaration.Node(b), declaration.Node(m));
    }

    public override void Stamp(CircuitState state)
    {
        state.SetOhms(pullInBranch, state[pullIn]);
        state.SetOhms(holdBranch, state[hold]);
        state.SetOhms(contactBranch, state[plunger] == In ? state[contact] : double.PositiveInfinity);
    }

    public override Change Step(CircuitState state)
    {
        // Signed: what comes back from the motor through pull-in works against hold.
        var amps = Math.Abs(state.Through(pullInBranch) + state.Through(holdBranch));
        if (state[plunger] == In)
        {
            return amps < HoldingAmps && state[stuck] == 0 ? Change.Switch(plunger, 0, Milliseconds) : Change.None;
        }

        return amps >= PullInAmps ? Change.Switch(plunger, In, Milliseconds) : Change.None;
    }

    public override Effect Effect(CircuitState state) => new(EffectKind.Clicks, state[plunger]);

    public override IEnumerable<Fault> Faults()
    {
        Fault Of(string id, FaultKind kind, string words, double rate, ParameterChange change, (int, int) nodes) =>
            new()
            {
                Id = part.Fault(id),
                Kind = kind,
                Words = $"{part.Name}: {words}",
                Repair = part.Repaired(RepairKind.ReplacePart),
                Rate = rate,
                Changes = [change],
                Nodes = nodes,
            };

        var gone = double.PositiveInfinity;
        yield return Of(
            "pull-in-open",
            FaultKind.Open,
            "pull-in winding open",
            1.5,
            new(pullIn, ChangeRule.Set, gone),
            pullInNodes
        );
        yield return Of(
            "hold-open",
            FaultKind.Open,
            "hold winding open",
            1.5,
            new(hold, ChangeRule.Set, gone),
            holdNodes
        );
        yield return Of(
            "contact-open",
            FaultKind.Open,
            "contacts burnt away",
            4,
            new(contact, ChangeRule.Set, gone),
            contactNodes
        );
        yield return Of(
            "contact-resistive",
            FaultKind.HighResistance,
            "contacts burnt",
            4,
            new(contact, ChangeRule.AddSeverity),
            contactNodes
        ) with
        {
            Severity = new Severity(0.02, 10),
        };
        yield return Of("stuck", FaultKind.StuckClosed, "stays in", 1, new(stuck, ChangeRule.Set, 1), contactNodes);
    }
}
