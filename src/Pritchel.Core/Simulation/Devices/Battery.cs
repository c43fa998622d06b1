using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A 12 V flooded battery: rest volts by charge, resistance by cold-cranking amps, temperature and charge.</summary>
internal sealed class Battery(Part part, PartFigures figures) : StorageBattery(part, figures), INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            PartKinds.Battery,
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            Values(usualColdCranking: 230),
            (part, figures) => new Battery(part, figures)
        )
        {
            Traits = PartTraits.StoresCharge,
        };

    private protected override double RestVolts(double charge) => BatteryTables.RestVolts(charge).Value;

    private protected override double InternalOhms(double celsius, double charge) =>
        BatteryTables.InternalOhms(new Amps(ColdCrankingAmps), new Celsius(celsius), charge).Value;

    private protected override BackPressure Gassing(double charge) =>
        BatteryTables.Gassing(new Amps(ColdCrankingAmps), charge);

    public override IEnumerable<Fault> Faults() =>
        [.. base.Faults(), Dead("cell-shorted", "one cell shorted", 0.7, 10.6 / 12.65)];
}

/// <summary>
/// A 12 V absorbed-glass-mat battery: a quarter of a volt above a flooded one at rest, and less resistance for its size.
/// </summary>
internal sealed class GlassMatBattery(Part part, PartFigures figures) : StorageBattery(part, figures), INamedDevice
{
    // Two thirds of a flooded one's of the same size: from memory.
    private const double OhmsShare = 0.67;

    public static DeviceKind Kind { get; } =
        new(
            "agm-battery",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            Values(usualColdCranking: 270),
            (part, figures) => new GlassMatBattery(part, figures)
        )
        {
            Traits = PartTraits.StoresCharge,
        };

    private protected override double RestVolts(double charge) => BatteryTables.GlassMatRestVolts(charge).Value;

    private protected override double InternalOhms(double celsius, double charge) =>
        OhmsShare * BatteryTables.InternalOhms(new Amps(ColdCrankingAmps), new Celsius(celsius), charge).Value;

    private protected override BackPressure Gassing(double charge) =>
        BatteryTables.Gassing(new Amps(ColdCrankingAmps), charge);

    public override IEnumerable<Fault> Faults() =>
        [.. base.Faults(), Dead("cell-shorted", "one cell shorted", 0.7, 10.7 / 12.85)];
}
