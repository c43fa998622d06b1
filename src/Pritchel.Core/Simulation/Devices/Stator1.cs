using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A single-phase stator, both ends insulated from its core.</summary>
internal sealed class Stator1(Part part, PartFigures figures) : WindingGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "stator-1",
            ["a", "b", "case"],
            "exactly \"a\", \"b\" and \"case\"",
            Winding.Values(14, 0.5, 1.2),
            (part, figures) => new Stator1(part, figures)
        );

    public override void Declare(Declaration declaration)
    {
        Windings.Add(new Winding(declaration, Part, "", "a", "b", Winding.Rating(figures)));
        declaration.Node(Part.At("case"));
    }

    public override IEnumerable<Fault> Faults() => Windings[0].Faults("winding", Part.At("case"));
}
