using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A series regulator–rectifier for a three-phase stator: it opens at its volts.</summary>
internal sealed class SeriesRegulator3(Part part, PartFigures figures)
    : Regulator(part, figures, ["a", "b", "c"], shunts: false),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "regulator-3-series",
            ["a", "b", "c", "dc", "case"],
            "exactly \"a\", \"b\", \"c\", \"dc\" and \"case\"",
            Values,
            (part, figures) => new SeriesRegulator3(part, figures)
        )
        {
            Winding = new ChargedBy("stator-3", [("a", "a"), ("b", "b"), ("c", "c")]),
        };
}
