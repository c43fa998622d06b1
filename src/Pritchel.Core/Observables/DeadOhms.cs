using Pritchel.Core.Metering;

namespace Pritchel.Core.Observables;

/// <summary>Ohms between two points, the battery off.</summary>
public sealed class DeadOhms : Observable
{
    // Two leads and two contacts, however well they were shorted first: from memory.
    private const double LeadDoubtOhms = 0.08;

    // Below a tenth of an ohm two leads guess.
    private static readonly LogScale Scale = new(0.1);

    /// <summary>The one there is.</summary>
    public static DeadOhms Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "ohms";

    /// <inheritdoc/>
    public override string Name => "Ohms";

    /// <inheritdoc/>
    public override string Unit => "Ω";

    /// <inheritdoc/>
    public override bool WantsDeadCircuit => true;

    /// <inheritdoc/>
    public override bool CanBeWatched => true;

    /// <inheritdoc/>
    public override double Most => 40e6;

    /// <inheritdoc/>
    protected override double LeastTold => 0.3;

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.Ohms);

    /// <inheritdoc/>
    public override double Scaled(double figure) => Math.Min(Open, Scale.Of(Math.Max(0, figure)));

    /// <inheritdoc/>
    public override double Figure(double scaled) =>
        scaled >= Open - 0.01 ? double.PositiveInfinity : Scale.Figure(scaled);

    /// <inheritdoc/>
    public override double Steepness(double figure) => Scale.Steepness(figure);

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) =>
        (figure * meter.OhmsAccuracyPercent / 100) + LeadDoubtOhms;

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) => @case.DeadOhms(red, black);

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) =>
        part.Ohms() + part.LeadOhms is var ohms && ohms < part.Meter.OhmsRanges[^1] ? ohms : double.PositiveInfinity;

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Simulated.OnMeter(this, @case, MeterFunction.Ohms, red, black);

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) => "ohms; short the leads first and note what they add";
}
