using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>Volts left at one point of a line.</summary>
/// <param name="Node">The point.</param>
/// <param name="Low">Lower edge of healthy.</param>
/// <param name="Middle">Middle of healthy.</param>
/// <param name="High">Upper edge of healthy.</param>
/// <param name="Suspected">What the first suspect would leave there.</param>
public readonly record struct Step(int Node, double Low, double Middle, double High, double Suspected);

/// <summary>Where sound wiring would read at one place.</summary>
/// <param name="WorkingLow">Lower edge while the machine works.</param>
/// <param name="WorkingHigh">Upper edge of that.</param>
/// <param name="IdleLow">Lower edge while its load draws nothing, or nothing draws at all.</param>
/// <param name="IdleHigh">Upper edge of that.</param>
/// <param name="Meter">Meter whose doubt counts.</param>
/// <param name="Observable">What is read; the bands are on its scale.</param>
public readonly record struct SoundBands(
    double WorkingLow,
    double WorkingHigh,
    double IdleLow,
    double IdleHigh,
    Meter Meter,
    Observable Observable
)
{
    // Below this a difference is nobody's fault: probe contact, settling. From memory.
    private const double SlackVolts = 0.03;

    /// <summary>Half of what a twelve-volt battery gives, in volts: good feeds lie above, good drops below.</summary>
    public const double HalfTheVolts = 6;

    /// <summary>Whether a reading lies in either band, within the meter's doubt.</summary>
    public bool Agrees(double volts) => LikeWorking(volts) || LikeIdle(volts);

    /// <summary>Whether a reading lies above both bands, and more than the meter's doubt above.</summary>
    public bool IsBelow(double read) => !Agrees(read) && read > Math.Max(WorkingHigh, IdleHigh);

    /// <summary>Whether a reading lies in the idle band.</summary>
    public bool LikeIdle(double volts) => Within(volts, IdleLow, IdleHigh);

    private bool LikeWorking(double volts) => Within(volts, WorkingLow, WorkingHigh);

    private bool Within(double volts, double low, double high)
    {
        var doubt =
            (2 * Observable.Noise(Meter, volts)) + (2 * Observable.GainSigma(Meter) * Math.Abs(volts)) + SlackVolts;
        return volts >= low - doubt && volts <= high + doubt;
    }
}

/// <summary>Volts left along a line, above battery negative: healthy band and the first suspect's.</summary>
public static class Staircase
{
    // What is drawn and said of sound wiring: 5th to 95th percentile.
    private const double Edge = 0.05;

    /// <summary>Steps of a line in one condition; the heavy line against a machine at work, any other against one whose load is idle.</summary>
    public static IReadOnlyList<Step> Of(Beliefs beliefs, LinePath line, int condition)
    {
        var heavy = line.Part == beliefs.Table.Duty.Load;
        var draws = beliefs.DrawWeights;
        var first = beliefs.Leading;
        var reference = beliefs.Table.Circuit.Reference;
        return
        [
            .. line.Nodes.Select(n =>
            {
                var at = new ProbePair(condition, n, reference);
                var (low, middle, high) = heavy
                    ? Band(beliefs.Table.Healthy, beliefs, at, draws, Edge)
                    : IdleBand(beliefs, at, draws);
                var suspected = first is null ? middle : Middle(beliefs, beliefs.LeadingIndex, at);
                return new Step(n, low, middle, high, suspected);
            }),
        ];
    }

    /// <summary>
    /// Where sound wiring would read, 5th to 95th percentile, meter noise left out. Two bands: the machine at work, and
    /// the machine whose load draws nothing. The battery sags for the one and not for the other, and wiring is good if
    /// it reads like either; of a load that is told to do too much, or of a needle that stands somewhere, only like the first.
    /// </summary>
    public static SoundBands Sound(Beliefs beliefs, ProbePair at)
    {
        var draws = beliefs.DrawWeights;
        var (low, _, high) = Band(beliefs.Table.Healthy, beliefs, at, draws, Edge);
        var observable = beliefs.Table.Conditions[at.Condition].Observable;
        if (!beliefs.Table.Conditions[at.Condition].IsFree || Draws(beliefs))
        {
            return new SoundBands(low, high, low, high, beliefs.Meter, observable);
        }

        var (idleLow, _, idleHigh) = IdleBand(beliefs, at, draws);
        return new SoundBands(low, high, idleLow, idleHigh, beliefs.Meter, observable);
    }

