using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A shunt regulator–rectifier for a three-phase stator.</summary>
internal sealed class Regulator3(Part part, PartFigures figures)
    : Regulator(part, figures, ["a", "b", "c"], shunts: true),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "regulator-3",
            ["a", "b", "c", "dc", "case"],
            "exactly \"a\", \"b\", \"c\", \"dc\" and \"case\"",
            Values,
            (part, figures) => new Regulator3(part, figures)
        )
        {
            Winding = new ChargedBy("stator-3", [("a", "a"), ("b", "b"), ("c", "c")]),
        };
}
