using Pritchel.Core.Metering;
using Pritchel.Core.Units;

namespace Pritchel.Core.Observables;

/// <summary>
/// Something that a test reads, sees or hears: its scale, its doubt, how it is predicted and simulated, how it is typed and
/// said. One file each, found by <see cref="ObservableCatalogue"/>.
/// </summary>
/// <remarks>
/// Beliefs and the choice of tests work on one scale for all, so that they need not know which it is. All scales lie within
/// −3 to 16, where a reading that says nothing is spread evenly; <see cref="Open"/> is an open circuit.
/// </remarks>
public abstract class Observable
{
    /// <summary>Where an open circuit lies on every scale.</summary>
    public const double Open = 16;

    /// <summary>Standard deviation about an open circuit: some meters show OL where others still count megohms.</summary>
    protected const double OpenDoubt = 0.5;

    /// <summary>As kept in the record and named over the API; never changed once used.</summary>
    public abstract string Key { get; }

    /// <summary>How a title begins: "Volts", "Look for a spark".</summary>
    public abstract string Name { get; }

    /// <summary>Unit of its figures; empty for what is seen or heard.</summary>
    public virtual string Unit => "";

    /// <summary>Whether the meter feeds a current of its own, so that the battery must be off and nothing may turn.</summary>
    public virtual bool WantsDeadCircuit => false;

    /// <summary>Whether it alternates: read with an engine turning, and as large as hundreds of volts.</summary>
    public virtual bool Alternates => false;

    /// <summary>Whether it is seen or heard in three steps rather than read off a meter.</summary>
    public virtual bool IsSeen => false;

    /// <summary>Whether a figure of zero or more is all there can be.</summary>
    public virtual bool IsNeverNegative => true;

    /// <summary>Whether all looks at it are judged by one eye, whose error they share.</summary>
    public virtual bool SharesAnEye => IsSeen;

    /// <summary>Whether damp decides what is read from live metal to metal that floats: nothing or all there is (common practice, no source).</summary>
    public virtual bool DampDecides => false;

    /// <summary>Whether readings of one condition share the model's error, as volts along one circuit do.</summary>
    public virtual bool SharesModelError => false;

    /// <summary>Whether it can be watched for a minute while hands are busy.</summary>
    public virtual bool CanBeWatched => false;

    /// <summary>Whether a probe must be held to both points; false for what is watched from away.</summary>
    public virtual bool IsProbed => true;

    /// <summary>Whether it is told by the two points it is read between; false where how it is set up says where.</summary>
    public virtual bool IsToldByPoints => IsProbed;

    /// <summary>What shows on the scale while a probe touches nothing; null where that is no figure.</summary>
    public double? Untouched =>
        IsSeen || !IsProbed ? null
        : WantsDeadCircuit ? Open
        : 0;

    /// <summary>Minutes of one reading once everything is set up: common practice, no source.</summary>
    public virtual Minutes Handling => new(0.5);

    /// <summary>Largest figure that can be meant; more is a slip of the finger.</summary>
    public abstract double Most { get; }

    /// <summary>Whether a meter can read it; what is only seen needs none.</summary>
    public virtual bool CanRead(Meter meter) => true;

    /// <summary>A figure in its unit, on the scale.</summary>
    public abstract double Scaled(double figure);

    /// <summary>Back to its unit; an open circuit is infinite.</summary>
    public abstract double Figure(double scaled);

    /// <summary>How much the scale rises for a unit.</summary>
    public virtual double Steepness(double figure) => 1;

    /// <summary>Standard deviation of one reading in its unit, gain error and digits left out.</summary>
    /// <param name="meter">The meter in use.</param>
    /// <param name="figure">About what is read.</param>
    public abstract double Doubt(Meter meter, double figure);

    /// <summary>Standard deviation of the gain error that all readings of one meter share, as a share of the reading.</summary>
    public virtual double GainSigma(Meter meter) => 0;

