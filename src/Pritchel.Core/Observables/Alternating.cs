using Pritchel.Core.Metering;

namespace Pritchel.Core.Observables;

/// <summary>What alternates, read with an engine turning.</summary>
public abstract class AlternatingObservable : Observable
{
    // Below some hundredths of a volt an AC range or a peak adapter shows its own noise.
    private const double LeastVolts = 0.02;

    // Cheap AC ranges average, and adapters hold a little less than the peak: from memory.
    private const double DoubtShare = 0.1;
    private static readonly LogScale Scale = new(LeastVolts);

    /// <inheritdoc/>
    public override string Unit => "V";

    /// <inheritdoc/>
    public override bool Alternates => true;

    /// <inheritdoc/>
    public override double Most => 1000;

    /// <inheritdoc/>
    protected override double LeastTold => 0.1;

    /// <inheritdoc/>
    public override double Scaled(double figure) => Scale.Of(Math.Max(0, figure));

    /// <inheritdoc/>
    public override double Figure(double scaled) => Scale.Figure(scaled);

    /// <inheritdoc/>
    public override double Steepness(double figure) => Scale.Steepness(figure);

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) => (DoubtShare * figure) + LeastVolts;
}

/// <summary>Volts, alternating, root mean square.</summary>
public sealed class AlternatingVolts : AlternatingObservable
{
    /// <summary>The one there is.</summary>
    public static AlternatingVolts Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "acVolts";

    /// <inheritdoc/>
    public override string Name => "AC volts";

    /// <inheritdoc/>
    public override bool CanBeWatched => true;

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.AcVolts);

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) => @case.State.Alternating(red, black);

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) => part.AlternatingVolts();

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Simulated.OnMeter(this, @case, MeterFunction.AcVolts, red, black);

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) => "AC volts, 200 V range first";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) =>
        "An open stator gives a hundred volts and more when the engine is revved: clip both leads on first, hands off, nothing near belts, blades and exhaust. Outdoors.";
}

/// <summary>Highest volts while the engine is pulled over, through a peak adapter.</summary>
public sealed class PeakVolts : AlternatingObservable
{
    /// <summary>The one there is.</summary>
    public static PeakVolts Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "peakVolts";

    /// <inheritdoc/>
    public override string Name => "Peak volts";

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.PeakVolts);

    /// <summary>All pairs in one turn: firing a case again would fire it twice.</summary>
    public override void Predict(IPredictedCase @case, IReadOnlyList<(int Red, int Black)> pairs, Span<double> figures)
    {
        var peaks = new double[pairs.Count];
        @case.State.Fire(pairs, peaks);
        peaks.CopyTo(figures);
    }

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) => part.PeakVolts();

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Simulated.OnMeter(this, @case, MeterFunction.PeakVolts, red, black);

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "DC volts through a peak adapter, red in the adapter’s red; without an adapter pass this test over";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) =>
        "Hundreds of volts on exciter and kill wires: clips on first, nobody touching, then pull it over. Plug leads off and grounded.";
}
