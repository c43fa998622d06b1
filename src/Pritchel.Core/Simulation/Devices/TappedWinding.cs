using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A charge winding grounded at one end and tapped: lamps live on the tap, the battery on the whole. It has continuity to
/// ground by design.
/// </summary>
internal sealed class TappedWinding(Part part, PartFigures figures) : WindingGroup(part), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "tapped-winding",
            ["out", "tap", "case"],
            "exactly \"out\", \"tap\" and \"case\"",
            [.. Winding.Values(12, 0.6, 1.5), new ValueRule("tapShare", 0.1, 0.9, 0.7) { Differs = 0.2 }],
            (part, figures) => new TappedWinding(part, figures)
        );

    public override void Declare(Declaration declaration)
    {
        var (volts, ohms, millihenries) = Winding.Rating(figures);
        var share = figures["tapShare"];
        Windings.Add(
            new Winding(declaration, Part, "lamp", "tap", "case", (volts * share, ohms * share, millihenries * share))
        );
        Windings.Add(
            new Winding(
                declaration,
                Part,
                "battery",
                "out",
                "tap",
                (volts * (1 - share), ohms * (1 - share), millihenries * (1 - share))
            )
        );
    }

    public override IEnumerable<Fault> Faults() => Windings.SelectMany(w => w.Faults("winding", core: null));
}
