using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A shunt regulator–rectifier for a single-phase stator with both ends insulated.</summary>
internal sealed class Regulator1(Part part, PartFigures figures)
    : Regulator(part, figures, ["a", "b"], shunts: true),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "regulator-1",
            ["a", "b", "dc", "case"],
            "exactly \"a\", \"b\", \"dc\" and \"case\"",
            Values,
            (part, figures) => new Regulator1(part, figures)
        )
        {
            Winding = new ChargedBy("stator-1", [("a", "a"), ("b", "b")]),
        };
}