    /// <summary>Standard deviation of one reading on the scale, gain error left out.</summary>
    /// <param name="meter">The meter in use.</param>
    /// <param name="scaled">What was read, on the scale.</param>
    /// <param name="digits">The last digit that was typed; null where the display is taken as it is.</param>
    public virtual double Noise(Meter meter, double scaled, TypedDigits? digits = null)
    {
        if (IsSeen)
        {
            return Eyesight.Seen;
        }

        if (WantsDeadCircuit && scaled >= Open - 0.01)
        {
            return OpenDoubt;
        }

        var figure = Figure(scaled);
        return Spread(Doubt(meter, figure), digits) * Steepness(figure);
    }

    /// <summary>
    /// Standard deviation on the scale of a reading where a certain one is expected. Errors are even in ohms, not on a scale
    /// that bends: a few tenths of an ohm read for none are no further off than none read for a few tenths. Taken half-way,
    /// where the scale is about as steep as the chord between the two.
    /// </summary>
    public virtual double Noise(Meter meter, double read, double expected, TypedDigits? digits) =>
        IsSeen ? Eyesight.Seen
        : WantsDeadCircuit && Math.Max(read, expected) >= Open - 0.01 ? OpenDoubt
        : Noise(meter, (read + expected) / 2, digits);

    /// <summary>What this observable reads at every pair in a case that is being predicted, in its unit.</summary>
    /// <param name="case">The case, settled as the condition wants it.</param>
    /// <param name="pairs">Nodes under the red and the black probe.</param>
    /// <param name="figures">Filled by pair.</param>
    public virtual void Predict(IPredictedCase @case, IReadOnlyList<(int Red, int Black)> pairs, Span<double> figures)
    {
        for (var i = 0; i < pairs.Count; i++)
        {
            figures[i] = Predict(@case, pairs[i].Red, pairs[i].Black);
        }
    }

    /// <summary>What it reads at one pair, in its unit.</summary>
    protected virtual double Predict(IPredictedCase @case, int red, int black) =>
        throw new NotSupportedException($"{Key} is predicted for all pairs at once.");

    /// <summary>
    /// What a meter shows on a simulated machine, on the scale, with this meter's errors and rounding; null when the figure
    /// jumps about.
    /// </summary>
    public abstract double? Simulate(ISimulatedCase @case, int red, int black);

    /// <summary>What it shows of a part on its bench, in its unit; an open circuit is infinite.</summary>
    /// <exception cref="NotSupportedException">It is nothing that a part by itself shows.</exception>
    public virtual double OnBench(IBenchCase part) =>
        throw new NotSupportedException($"{Key} is not read of a part on its bench.");

    /// <summary>Reads a figure as typed.</summary>
    /// <param name="typed">As typed.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    /// <returns>The figure in its unit, infinite for an open circuit, with its digits; null when it is refused.</returns>
    public TypedFigure? Read(string? typed, out string error)
    {
        typed = Answered(typed?.Trim()) ?? typed;
        if (!ReadingText.TryParse(typed, Most, out var reading, out error))
        {
            return null;
        }

        var figure = reading.IsOverRange ? OverRange(out error) : Within(reading.Value, out error);
        return figure is { } read
            ? new TypedFigure(read, reading.IsOverRange ? null : new TypedDigits(reading.Step))
            : null;
    }

    /// <summary>An answer said in its words, or in one of them; null for none.</summary>
    private string? Answered(string? said)
    {
        const int LeastLetters = 3;
        return said is null || said.Length < LeastLetters || !said.All(c => char.IsLetter(c) || c is ' ' or ',')
            ? null
            : Answers
                .OrderByDescending(a => a.Words.Equals(said, StringComparison.OrdinalIgnoreCase))
                .Where(a => a.Words.Contains(said, StringComparison.OrdinalIgnoreCase))
                .Select(a => a.Typed)
                .FirstOrDefault();
    }

