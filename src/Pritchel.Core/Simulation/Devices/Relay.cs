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
                new ValueRule("pullInVolts", 1, 24, 7) { Differs = 0.3 },
                new ValueRule("dropOutVolts", 0.2, 20, 2.5),
                new ValueRule("contactOhms", 0.0005, 0.1, 0.006) { Differs = 0.6 },
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
            double.IsInfinity(state[coil]) || IsShorted(state) || state[stuck] > 0 || state[welded] > 0
                ? 0
                : Math.Abs(state.Across(coilBranch));
        if (state[armature] == In)
        {
            return volts < figures["dropOutVolts"] ? Change.Switch(armature, 0, Milliseconds) : Change.None;
        }

        return volts >= figures["pullInVolts"] ? Change.Switch(armature, In, Milliseconds) : Change.None;
    }

    private bool IsShorted(CircuitState state) => state[coil] < PartFault.ShortedShare * figures["coilOhms"];

    public override Effect Effect(CircuitState state) => new(EffectKind.Clicks, state[armature]);

    public override IEnumerable<Fault> Faults()
    {
        Fault Of(string id, FaultKind kind, string words, double rate, (int, int) nodes, ParameterChange change) =>
            PartFault.Of(part, id, kind, words, rate, nodes, change);
        yield return Of(
            "coil-open",
            FaultKind.Open,
            "coil open",
            2,
            coilNodes,
            new(coil, ChangeRule.Set, double.PositiveInfinity)
        );
        yield return PartFault.Shorted(
            part,
            "coil or its suppressor shorted",
            0.5,
            coilNodes,
            coil,
            PartFault.DeadShort
        );
        foreach (
            var contact in new[]
            {
                Of(
                    "contact-open",
                    FaultKind.Open,
                    "contact burnt away",
                    2,
                    madeNodes,
                    new(made, ChangeRule.Set, double.PositiveInfinity)
                ),
                Of(
                    "contact-resistive",
                    FaultKind.HighResistance,
                    "contact burnt",
                    3,
                    madeNodes,
                    new(made, ChangeRule.AddSeverity)
                ) with
                {
                    Severity = new Severity(0.1, 100),
                    Weakness = Weakness.Age | Weakness.Salt | Weakness.Damp,
                },
                Of(
                    "rest-contact-open",
                    FaultKind.Open,
                    "contact at rest burnt away",
                    1,
                    brokenNodes,
                    new(broken, ChangeRule.Set, double.PositiveInfinity)
                ),
                Of(
                    "stuck",
                    FaultKind.Open,
                    "armature sticks, does not pull in",
                    1,
                    madeNodes,
                    new(stuck, ChangeRule.Set, 1)
                ),
                Of("welded", FaultKind.StuckClosed, "contact welded", 1.5, madeNodes, new(welded, ChangeRule.Set, 1)),
            }
        )
        {
            yield return contact with
            {
                ComesAndGoes = true,
                Weakness = contact.Weakness | Weakness.Vibration,
            };
        }
    }
}
