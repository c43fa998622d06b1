using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Observables;

/// <summary>What a test reads.</summary>
public enum Quantity
{
    /// <summary>Volts, direct.</summary>
    Volts,

    /// <summary>Ohms, with the battery off.</summary>
    Ohms,

    /// <summary>Whether a spark tester sparks: 0 none, 1 weak, 2 well.</summary>
    Spark,

    /// <summary>Amps, direct.</summary>
    Amps,

    /// <summary>The diode range: volts that about a milliamp leaves across, with the battery off.</summary>
    Diode,

    /// <summary>What happens while two points are joined: 0 nothing, 1 weakly, slowly or a click, 2 as it should.</summary>
    Action,

    /// <summary>How a bulb put in looks: 0 out, 1 dim, 2 bright.</summary>
    Glow,

    /// <summary>Volts, alternating, root mean square.</summary>
    AcVolts,

    /// <summary>Highest volts while the engine is pulled over, through a peak adapter.</summary>
    PeakVolts,

    /// <summary>Whether the meter beeps, with the battery off: 0 silent, 1 now and then, 2 beeps. No proof of a good joint.</summary>
    Beep,
}

/// <summary>
/// One scale for every quantity, so that beliefs and choice of test need not know which it is. Volts stay volts. Ohms and
/// amps, alternating and peak volts, which span decades, become 2·log10(1 + x/x₀): zero stays zero, a decade is two, and open circuit is the top. Spark
/// is two a step. All lie within −3 to 16, where a reading that says nothing is spread evenly.
/// </summary>
public static class Scale
{
    /// <summary>Where an open circuit lies.</summary>
    public const double Open = 16;

    private const double PerDecade = 2;

    // Below a tenth of an ohm two leads guess; below a milliamp nothing drains a battery.
    private const double LeastOhms = 0.1;
    private const double LeastAmps = 0.001;

    // Below some hundredths of a volt an AC range or a peak adapter shows its own noise.
    private const double LeastAlternating = 0.02;

    // Cheap AC ranges average, and adapters hold a little less than the peak: from memory.
    private const double AlternatingDoubt = 0.1;
    private const double SeenStep = 2;

    // Two leads and two contacts, however well they were shorted first: from memory.
    private const double LeadDoubtOhms = 0.08;

    // A spark tester or a bulb watched in daylight.
    private const double SeenDoubt = 0.8;

    /// <summary>What two looks of the same eye at the same thing differ by, on the scale: from memory.</summary>
    internal const double GlanceDoubt = 0.3;

    /// <summary>Variance of what all looks of one eye share.</summary>
    internal const double EyeVariance = (SeenDoubt * SeenDoubt) - (GlanceDoubt * GlanceDoubt);

    // Some meters show OL where others still count megohms.
    private const double OpenDoubt = 0.5;

    /// <summary>What the amp jack carries; more reads as this much, since its fuse goes.</summary>
    public const double MostAmps = 10;

    // Past this the diode range shows OL: from memory, as common meters do.
    private const double MostDiodeVolts = 2;
    private const double DiodeDoubt = 0.03;

    /// <summary>Whether the meter feeds a current of its own, so that the battery must be off.</summary>
    public static bool FeedsItself(Quantity quantity) => quantity is Quantity.Ohms or Quantity.Diode or Quantity.Beep;

    /// <summary>Whether it alternates: read with an engine turning, and as large as hundreds of volts.</summary>
    public static bool Alternates(Quantity quantity) => quantity is Quantity.AcVolts or Quantity.PeakVolts;

    /// <summary>Whether a meter can read it; what is only seen needs none.</summary>
    public static bool CanRead(Meter meter, Quantity quantity) =>
        quantity switch
        {
            Quantity.Volts => meter.Has(MeterFunction.DcVolts),
            Quantity.Ohms => meter.Has(MeterFunction.Ohms),
            Quantity.Amps => meter.Has(MeterFunction.DcAmps),
            Quantity.Diode => meter.Has(MeterFunction.Diode),
            Quantity.AcVolts => meter.Has(MeterFunction.AcVolts),
            Quantity.PeakVolts => meter.Has(MeterFunction.PeakVolts),
            Quantity.Beep => meter.Has(MeterFunction.Beep),
            _ => true,
        };

    /// <summary>Whether it is seen or heard in three steps rather than read off a meter.</summary>
    public static bool IsSeen(Quantity quantity) =>
        quantity is Quantity.Spark or Quantity.Action or Quantity.Glow or Quantity.Beep;

