using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A half-wave rectifier without regulator: one diode from a charge winding to the battery.</summary>
internal sealed class Rectifier(Part part) : DiodeGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "rectifier",
            ["ac", "dc", "case"],
            "exactly \"ac\", \"dc\" and \"case\"",
            [],
            (part, _) => new Rectifier(part)
        );

    public override void Declare(Declaration declaration)
    {
        Arms.Add(new DiodeArm(declaration, Part, "", "ac", "dc", DiodeArm.SiliconVolts, 0.03));
        declaration.Node(Part.At("case"));
    }

    public override IEnumerable<Fault> Faults() => [Arms[0].Open("diode open", 1), Arms[0].Shorted("diode shorted", 1)];
}
