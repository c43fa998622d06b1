using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A plain bridge of four diodes between two alternating terminals and two direct ones, or of six with a third.</summary>
internal sealed class BridgeRectifier(Part part, PartFigures figures) : DiodeGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "bridge-rectifier",
            ["a", "b", "+", "-"],
            "\"a\", \"b\", \"+\" and \"-\", and \"c\" where it is for three phases",
            [
                new ValueRule("kneeVolts", 0.1, 2, DiodeArm.SiliconVolts) { Differs = 0.05 },
                new ValueRule("onOhms", 0.001, 10, 0.03) { Differs = 0.3 },
            ],
            (part, figures) => new BridgeRectifier(part, figures)
        )
        {
            OptionalTerminals = ["c"],
        };

    public override void Declare(Declaration declaration)
    {
        foreach (var leg in Part.Terminals.Select(t => t.Text).Where(t => t is not "+" and not "-"))
        {
            Arms.Add(new DiodeArm(declaration, Part, leg + "-plus", leg, "+", figures["kneeVolts"], figures["onOhms"]));
            Arms.Add(
                new DiodeArm(declaration, Part, leg + "-minus", "-", leg, figures["kneeVolts"], figures["onOhms"])
            );
        }
    }

    public override IEnumerable<Fault> Faults() =>
        Arms.SelectMany(arm => (Fault[])[arm.Open("one diode open", 0.7), arm.Shorted("one diode shorted", 0.7)]);
}
