using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Observables;

/// <summary>Amps, direct, out of a battery, the meter in series.</summary>
public sealed class DirectAmps : Observable
{
    // Below a milliamp nothing drains a battery.
    private const double LeastAmps = 0.001;

    // Shunt and leads of a meter's 10 A jack: from memory.
    private const double AmpJackOhms = 0.03;
    private static readonly LogScale Scale = new(LeastAmps);

    /// <summary>What the amp jack carries; more reads as this much, since its fuse goes.</summary>
    public const double MostAmps = 10;

    /// <summary>The one there is.</summary>
    public static DirectAmps Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "amps";

    /// <inheritdoc/>
    public override string Name => "Amps out of the battery";

    /// <inheritdoc/>
    public override bool IsToldByPoints => false;

    /// <inheritdoc/>
    public override string Unit => "A";

    /// <inheritdoc/>
    public override double Most => 20;

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.DcAmps);

    /// <inheritdoc/>
    public override double Scaled(double figure) => Scale.Of(Math.Clamp(figure, 0, MostAmps));

    /// <inheritdoc/>
    public override double Figure(double scaled) => Scale.Figure(scaled);

    /// <inheritdoc/>
    public override double Steepness(double figure) => Scale.Steepness(figure);

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) =>
        (figure * meter.OhmsAccuracyPercent / 100) + (LeastAmps / 2);

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) =>
        Math.Max(0, -@case.Load.Effect(@case.State).Level);

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) =>
        Math.Min(MostAmps, Math.Abs(part.Volts(0, AmpJackOhms)) / AmpJackOhms);

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Simulated.Noisy(this, @case, Math.Max(0, -Outcome.Of(@case.Case).Charges[@case.Load]));

    /// <inheritdoc/>
    protected override double? OverRange(out string error)
    {
        error = "";
        return MostAmps;
    }

    /// <summary>Which way round the leads were says nothing of a drain.</summary>
    protected override double? Within(double value, out string error)
    {
        error = "";
        return Math.Abs(value);
    }

    /// <summary>What is loosened for it hangs on the battery: one slip of a spanner to the case is a short (common practice, no source).</summary>
    public override string Caution(Jump? jump) =>
        "The battery's negative post off before any lead or plug is loosened; a loose end is kept off all metal. Then the meter between post and cable, nothing more switched on or cranked through it.";

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "DC amps, 10 A jack, in series: never across the posts; type OL if its fuse goes";
}
