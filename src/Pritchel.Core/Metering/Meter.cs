using System.Globalization;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>What the meter is switched to.</summary>
public enum MeterFunction
{
    /// <summary>Volts, direct.</summary>
    DcVolts,

    /// <summary>Ohms, by the meter's own small source.</summary>
    Ohms,

    /// <summary>Continuity: a beep under some tens of ohms, which is not a good joint.</summary>
    Beep,

    /// <summary>Diode: the volts that about a milliamp leaves across.</summary>
    Diode,

    /// <summary>Amps, direct, through the meter's shunt; it is then a wire between the probes.</summary>
    DcAmps,

    /// <summary>Volts, alternating.</summary>
    AcVolts,

    /// <summary>Peak volts, through a peak-reading adapter: for ignition windings.</summary>
    PeakVolts,

    /// <summary>Not the meter but a test lamp between the two points: it loads what it touches.</summary>
    TestLamp,
}

/// <summary>A multimeter as its owner describes it.</summary>
public sealed record Meter
{
    /// <summary>What it is called in the header.</summary>
    public required string Name { get; init; }

    /// <summary>Input resistance on volts.</summary>
    public Ohms Input { get; init; } = new(10e6);

    /// <summary>Gain accuracy on DC volts, in percent of reading: ±0.5–1 % on cheap meters (common practice, no source).</summary>
    public double VoltsAccuracyPercent { get; init; } = 0.8;

    /// <summary>Last-digit accuracy, in counts.</summary>
    public int AccuracyCounts { get; init; } = 2;

    /// <summary>Display counts: 2000 shows 1.999, 19.99, 199.9.</summary>
    public int DisplayCounts { get; init; } = 2000;

    /// <summary>Both leads together, shorted.</summary>
    public Ohms Leads { get; init; } = new(0.2);

    /// <summary>Full scales of its volts ranges, ascending; it picks the lowest that holds the reading unless told.</summary>
    public IReadOnlyList<double> VoltsRanges { get; init; } = [2, 20, 200, 1000];

    /// <summary>Full scales of its ohms ranges, ascending.</summary>
    public IReadOnlyList<double> OhmsRanges { get; init; } = [200, 2e3, 20e3, 200e3, 2e6, 20e6];

    /// <summary>Accuracy on ohms, in percent of reading (from memory).</summary>
    public double OhmsAccuracyPercent { get; init; } = 1;

    /// <summary>Accuracy on AC volts, in percent of reading (from memory).</summary>
    public double AcAccuracyPercent { get; init; } = 1.5;

    /// <summary>
    /// Whether its AC range shows the true r.m.s. of any wave. Others take the rectified mean and multiply by π/(2√2), which
    /// is right for a sine only.
    /// </summary>
    public bool TrueRms { get; init; }

    /// <summary>
    /// Frequency at which its AC reading has fallen to 1/√2: a few hundred hertz on cheap meters (common practice, no source).
    /// </summary>
    public Hertz AcFadesAt { get; init; } = new(450);

    /// <summary>Whether a peak-reading adapter goes with it.</summary>
    public bool PeakAdapter { get; init; }

    /// <summary>What it can be switched to.</summary>
    public IReadOnlyList<MeterFunction> Functions { get; init; } =
    [
        MeterFunction.DcVolts,
        MeterFunction.AcVolts,
        MeterFunction.Ohms,
        MeterFunction.Beep,
        MeterFunction.Diode,
        MeterFunction.DcAmps,
        MeterFunction.TestLamp,
    ];

    /// <summary>Ohms under which it beeps: 30 to 50 on common meters (common practice, no source).</summary>
    public Ohms BeepsUnder { get; init; } = new(40);

    /// <summary>Open-circuit volts of its ohms ranges; half a volt opens no diode (from memory).</summary>
    public Volts OhmsSource { get; init; } = new(0.5);

    /// <summary>Open-circuit volts of its diode range (from memory).</summary>
    public Volts DiodeSource { get; init; } = new(2.8);

    /// <summary>Resistance behind them: about a milliamp into a short (from memory).</summary>
    public Ohms DiodeInside { get; init; } = new(2800);

    /// <summary>Shunt and leads on the amp jack together; the burden of a 10 A range (from memory).</summary>
    public Ohms AmpsBurden { get; init; } = new(0.03);

    /// <summary>Fuse behind the amp jack.</summary>
    public Amps AmpsFuse { get; init; } = new(10);

