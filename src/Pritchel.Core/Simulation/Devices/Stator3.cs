using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A three-phase stator, star-connected and insulated from its core; the star point is inside.</summary>
internal sealed class Stator3(Part part, PartFigures figures) : WindingGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "stator-3",
            ["a", "b", "c", "case"],
            "exactly \"a\", \"b\", \"c\" and \"case\"",
            // Figures are of one leg. 0.1–1 ohm between wires: common practice, no source.
            Winding.Values(9, 0.2, 0.9),
            (part, figures) => new Stator3(part, figures)
        );

    public override void Declare(Declaration declaration)
    {
        const double ThirdOfATurn = 2 * Math.PI / 3;
        for (var leg = 0; leg < 3; leg++)
        {
            var name = "abc"[leg].ToString();
            Windings.Add(
                new Winding(declaration, Part, name, name, "star", Winding.Rating(figures), -leg * ThirdOfATurn)
            );
        }

        declaration.Node(Part.At("case"));
    }

    public override IEnumerable<Fault> Faults() => Windings.SelectMany(w => w.Faults("leg", Part.At("case")));
}
