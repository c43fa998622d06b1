using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A generator's outlet with what stays connected behind it; feeds its tools when its volts are right.</summary>
internal sealed class Outlet(Part part, PartFigures figures)
    : PlainLoad(part, "L", "N", figures["ohms"], 0.5),
        INamedDevice
{
    // Tools take a tenth too few volts: from memory.
    private const double WorksFromShare = 0.9;

    public static DeviceKind Kind { get; } =
        new(
            "outlet",
            ["L", "N"],
            "exactly \"L\" and \"N\"",
            [new ValueRule("volts", 6, 300, 120) { Differs = 0 }, new ValueRule("ohms", 5, 10_000_000, 100_000)],
            (part, figures) => new Outlet(part, figures)
        );

    private protected override string OpenWords => "contacts spread or burnt: a plug finds nothing";

    public override Effect Effect(CircuitState state) =>
        new(EffectKind.Works, state.Heating(Load.Branch) / (figures["volts"] * WorksFromShare));
}
