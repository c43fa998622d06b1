using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// An oil-pressure switch to its own metal: closed while its engine stands, open from some hundreds of revolutions up.
/// A pressure sender in its place is a resistance always.
/// </summary>
internal sealed class PressureSwitch(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "pressure-switch",
            ["out", "case"],
            "exactly \"out\" and \"case\"",
            // From memory: pressure is up well before idle.
            [new ValueRule("opensAtRpm", 50, 3000, 500) { Differs = 0.4 }],
            (part, figures) => new PressureSwitch(part, figures)
        );

    private int engine;
    private Resistance contact = null!;
    private ParameterId stuck;
    private ParameterId sender;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        engine = declaration.Engine(part);
        contact = new Resistance(declaration, part, "ohms", "out", "case", 0.05, Spread.Contact);
        stuck = declaration.Parameter(part.Element(), "stuck", 0, Spread.None);
        sender = declaration.Parameter(part.Element(), "senderOhms", 0, Spread.None);
    }

    public override void Stamp(CircuitState state)
    {
        if (state[sender] > 0)
        {
            state.SetOhms(contact.Branch, state[sender]);
            return;
        }

        contact.Stamp(state, state[stuck] > 0 || state.Rpm(engine) < figures["opensAtRpm"]);
    }

    public override IEnumerable<Fault> Faults()
    {
        yield return contact.Gone("open", "never closes", 2);
        yield return PartFault.Of(
            part,
            "stuck",
            FaultKind.StuckClosed,
            "never opens",
            1,
            contact.Nodes,
            new ParameterChange(stuck, ChangeRule.Set, 1)
        );
        yield return PartFault.Of(
            part,
            "sender-fitted",
            FaultKind.WrongPart,
            "a gauge sender is fitted where the switch belongs",
            0.3,
            contact.Nodes,
            new ParameterChange(sender, ChangeRule.SetToSeverity)
        ) with
        {
            Severity = new Severity(180, 10),
            Weakness = Weakness.RecentWork,
        };
    }
}
