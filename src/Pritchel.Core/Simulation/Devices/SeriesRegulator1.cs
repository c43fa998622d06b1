using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A series regulator–rectifier for a single-phase stator with both ends insulated: it opens at its volts.</summary>
internal sealed class SeriesRegulator1(Part part, PartFigures figures)
    : Regulator(part, figures, ["a", "b"], shunts: false),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "regulator-1-series",
            ["a", "b", "dc", "case"],
            "exactly \"a\", \"b\", \"dc\" and \"case\"",
            Values,
            (part, figures) => new SeriesRegulator1(part, figures)
        )
        {
            Winding = new ChargedBy("stator-1", [("a", "a"), ("b", "b")]),
        };
}
