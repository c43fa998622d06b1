using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Observables;

/// <summary>
/// Whether an engine that sparks badly while it runs, runs as things stand now: 0 it cuts out, 1 it misses, 2 it runs on. What jumps
/// only at the volts of a running engine is seen no other way.
/// </summary>
public sealed class EngineRuns : SeenObservable
{
    /// <summary>The one there is.</summary>
    public static EngineRuns Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "runs";

    /// <inheritdoc/>
    public override string Name => "Start it, and see";

    /// <summary>It is watched from where one stands: nothing is touched for it but what is taken off.</summary>
    public override bool IsProbed => false;

    /// <summary>Started, brought to its speed and watched: common practice, no source.</summary>
    public override Units.Minutes Handling => new(2);

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black)
    {
        @case.State.Fire();
        return Outcome.HasFuel(@case.State) ? Of(@case.Load.Effect(@case.State).Level) : 0;
    }

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black)
    {
        var outcome = Outcome.Of(@case.Case);
        return Scaled(
            outcome.FuelOn ? SparkSeen.Steps(outcome.Sparks.FirstOrDefault(s => s.Part == @case.Load)?.Level) : 0
        );
    }

    // An engine fires or does not: what a tester would call nearly good is a miss under load.
    private static double Of(double level) => level >= 1 ? 2 : Math.Min(1, SparkSeen.Of(level));

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "what comes off is insulated and held clear of metal; started and brought to the speed at which it fails";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) =>
        "Its own stop may not reach it now: before it is started, know how it is stopped by hand, and have somebody stand there. Never by pulling the plug cap. Outdoors, and seconds only.";

    /// <inheritdoc/>
    public override IReadOnlyList<(string Typed, string Words)> Answers =>
        [("2", "It runs on"), ("1", "It misses"), ("0", "It cuts out")];
}
