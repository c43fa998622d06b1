using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A four-diode bridge between two alternating terminals and two direct ones.</summary>
internal sealed class BridgeRectifier(Part part, PartFigures figures) : DiodeGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "bridge-rectifier",
            ["a", "b", "+", "-"],
            "exactly \"a\", \"b\", \"+\" and \"-\"",
            [new ValueRule("kneeVolts", 0.1, 2, DiodeArm.SiliconVolts), new ValueRule("onOhms", 0.001, 10, 0.03)],
            (part, figures) => new BridgeRectifier(part, figures)
        );

    public override void Declare(Declaration declaration)
    {
        foreach (var leg in (string[])["a", "b"])
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
