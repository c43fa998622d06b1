using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Observables;

/// <summary>Whether a spark tester sparks: 0 none, 1 weak, 2 well.</summary>
public sealed class SparkSeen : SeenObservable
{
    /// <summary>The one there is.</summary>
    public static SparkSeen Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "spark";

    /// <inheritdoc/>
    public override string Name => "Look for a spark";

    /// <inheritdoc/>
    public override bool CanBeWatched => true;

    /// <summary>A tester sits on the plug lead, away from what was opened to take the kill wire off.</summary>
    public override bool IsProbed => false;

    /// <summary>What a spark tester shows of a spark: 2 from the kilovolts that its gap wants, in proportion below.</summary>
    /// <param name="level">Kilovolts to hand over kilovolts needed.</param>
    public static double Of(double level) => Math.Clamp(2 * level, 0, 2);

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black)
    {
        @case.State.Fire();
        return Of(@case.Load.Effect(@case.State).Level);
    }

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) => part.Sparks();

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black) =>
        Scaled(Steps(Outcome.Of(@case.Case).Sparks.FirstOrDefault(s => s.Part == @case.Load)?.Level));

    /// <summary>What an eye makes of a spark: 2 well, 1 weak, 0 none.</summary>
    /// <param name="level">Kilovolts to hand over kilovolts needed; null for none.</param>
    internal static double Steps(double? level) =>
        level switch
        {
            >= 1 => 2,
            >= 0.5 => 1,
            _ => 0,
        };

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        "a spark tester with its gap set, or the plug as the test says";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) => SparkCaution;

    /// <summary>What can hurt while a spark is looked for.</summary>
    public const string SparkCaution =
        "Ignition fires with the battery off too: hands and petrol away from the tester, tester clipped to the block, blades or propeller clear. Never run it on with the kill disconnected.";

    /// <inheritdoc/>
    public override IReadOnlyList<(string Typed, string Words)> Answers =>
        [("2", "Sparks"), ("1", "Weak spark"), ("0", "No spark")];
}
