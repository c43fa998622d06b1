using Pritchel.Core.Metering;
using Pritchel.Core.Observables;

namespace Pritchel.Core.PartTests.Points;

/// <summary>How a figure lies to its target.</summary>
public enum PointOutcome
{
    /// <summary>Not read yet.</summary>
    NotRead,

    /// <summary>As it should be, the meter's doubt included.</summary>
    Within,

    /// <summary>Not as it should be, the meter's doubt included.</summary>
    Outside,

    /// <summary>So near a limit that this meter cannot tell.</summary>
    CannotTell,
}

/// <summary>Two points of somebody's own choice, and what should be read between them.</summary>
/// <param name="Id">What it is known by on its sheet.</param>
/// <param name="Words">Where the probes go, and how things stand: "battery + to starter stud, cranking".</param>
/// <param name="Reads">How it is read.</param>
/// <param name="Wanted">What it should come to.</param>
public sealed record Point(string Id, string Words, Observable Reads, Wanted Wanted)
{
    // Two standard deviations to either side: nineteen readings in twenty lie no further off.
    private const double Sigmas = 2;

    /// <summary>What a figure lies off by at the most with a meter, in its unit: two standard deviations of the meter's own.</summary>
    /// <param name="figure">What was read; finite.</param>
    /// <param name="typed">As typed, whose last digit is half a step of doubt.</param>
    /// <param name="meter">The meter it was read with.</param>
    public double DoubtOf(double figure, string typed, Meter meter)
    {
        var digits = Reads.Read(typed, out _)?.Digits;
        var steepness = Reads.Steepness(figure);
        var one = steepness > 0 ? Reads.Noise(meter, Reads.Scaled(figure), digits) / steepness : 0;
        var gain = Reads.GainSigma(meter) * figure;
        return Sigmas * Math.Sqrt((one * one) + (gain * gain));
    }

    /// <summary>How a figure lies to the target.</summary>
    /// <param name="figure">What was read, leads taken off; infinite for OL.</param>
    /// <param name="doubt">What it lies off by at the most.</param>
    public PointOutcome Judge(double figure, double doubt)
    {
        if (double.IsInfinity(figure))
        {
            return double.IsInfinity(Wanted.Most) ? PointOutcome.Within : PointOutcome.Outside;
        }

        var (low, high) = (figure - doubt, figure + doubt);
        return low >= Wanted.Least && high <= Wanted.Most ? PointOutcome.Within
            : high < Wanted.Least || low > Wanted.Most ? PointOutcome.Outside
            : PointOutcome.CannotTell;
    }
}
