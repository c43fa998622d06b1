using Pritchel.Core.Metering;
using Pritchel.Core.Units;

namespace Pritchel.Core.Observables;

/// <summary>Whether the meter beeps, with the battery off: 0 silent, 1 now and then, 2 beeps. No proof of a good joint.</summary>
public sealed class Beep : Observable
{
    // A threshold is printed to no better than this share: from memory.
    private const double ThresholdShare = 0.25;
    private const double PerStep = 2;

    /// <summary>The one there is.</summary>
    public static Beep Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "beep";

    /// <inheritdoc/>
    public override string Name => "Beep";

    /// <inheritdoc/>
    public override bool WantsDeadCircuit => true;

    /// <inheritdoc/>
    public override bool IsSeen => true;

    /// <inheritdoc/>
    public override bool SharesAnEye => false;

    /// <inheritdoc/>
    public override bool CanBeWatched => true;

    /// <inheritdoc/>
    public override Minutes Handling => new(0.3);

    /// <inheritdoc/>
    public override double Most => 2;

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.Beep);

    /// <inheritdoc/>
    public override double Scaled(double figure) => PerStep * figure;

    /// <inheritdoc/>
    public override double Figure(double scaled) => scaled / PerStep;

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) => Eyesight.Seen / PerStep;

    /// <summary>What this meter's beep says of so many ohms: 2 where it surely beeps, 0 where it surely does not.</summary>
    public static double Of(Meter meter, double ohms) =>
        ohms < (1 - ThresholdShare) * meter.BeepsUnder.Value ? 2
        : ohms < (1 + ThresholdShare) * meter.BeepsUnder.Value ? 1
        : 0;

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) =>
        Of(@case.Meter, @case.DeadOhms(red, black));

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) => Of(part.Meter, part.Ohms());

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black)
    {
        var display = Metering.Bench.Read(
            @case.Case,
            @case.Meter with
            {
                LeadsNulled = true,
            },
            MeterFunction.Ohms,
            red,
            black
        );
        var beeps = !display.OverRange && display.Value < @case.Meter.BeepsUnder.Value;
        return display.Jumps ? null : Scaled(beeps ? 2 : 0);
    }

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) => "the beep range; touch the leads together first";

    /// <inheritdoc/>
    public override string Caution(Jump? jump) =>
        "A beep is anything under 30 to 50 Ω, and no proof of a good joint; silence through a diode is not an open.";

    /// <inheritdoc/>
    public override IReadOnlyList<(string Typed, string Words)> Answers =>
        [("2", "Beeps"), ("1", "Now and then"), ("0", "Silent")];
}