    /// <summary>Rated current of the test lamp carried beside it: 0.2 to 0.4 A at 12 V (common practice, no source).</summary>
    public Amps TestLamp { get; init; } = new(0.3);

    /// <summary>Whether the lead resistance has been nulled away.</summary>
    public bool LeadsNulled { get; init; }

    /// <summary>A cheap meter with ordinary leads.</summary>
    public static Meter Ordinary { get; } = new() { Name = "Ordinary meter" };

    /// <summary>Smallest step shown on DC volts at that size.</summary>
    public Volts Step(Volts volts)
    {
        foreach (var fullScale in VoltsRanges)
        {
            if (Math.Abs(volts.Value) < fullScale * (DisplayCounts - 1) / DisplayCounts)
            {
                return new Volts(fullScale / DisplayCounts);
            }
        }

        return new Volts(VoltsRanges[^1] / DisplayCounts);
    }

    /// <summary>The most a volts reading may be from the truth: percent of reading and counts.</summary>
    public Volts VoltsDoubt(Volts volts, bool alternating) =>
        new(
            (Math.Abs(volts.Value) * (alternating ? AcAccuracyPercent : VoltsAccuracyPercent) / 100)
                + (AccuracyCounts * Step(volts).Value)
        );

    /// <inheritdoc/>
    public bool Equals(Meter? other) =>
        other is not null && MeterFile.Write(this) == MeterFile.Write(other) && LeadsNulled == other.LeadsNulled;

    /// <inheritdoc/>
    public override int GetHashCode() => StringComparer.Ordinal.GetHashCode(Name);

    /// <summary>Whether it has a function.</summary>
    public bool Has(MeterFunction function) =>
        function == MeterFunction.PeakVolts ? PeakAdapter : Functions.Contains(function);

    /// <summary>Standard deviation of one DC-volts reading about the true figure, gain error left out.</summary>
    public Volts Noise(Volts volts) => new(AccuracyCounts * Step(volts).Value / 2);

    /// <summary>Standard deviation of the gain error, which all readings of one meter share.</summary>
    public double GainSigma => VoltsAccuracyPercent / 100 / 2;
}

/// <summary>What a meter shows, or why it should not be used there.</summary>
/// <param name="Value">Figure at the display in the base unit, before rounding; null when refused.</param>
/// <param name="Shown">Text on the display; "OL" when over range.</param>
/// <param name="Refusal">Why the reading is refused, or null.</param>
/// <param name="Jumps">The circuit chatters, so the figure will not stand still.</param>
public sealed record MeterDisplay(double? Value, string Shown, string? Refusal, bool Jumps)
{
    /// <summary>The most that the display may be from the truth by the meter's accuracy, in the reading's unit; null when it gives none.</summary>
    public double? Doubt { get; init; }

    /// <summary>Whether it shows OL.</summary>
    public bool OverRange => Value is { } value && double.IsInfinity(value);

    /// <summary>What shows when the figure is past the range.</summary>
    public static MeterDisplay Over { get; } = new(double.PositiveInfinity, "OL", null, false);

    /// <summary>A volts display on the meter's own choice of range, or on a range of some full scale.</summary>
    public static MeterDisplay OfVolts(Meter meter, Volts volts, bool jumps, double? range, bool alternating)
    {
        if (Math.Abs(volts.Value) >= (range ?? meter.VoltsRanges[^1]))
        {
            return Over with { Jumps = jumps };
        }

        var onRange = range is { } fullScale ? meter with { VoltsRanges = [fullScale] } : meter;
        return OfVolts(onRange, volts, jumps) with { Doubt = onRange.VoltsDoubt(volts, alternating).Value };
    }

    /// <summary>A volts display rounded to the meter's step.</summary>
    public static MeterDisplay OfVolts(Meter meter, Volts volts, bool jumps)
    {
        var step = meter.Step(volts).Value;
        var decimals = step switch
        {
            < 0.005 => "0.000",
            < 0.05 => "0.00",
            < 0.5 => "0.0",
            _ => "0",
        };
        var rounded = Math.Round(volts.Value / step) * step;
        return new MeterDisplay(
            volts.Value,
            rounded.ToString(decimals, CultureInfo.InvariantCulture) + " V",
            null,
            jumps
        );
    }

    internal static MeterDisplay Refused(string why) => new(null, "—", why, false);
}
