using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A 12 V lead-acid battery: resistance by cold-cranking amps, temperature and charge.</summary>
/// <param name="part">The part.</param>
/// <param name="figures">Its figures.</param>
/// <param name="ohmsShare">Its resistance over a flooded one's of the same size.</param>
/// <param name="deadShare">Share of its volts that is left with one cell shorted.</param>
internal abstract class LeadAcidBattery(Part part, PartFigures figures, double ohmsShare, double deadShare)
    : StorageBattery(part, figures)
{
    private protected override double InternalOhms(double celsius, double charge) =>
        ohmsShare * BatteryTables.InternalOhms(new Amps(ColdCrankingAmps), new Celsius(celsius), charge).Value;

    private protected override BackPressure Gassing(double charge) =>
        BatteryTables.Gassing(new Amps(ColdCrankingAmps), charge);

    public override IEnumerable<Fault> Faults() =>
        [.. base.Faults(), Dead("cell-shorted", "one cell shorted", 0.7, deadShare)];

    private protected static DeviceKind Named(
        string name,
        double usualColdCranking,
        Func<Part, PartFigures, Device> make
    ) =>
        new(name, ["+", "-"], "exactly \"+\" and \"-\"", Values(usualColdCranking), make)
        {
            Traits = PartTraits.StoresCharge,
        };
}

/// <summary>A flooded battery.</summary>
internal sealed class Battery(Part part, PartFigures figures)
    : LeadAcidBattery(part, figures, ohmsShare: 1, deadShare: 10.6 / 12.65),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        Named(PartKinds.Battery, 230, (part, figures) => new Battery(part, figures));

    private protected override double RestVolts(double charge) => BatteryTables.RestVolts(charge).Value;
}

/// <summary>
/// An absorbed-glass-mat battery: a quarter of a volt above a flooded one at rest, and two thirds of its resistance for its
/// size. From memory.
/// </summary>
internal sealed class GlassMatBattery(Part part, PartFigures figures)
    : LeadAcidBattery(part, figures, ohmsShare: 0.67, deadShare: 10.7 / 12.85),
        INamedDevice
{
    public static DeviceKind Kind { get; } =
        Named("agm-battery", 270, (part, figures) => new GlassMatBattery(part, figures));

    private protected override double RestVolts(double charge) => BatteryTables.GlassMatRestVolts(charge).Value;
}
