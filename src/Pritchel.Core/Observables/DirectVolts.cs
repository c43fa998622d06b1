using Pritchel.Core.Metering;
using Pritchel.Core.Units;

namespace Pritchel.Core.Observables;

/// <summary>Volts, direct, across two points of a live circuit. The scale is volts themselves.</summary>
public sealed class DirectVolts : Observable
{
    // A twelve-volt system charging stays under this: what range a card names.
    private const double Holds = 16;

    /// <summary>The one there is.</summary>
    public static DirectVolts Instance { get; } = new();

    /// <inheritdoc/>
    public override string Key => "volts";

    /// <inheritdoc/>
    public override string Name => "Volts";

    /// <inheritdoc/>
    public override string Unit => "V";

    /// <inheritdoc/>
    public override bool IsNeverNegative => false;

    /// <inheritdoc/>
    public override bool SharesModelError => true;

    /// <inheritdoc/>
    public override bool DampDecides => true;

    /// <inheritdoc/>
    public override bool CanBeWatched => true;

    /// <inheritdoc/>
    public override double Most => 60;

    /// <inheritdoc/>
    public override bool CanRead(Meter meter) => meter.Has(MeterFunction.DcVolts);

    /// <inheritdoc/>
    public override double Scaled(double figure) => figure;

    /// <inheritdoc/>
    public override double Figure(double scaled) => scaled;

    /// <inheritdoc/>
    public override double Doubt(Meter meter, double figure) => meter.Noise(new Volts(figure)).Value;

    /// <inheritdoc/>
    public override double GainSigma(Meter meter) => meter.GainSigma;

    /// <summary>
    /// Counts of the range that the digits speak of, and the digits: "0.01" on a range of hundredths is not a reading to a
    /// thousandth, and "12.4" is anything from 12.35 to 12.45.
    /// </summary>
    public override double Noise(Meter meter, double scaled, TypedDigits? digits = null)
    {
        if (digits is not { } typed)
        {
            return Doubt(meter, scaled);
        }

        var range = RangeOf(meter, typed);
        return Spread(meter.AccuracyCounts * range / meter.DisplayCounts / 2, digits);
    }

    /// <inheritdoc/>
    public override double Noise(Meter meter, double read, double expected, TypedDigits? digits) =>
        Noise(meter, read, digits);

    /// <summary>Full scale that a card names: the lowest that holds a system of twelve volts charging.</summary>
    public static Volts RangeNamed(Meter meter) =>
        new(meter.VoltsRanges.FirstOrDefault(r => r >= Holds, meter.VoltsRanges[^1]));

    /// <inheritdoc/>
    protected override double Predict(IPredictedCase @case, int red, int black) => @case.State.Drop(red, black);

    /// <inheritdoc/>
    public override double OnBench(IBenchCase part) =>
        part.Turns ? part.MeanVolts() : part.Volts(0, part.Meter.Input.Value);

    /// <inheritdoc/>
    public override double? Simulate(ISimulatedCase @case, int red, int black)
    {
        var meter = @case.Meter;
        var display = Metering.Bench.Read(
            @case.Case,
            meter with
            {
                LeadsNulled = true,
            },
            MeterFunction.DcVolts,
            red,
            black
        );
        if (display.Jumps)
        {
            return null;
        }

        var volts =
            (display.Value!.Value * @case.Gain) + (meter.Noise(new Volts(display.Value.Value)).Value * @case.Chance());
        var step = meter.Step(new Volts(volts)).Value;
        return Math.Round(volts / step) * step;
    }

    /// <inheritdoc/>
    protected override double? OverRange(out string error)
    {
        error = "OL on DC volts means the range is too small. Turn it up one and type the figure.";
        return null;
    }

    /// <inheritdoc/>
    public override string HowToSet(Meter meter, Jump? jump) =>
        $"DC volts, {Engineering.Format(RangeNamed(meter).Value, "V")} range";

    /// <inheritdoc/>
    public override string Said(double figure) => Engineering.Reading(new Volts(figure));

    /// <summary>A range of volts: "12.1 to 12.4 V", "0 V, nearly".</summary>
    public override string SaidRange(double low, double high)
    {
        const double Nothing = 0.03;
        var (a, b) = (Said(low), Said(high));
        return a == b ? a
            : Math.Abs(low) < Nothing && Math.Abs(high) < Nothing ? "0 V, nearly"
            : a.EndsWith(" V", StringComparison.Ordinal) && b.EndsWith(" V", StringComparison.Ordinal)
                ? $"{a[..^2]} to {b}"
            : a.EndsWith(" mV", StringComparison.Ordinal) && b.EndsWith(" mV", StringComparison.Ordinal)
                ? $"{a[..^3]} to {b}"
            : $"{a} to {b}";
    }

    /// <summary>
    /// The range that digits speak of: the coarsest that shows as many, and none coarser than the card names. More digits
    /// than any range shows are taken for the finest.
    /// </summary>
    private static double RangeOf(Meter meter, TypedDigits typed)
    {
        // Digits come as powers of ten and steps as quotients: a hair of slack between the two.
        const double Slack = 1.001;
        var named = RangeNamed(meter).Value;
        var shows = meter.VoltsRanges.Where(r => r <= named && r / meter.DisplayCounts <= typed.Step * Slack).ToList();
        return shows.Count > 0 ? shows[^1] : meter.VoltsRanges[0];
    }
}
