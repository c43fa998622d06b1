using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A sender: a resistance for a gauge, at the one level its file gives. Not interchangeable with a switch.
/// </summary>
internal sealed class Sender(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "sender",
            ["out", "case"],
            "exactly \"out\" and \"case\"",
            [new ValueRule("ohms", 0.5, 100_000, 70)],
            (part, figures) => new Sender(part, figures)
        );

    private Resistance element = null!;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration) =>
        element = new Resistance(declaration, part, "ohms", "out", "case", figures["ohms"], Spread.Winding);

    public override void Stamp(CircuitState state) => element.Stamp(state);

    public override IEnumerable<Fault> Faults() =>
        [
            element.Gone("open", "open", 2),
            PartFault.Of(
                part,
                "switch-fitted",
                FaultKind.WrongPart,
                "an alarm switch is fitted where the sender belongs",
                0.3,
                element.Nodes,
                new ParameterChange(element.Ohms, ChangeRule.Set, double.PositiveInfinity)
            ) with
            {
                Weakness = Weakness.RecentWork,
            },
        ];
}
