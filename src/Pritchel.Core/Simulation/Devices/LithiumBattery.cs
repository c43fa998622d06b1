using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A 12 V lithium iron phosphate battery: nearly level volts, low resistance, and electronics of its own that switch it off
/// when it is empty. The tables of flooded batteries do not apply to it. All figures from memory.
/// </summary>
internal sealed class LithiumBattery(Part part, PartFigures figures) : StorageBattery(part, figures), INamedDevice
{
    private const double SwitchesOffUnder = 0.08;

    public static DeviceKind Kind { get; } =
        new(
            PartKinds.LithiumBattery,
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            Values(usualColdCranking: 300),
            (part, figures) => new LithiumBattery(part, figures)
        )
        {
            Traits = PartTraits.StoresCharge,
        };

    private protected override double RestVolts(double charge) => 12.85 + (0.5 * Math.Clamp(charge, 0, 1));

    private protected override double InternalOhms(double celsius, double charge) =>
        charge < SwitchesOffUnder ? double.PositiveInfinity : 2.2 / ColdCrankingAmps * Math.Exp(-0.02 * (celsius - 20));

    private protected override BackPressure Gassing(double charge) =>
        new(0.25 + Math.Pow(Math.Clamp(charge, 0, 1), 8), 15 / ColdCrankingAmps, 6 / ColdCrankingAmps);
}