    /// <summary>What OL means; null with what is wrong where it means nothing.</summary>
    protected virtual double? OverRange(out string error)
    {
        error = WantsDeadCircuit
            ? ""
            : "OL means that the range is too small here. Turn it up one and type the figure.";
        return WantsDeadCircuit ? double.PositiveInfinity : null;
    }

    /// <summary>A figure that was read; null with what is wrong.</summary>
    protected virtual double? Within(double value, out string error)
    {
        error =
            value < 0 && IsNeverNegative
                ? $"{Name} never reads below zero. Type 0 or more{(WantsDeadCircuit ? ", or OL" : "")}."
                : "";
        return error.Length == 0 ? Math.Abs(value) * (IsNeverNegative ? 1 : Math.Sign(value)) : null;
    }

    /// <summary>How the meter is set, for the card.</summary>
    /// <param name="meter">The meter in use.</param>
    /// <param name="jump">What joins the two points, where something does.</param>
    public abstract string HowToSet(Meter meter, Jump? jump);

    /// <summary>What can hurt, said before the step; null when nothing more than usual can.</summary>
    public virtual string? Caution(Jump? jump) => null;

    /// <summary>Answers to what is seen or heard, best first, with what is typed for each; none for what is read.</summary>
    public virtual IReadOnlyList<(string Typed, string Words)> Answers => [];

    /// <summary>A figure in words, three significant digits at most, or the answer it stands for.</summary>
    public virtual string Said(double figure)
    {
        if (!IsSeen)
        {
            return Engineering.Format(figure, Unit);
        }

        var step = figure switch
        {
            >= 1.5 => 0,
            >= 0.5 => 1,
            _ => 2,
        };
        return Answers[step].Words.ToLowerInvariant();
    }

    /// <summary>Smallest figure that two leads tell from none.</summary>
    protected virtual double LeastTold => 0.001;

    /// <summary>A range given on the scale, in words.</summary>
    public virtual string SaidRange(double low, double high)
    {
        string Told(double figure) =>
            IsSeen ? Said(figure)
            : double.IsInfinity(figure) ? "OL"
            : figure < LeastTold ? "nearly 0"
            : Engineering.Format(TwoDigits(figure), Unit);
        var (from, to) = (Told(Figure(low)), Told(Figure(high)));
        return from == to ? from : $"{from} to {to}";
    }

    /// <inheritdoc/>
    public override string ToString() => Key;

    /// <summary>Doubt of the display and of the digits together: the last digit is even within half a step either way.</summary>
    protected static double Spread(double doubt, TypedDigits? digits) =>
        digits is { } typed ? Math.Sqrt((doubt * doubt) + (typed.Step * typed.Step / 12)) : doubt;

    /// <summary>Two figures of a reading whose doubt is in the second.</summary>
    private static double TwoDigits(double figure)
    {
        var step = Math.Pow(10, Math.Floor(Math.Log10(figure)) - 1);
        return Math.Round(figure / step) * step;
    }
}

/// <summary>A figure as typed.</summary>
/// <param name="Value">In its unit; infinite for an open circuit.</param>
/// <param name="Digits">How finely it was typed; null where that says nothing.</param>
public readonly record struct TypedFigure(double Value, TypedDigits? Digits);

/// <summary>How finely a figure was typed.</summary>
/// <param name="Step">Worth of its last digit, in its unit.</param>
public readonly record struct TypedDigits(double Step);

/// <summary>What eyes and ears are good for. From memory.</summary>
internal static class Eyesight
{
    /// <summary>A spark tester or a bulb watched in daylight, on the scale.</summary>
    public const double Seen = 0.8;

    /// <summary>What two looks of the same eye at the same thing differ by, on the scale.</summary>
    public const double Glance = 0.3;

    /// <summary>Variance of what all looks of one eye share.</summary>
    public const double SharedVariance = (Seen * Seen) - (Glance * Glance);
}
