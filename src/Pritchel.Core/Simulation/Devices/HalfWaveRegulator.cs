using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A half-wave regulator–rectifier for a winding grounded at one end: it lets one half of the wave through, or not.</summary>
internal sealed class HalfWaveRegulator(Part part, PartFigures figures)
    : Regulator(part, figures, ["ac"], shunts: false),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "regulator-half-wave",
            ["ac", "dc", "case"],
            "exactly \"ac\", \"dc\" and \"case\"",
            Values,
            (part, figures) => new HalfWaveRegulator(part, figures)
        )
        {
            Winding = new ChargedBy("charge-winding", [("out", "ac")]),
        };
}
