using Pritchel.Core.Metering;

namespace Pritchel.Core.Observables;

/// <summary>The diode range: volts that about a milliamp leaves across, with the battery off.</summary>
public sealed class DiodeVolts : Observable
{
    // Silicon of one kind differs by some hundredths from piece to piece, meter to meter and warm to cold: from memory.
    private const double DoubtVolts = 0.08;

    /// <summary>The one there is.</summary>
    public static DiodeVolts Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "diode";

    /// <inheritdoc/>
    public override string Name => "Diode range";

    /// <inheritdoc/>
    public override string Unit => "V";

    /// <inheritdoc/>
    public override bool WantsDeadCircuit => true;

    /// <inheritdoc/>
    public override double Most => 4;

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.Diode);

    /// <inheritdoc/>
    public override double Scaled(double figure) => figure > Metering.Bench.MostDiodeVolts ? Open : figure;

    /// <inheritdoc/>
    public override double Figure(double scaled) => scaled >= Open - 0.01 ? double.PositiveInfinity : scaled;

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) => DoubtVolts;

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) =>
        @case.VoltsOf(red, black, @case.Meter.DiodeSource.Value, @case.Meter.DiodeInside.Value);

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) =>
        part.DeadVolts(part.Meter.DiodeSource.Value, part.Meter.DiodeInside.Value) is var volts
        && Math.Abs(volts) > Metering.Bench.MostDiodeVolts
            ? double.PositiveInfinity
            : volts;

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Simulated.OnMeter(this, @case, MeterFunction.Diode, red, black);

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "diode range; red and black as said, for it reads one way only";
}