    /// <summary>What a continuity range says of so many ohms: 2 where every common meter beeps, 0 where none does.</summary>
    /// <param name="ohms">Ohms between the probes; common meters beep under 30 to 50 (common practice, no source).</param>
    public static double BeepOf(double ohms) =>
        ohms < 30 ? 2
        : ohms < 50 ? 1
        : 0;

    /// <summary>What a spark tester shows of a spark: 2 from the kilovolts that its gap wants, in proportion below.</summary>
    /// <param name="level">Kilovolts to hand over kilovolts needed.</param>
    public static double SparkOf(double level) => Math.Clamp(2 * level, 0, 2);

    /// <summary>A figure in the quantity's unit, on the scale.</summary>
    public static double Of(Quantity quantity, double figure) =>
        quantity switch
        {
            Quantity.Ohms => Math.Min(Open, PerDecade * Math.Log10(1 + (Math.Max(0, figure) / LeastOhms))),
            Quantity.Amps => PerDecade * Math.Log10(1 + (Math.Clamp(figure, 0, MostAmps) / LeastAmps)),
            Quantity.AcVolts or Quantity.PeakVolts => PerDecade
                * Math.Log10(1 + (Math.Max(0, figure) / LeastAlternating)),
            Quantity.Diode => figure > MostDiodeVolts ? Open : figure,
            _ when IsSeen(quantity) => SeenStep * figure,
            _ => figure,
        };

    /// <summary>Back to the quantity's unit; an open circuit is infinite.</summary>
    public static double Figure(Quantity quantity, double scaled) =>
        quantity switch
        {
            Quantity.Ohms or Quantity.Diode when scaled >= Open - 0.01 => double.PositiveInfinity,
            Quantity.Ohms => LeastOhms * (Math.Pow(10, scaled / PerDecade) - 1),
            Quantity.Amps => LeastAmps * (Math.Pow(10, scaled / PerDecade) - 1),
            Quantity.AcVolts or Quantity.PeakVolts => LeastAlternating * (Math.Pow(10, scaled / PerDecade) - 1),
            _ when IsSeen(quantity) => scaled / SeenStep,
            _ => scaled,
        };

    /// <summary>Standard deviation of one reading on the scale, a volts reading's gain error left out.</summary>
    public static double Noise(Meter meter, Quantity quantity, double scaled)
    {
        if (quantity == Quantity.Volts)
        {
            return meter.Noise(new Volts(scaled)).Value;
        }

        if (IsSeen(quantity))
        {
            return SeenDoubt;
        }

        if (FeedsItself(quantity) && scaled >= Open - 0.01)
        {
            return OpenDoubt;
        }

        var figure = Figure(quantity, scaled);
        return Doubt(meter, quantity, figure) * Steepness(quantity, figure);
    }

    /// <summary>
    /// Standard deviation on the scale of a reading where a certain one is expected. Errors are even in ohms, not on a scale
    /// that bends: a few tenths of an ohm read for none are no further off than none read for a few tenths. Taken half-way,
    /// where the scale is about as steep as the chord between the two.
    /// </summary>
    public static double Noise(Meter meter, Quantity quantity, double read, double expected) =>
        quantity == Quantity.Volts || IsSeen(quantity) ? Noise(meter, quantity, read)
        : FeedsItself(quantity) && Math.Max(read, expected) >= Open - 0.01 ? OpenDoubt
        : Noise(meter, quantity, (read + expected) / 2);

    /// <summary>Standard deviation of a reading that a meter's own current, or what alternates, gives; in its unit.</summary>
    internal static double Doubt(Meter meter, Quantity quantity, double figure) =>
        quantity switch
        {
            Quantity.AcVolts or Quantity.PeakVolts => (AlternatingDoubt * figure) + LeastAlternating,
            Quantity.Diode => DiodeDoubt,
            Quantity.Ohms => (figure * meter.OhmsAccuracyPercent / 100) + LeadDoubtOhms,
            _ => (figure * meter.OhmsAccuracyPercent / 100) + (LeastAmps / 2),
        };

    /// <summary>How much the scale rises for a unit of the quantity.</summary>
    private static double Steepness(Quantity quantity, double figure) =>
        quantity switch
        {
            Quantity.AcVolts or Quantity.PeakVolts => PerDecade / Math.Log(10) / (LeastAlternating + figure),
            Quantity.Ohms => PerDecade / Math.Log(10) / (LeastOhms + figure),
            Quantity.Amps => PerDecade / Math.Log(10) / (LeastAmps + figure),
            _ => 1,
        };

    /// <summary>Standard deviation of the gain error that all readings of one meter share, as a share of the reading.</summary>
    public static double GainSigma(Meter meter, Quantity quantity) => quantity == Quantity.Volts ? meter.GainSigma : 0;
}