    /// <summary>
    /// Where it must read once it is mended: as the machine at work, 1st to 99th percentile, or up to half of the way from there to where it
    /// stands with its load idle, since a sound machine must not fail its proof for a strong battery or a warm engine. Idle itself is what
    /// it was brought for.
    /// </summary>
    public static SoundBands Mended(Beliefs beliefs, ProbePair at)
    {
        const double Outermost = 0.01;
        var draws = beliefs.DrawWeights;
        var (low, _, high) = Band(beliefs.Table.Healthy, beliefs, at, draws, Outermost);
        var condition = beliefs.Table.Conditions[at.Condition];
        if (condition.IsFree && !Draws(beliefs))
        {
            var (idleLow, _, idleHigh) = Band(beliefs.Table.Idle, beliefs, at, draws, Outermost);
            (low, high) = (idleHigh < low ? (low + idleHigh) / 2 : low, idleLow > high ? (high + idleLow) / 2 : high);
        }

        return new SoundBands(low, high, low, high, beliefs.Meter, condition.Observable);
    }

    /// <summary>Whether the complaint itself says that its load draws.</summary>
    private static bool Draws(Beliefs beliefs) =>
        beliefs.Complaint.Heard == Heard.TooMuch
        || (beliefs.Complaint.Heard == Heard.Slow && beliefs.Table.Effect == EffectKind.Reads);

    /// <summary>What the likeliest hypothesis would show at a place, in volts.</summary>
    public static double Suspected(Beliefs beliefs, ProbePair at) =>
        beliefs.Leading is null ? 0 : Middle(beliefs, beliefs.LeadingIndex, at);

    /// <summary>What a fault would show at a place by what is believed of its severity, on the scale of what is read there.</summary>
    /// <exception cref="InvalidOperationException">No hypothesis of the table is that fault.</exception>
    public static double Shown(Beliefs beliefs, Fault fault, ProbePair at) =>
        Middle(
            beliefs,
            Enumerable
                .Range(0, beliefs.Table.Hypotheses.Count)
                .First(h => beliefs.Table.Hypotheses[h].Fault?.Id == fault.Id),
            at
        );

    /// <summary>Whether a reading agrees with sound wiring, within its spread and the meter's own error.</summary>
    public static bool Agrees(Beliefs beliefs, ProbePair at, double volts) => Sound(beliefs, at).Agrees(volts);

    private static (double, double, double) Band(
        Hypothesis sound,
        Beliefs beliefs,
        ProbePair at,
        double[] draws,
        double edge
    )
    {
        var sorted = Sorted(sound.Across(at), draws);
        return (Quantiles.Of(sorted, edge), Quantiles.Of(sorted, 0.5), Quantiles.Of(sorted, 1 - edge));
    }

    /// <summary>What shows at a place by each particle with the particle's weight, the least first.</summary>
    private static (double Figure, double Weight)[] Sorted(Across figures, ReadOnlySpan<double> weights)
    {
        var sorted = new (double Figure, double Weight)[weights.Length];
        for (var p = 0; p < sorted.Length; p++)
        {
            sorted[p] = (figures[p], weights[p]);
        }

        Array.Sort(sorted);
        return sorted;
    }

    /// <summary>
    /// From idle to no current at all: between the two, wiring is good whatever is drawn beyond it. Not where that would be anything from
    /// nothing to all there is: what the part that commands would have joined is not joined then, and says nothing of sound wiring.
    /// </summary>
    private static (double, double, double) IdleBand(Beliefs beliefs, ProbePair at, double[] draws)
    {
        var (low, middle, high) = Band(beliefs.Table.Idle, beliefs, at, draws, Edge);
        var (unloadedLow, _, unloadedHigh) = Band(beliefs.Table.Unloaded, beliefs, at, draws, Edge);
        var (least, most) = (Math.Min(low, unloadedLow), Math.Max(high, unloadedHigh));
        return
            beliefs.Table.Conditions[at.Condition].Observable is DirectVolts && most - least > SoundBands.HalfTheVolts
            ? (low, middle, high)
            : (least, middle, most);
    }

    /// <summary>Median of what a hypothesis shows at a place, by its own weights; that of the sound machine where it shows nothing of its own.</summary>
    private static double Middle(Beliefs beliefs, int index, ProbePair at)
    {
        var weights = beliefs.Weights(index);
        var hypothesis = beliefs.Hypothesis(index);
        var shown = hypothesis.HasPredictions ? hypothesis : beliefs.Table.Healthy;
        return Quantiles.Of(Sorted(shown.Across(at), weights), 0.5);
    }
}
