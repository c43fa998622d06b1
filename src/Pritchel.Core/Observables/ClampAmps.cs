using Pritchel.Core.Metering;

namespace Pritchel.Core.Observables;

/// <summary>Amps, direct, by a clamp about a battery's cable while it cranks: no meter of the ordinary kind carries them.</summary>
public sealed class ClampAmps : Observable
{
    // What a clamp that was zeroed still shows of nothing, and its share of what it reads: from memory.
    private const double LeastAmps = 2;
    private const double Share = 0.04;
    private static readonly LogScale Scale = new(LeastAmps);

    /// <summary>The one there is.</summary>
    public static ClampAmps Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "clamp-amps";

    /// <inheritdoc/>
    public override string Name => "Amps by a clamp";

    /// <inheritdoc/>
    public override string Unit => "A";

    /// <inheritdoc/>
    public override bool IsToldByPoints => false;

    /// <inheritdoc/>
    public override double Most => 3000;

    /// <inheritdoc/>
    public override double Scaled(double figure) => Scale.Of(Math.Max(0, figure));

    /// <inheritdoc/>
    public override double Figure(double scaled) => Scale.Figure(scaled);

    /// <inheritdoc/>
    public override double Steepness(double figure) => Scale.Steepness(figure);

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) => (figure * Share) + (LeastAmps / 2);

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) =>
        Math.Abs(@case.Load.Effect(@case.State).Level);

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) => part.BatteryAmps();

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Simulated.Noisy(this, @case, Math.Abs(Simulation.Outcome.Of(@case.Case).Charges[@case.Load]));

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "a DC clamp, zeroed away from the cable; leave it out where there is none";
}
