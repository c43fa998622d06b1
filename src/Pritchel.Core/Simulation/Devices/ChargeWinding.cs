using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A charge winding with one end on the block.</summary>
internal sealed class ChargeWinding(Part part, PartFigures figures) : WindingGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "charge-winding",
            ["out", "case"],
            "exactly \"out\" and \"case\"",
            // Of a small 3 A class charge coil: from memory.
            Winding.Values(10, 0.4, 2.5),
            (part, figures) => new ChargeWinding(part, figures)
        );

    public override void Declare(Declaration declaration) =>
        Windings.Add(new Winding(declaration, Part, "", "out", "case", Winding.Rating(figures)));

    public override IEnumerable<Fault> Faults() => Windings[0].Faults("winding", core: null);
}
