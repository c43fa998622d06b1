using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// Weighs the particles of one hypothesis. Each is carried twice: as a fault that is always there, and as one that
/// comes and goes and was there or not when each reading was taken.
/// </summary>
internal sealed class ParticleWeigher(
    Beliefs beliefs,
    Hypothesis hypothesis,
    double[] gains,
    double[]? lampsLikeHealthy
)
{
    private readonly int count = beliefs.Table.Particles;

    // Model error at one point: probe contact, wires not as drawn in length; from memory.
    private const double DiscrepancyVolts = 0.008;
    private const double DiscrepancyShare = 0.003;

    // The same with an engine turning its charge windings: a throttle held by hand, and what a meter makes of chopped waves.
    // From memory.
    private const double TurningVolts = 0.04;
    private const double TurningShare = 0.01;

    // Behind a blocking diode a figure hangs on its leak, which is known to a decade at best: nearly anything may stand there
    // that a leak can pull it to, and a tenth more or less tells nothing. Common practice, no source.
    private const double LeakVolts = 0.5;
    private const double LeakShare = 0.5;

    // Kernel width, as a share of the hypothesis's own spread of predictions: 64 particles leave gaps.
    private const double KernelShare = 0.25;
    private const double WidestKernelVolts = 0.4;

    // An eighth of the particles about the middle of a normal spread lie within a third of its deviation.
    private const int NeighbourShare = 8;
    private const double SpansADeviation = 3;

    // Fewer particles leave wider gaps: by eye on rehearsals, between the fifth root of a smooth density and none.
    private const double FewParticlesPower = 0.3;
    private double widening = 1;

    private readonly double[] always = new double[beliefs.Table.Particles];
    private readonly double[] sometimes = new double[beliefs.Table.Particles];
    private readonly double[] widths = new double[beliefs.Table.Particles];
    private readonly double[] healthyWidths = new double[beliefs.Table.Particles];
    private readonly double[] figures = new double[beliefs.Table.Particles];
    private readonly SharedError errors = new();
    private readonly SharedError healthyErrors = new();
    private readonly int[] places = new int[beliefs.Table.Particles];

    /// <summary>Weights after the complaint and before any reading.</summary>
    public double[] Told { get; } = new double[beliefs.Table.Particles];

    public double[] Weigh(double prior, IReadOnlyList<GroupedReading> readings)
    {
        var complaint = beliefs.Complaint;
        var comesAndGoes = hypothesis.Fault is { ComesAndGoes: true } ? Likelihood.ComesAndGoesShare : 0;
        var tries = (
            Always: Likelihood.OfTriesAlways(complaint, comesAndGoes),
            Sometimes: Likelihood.OfTriesSometimes(complaint, comesAndGoes)
        );
        for (var p = 0; p < count; p++)
        {
            var told = prior * hypothesis.Mass(p) * ComplaintLikelihood(p);
            always[p] = told * tries.Always;
            sometimes[p] = told * tries.Sometimes;
            Told[p] = always[p] + sometimes[p];
        }

        widening = Math.Pow(count / Effective(), FewParticlesPower);
        foreach (var reading in readings)
        {
            Apply(reading);
        }

        var sum = new double[count];
        for (var p = 0; p < count; p++)
        {
            sum[p] = always[p] + sometimes[p];
        }

        return sum;
    }

    private double ComplaintLikelihood(int particle)
    {
        // A sound circuit leaves the engine unwilling for another reason; its rate says how often.
        var likelihood =
            hypothesis.Fault is null && beliefs.Complaint.Heard == Heard.WillNotStart
                ? 1
                : Likelihood.OfHeard(
                    beliefs.Complaint.Heard,
                    hypothesis.HeardBy[particle],
                    byDegrees: beliefs.Table.Effect != EffectKind.Turns
                );
        if (lampsLikeHealthy is not null && !hypothesis.HasPredictions)
        {
            return likelihood * lampsLikeHealthy[particle];
        }

        return likelihood * LampLikelihood(beliefs, hypothesis, particle);
    }

    /// <summary>Chance that the lamps were seen as they were, with this particle.</summary>
    public static double LampLikelihood(Beliefs beliefs, Hypothesis shown, int particle)
    {
        double likelihood = 1;
        foreach (var (lamp, condition, look) in beliefs.LampsSeen)
        {
            likelihood *= Likelihood.OfLamp(look, shown.Glow(condition, lamp)[particle]);
        }

        // Looks at several lamps by one pair of eyes in one light are not independent: past three, they count as three.
        const double Fullycounted = 3;
        return beliefs.LampsSeen.Count <= Fullycounted
            ? likelihood
            : Math.Pow(likelihood, Fullycounted / beliefs.LampsSeen.Count);
    }

    private void Apply(GroupedReading reading)
    {
        var healthy = beliefs.Table.Healthy;
        var faulty = hypothesis.HasPredictions ? hypothesis : healthy;
        Widen(faulty, reading, widths);
        var watched = reading.Symptom == SymptomNow.Present || ReferenceEquals(faulty, healthy);
        var there = Densities(faulty, reading, widths, errors);
        var away = there;
        if (!watched)
        {
            Widen(healthy, reading, healthyWidths);
            away = Densities(healthy, reading, healthyWidths, healthyErrors);
        }

        var present = Likelihood.Presence(beliefs.Complaint);
        for (var p = 0; p < count; p++)
        {
            switch (reading.Symptom)
            {
                case SymptomNow.Absent:
                    always[p] *= away[p] * Likelihood.HardFaultSaidToComeAndGo;
                    sometimes[p] *= away[p];
                    break;
                case SymptomNow.NotWatched:
                    always[p] *= there[p];
                    sometimes[p] *= (present * there[p]) + ((1 - present) * away[p]);
                    break;
                default:
                    always[p] *= there[p];
                    sometimes[p] *= there[p];
                    break;
            }
        }
    }

    /// <summary>How probable a reading is by each particle, given the readings before it.</summary>
    private double[] Densities(Hypothesis shown, GroupedReading reading, double[] kernels, SharedError shared)
    {
        var (densities, predicted, model) = (new double[count], new double[count], new double[count]);
        var observable = beliefs.Table.Conditions[reading.At.Condition].Observable;
        var anything = Likelihood.WildDensity(observable);
        if (!beliefs.Table.Predicts(reading.At.Condition) || !beliefs.Table.Follows(reading.At))
        {
            Array.Fill(densities, anything);
            return densities;
        }

        var figures = shown.Across(reading.At);
        var chatters = shown.Chatters(reading.At.Condition);
        var (hasGain, isSeen) = (observable.GainSigma(beliefs.Meter) > 0, observable.IsSeen);
        var group = SharedError.GroupOf(beliefs.Table, reading.At.Condition);
        var noise = isSeen ? Eyesight.Glance : reading.Noise;
        var wild = reading.Value is { } figure
            ? Likelihood.WildDensity(
                observable,
                figure,
                Math.Sqrt((DiscrepancyVolts * DiscrepancyVolts) + (noise * noise))
            )
            : anything;
        var turning = Turning(reading.At.Condition);
        for (var p = 0; p < count; p++)
        {
            predicted[p] = chatters[p] || !figures.IsKnown(p) ? double.NaN : figures[p] * (hasGain ? gains[p] : 1);
        }

        if (group is { } sharing && reading.Value is not null)
        {
            shared.Compare(sharing, predicted);
        }

        for (var p = 0; p < count; p++)
        {
            if (reading.Value is not { } value)
            {
                var movesBy = figures[p] - beliefs.Table.Healthy.Across(reading.At)[p];
                densities[p] =
                    Likelihood.OfJump(movesBy, hypothesis.Fault is { ComesAndGoes: true }, chatters[p]) * anything;
                continue;
            }

            if (double.IsNaN(predicted[p]))
            {
                // What will not stand still does not show the same twice, but by chance.
                densities[p] = chatters[p] ? Likelihood.Again(reading.Times) * anything / 2 : anything;
                continue;
            }

            // On the scale of ohms errors go with the ohms: what two points share there is not told by how far apart they are.
            var own =
                DiscrepancyVolts
                + (DiscrepancyShare * Math.Abs(predicted[p]))
                + turning.Volts
                + (turning.Share * Math.Abs(predicted[p]))
                + (figures.Hangs(p) ? LeakVolts + (LeakShare * Math.Abs(predicted[p])) : 0);
            model[p] = isSeen ? Math.Sqrt((own * own) + Eyesight.SharedVariance) : own;
            var (mean, sigma) = group is { } others
                ? shared.Given(others, p, predicted[p], kernels[p], model[p], noise)
                : (
                    predicted[p],
                    Math.Sqrt((own * own) + (kernels[p] * kernels[p]) + Variance(reading, observable, predicted[p]))
                );
            densities[p] = Likelihood.OfReading(value, mean, sigma, wild, reading.Times);
            if (figures.Hangs(p))
            {
                // The meter may as well pull it down to nothing; whichever it is, it is so at every point of the same metal, so
                // that neither is halved again with each more reading there.
                var nothing = Math.Sqrt(
                    (DiscrepancyVolts * DiscrepancyVolts) + Variance(reading, observable, expected: 0)
                );
                densities[p] = Math.Max(densities[p], Likelihood.OfReading(value, 0, nothing, wild, reading.Times));
            }
        }

        if (group is { } kept && reading.Value is { } read)
        {
            shared.Keep(kept, read, noise, predicted, [.. kernels], model);
        }

        return densities;
    }

    /// <summary>Model error of volts that waves make up.</summary>
    private (double Volts, double Share) Turning(int condition) =>
        beliefs.Table is { FollowsWaves: true } table
        && table.Conditions[condition] is { Speed: not Machines.DutySpeed.Rest, Observable.SharesModelError: true }
            ? (TurningVolts, TurningShare)
            : default;

    private double Variance(GroupedReading reading, Observable observable, double expected)
    {
        var noise = observable.Noise(beliefs.Meter, reading.Value!.Value, expected, reading.Digits);
        return noise * noise / reading.Times;
    }

    /// <summary>
    /// Kernel width of each particle: a share of the spread of its own neighbours (adaptive kernels by nearest neighbours,
    /// Loftsgaarden and Quesenberry 1965). A fault that shows one thing or quite another, a fuse blown or not, is as sharp in
    /// each as others are; one spread for both would make it doubtful everywhere.
    /// </summary>
    private void Widen(Hypothesis shown, GroupedReading reading, double[] to)
    {
        double sum = 0;
        double squares = 0;
        var shows = shown.Across(reading.At);
        for (var p = 0; p < count; p++)
        {
            var v = shows[p];
            (figures[p], places[p]) = (v, p);
            sum += v;
            squares += v * v;
        }

        var mean = sum / count;
        var deviation = Math.Sqrt(Math.Max(0, (squares / count) - (mean * mean)));
        var fewer = Math.Sqrt((double)PredictionTable.UsualParticles / count);
        var share = KernelShare * fewer * widening;
        if (share * deviation <= DiscrepancyVolts)
        {
            Array.Fill(to, share * deviation);
            return;
        }

        Array.Sort(figures, places);
        var neighbours = Math.Max(2, count / NeighbourShare);
        Array.Fill(to, double.PositiveInfinity);
        for (var first = 0; first + neighbours <= count; first++)
        {
            var span = figures[first + neighbours - 1] - figures[first];
            for (var i = first; i < first + neighbours; i++)
            {
                to[places[i]] = Math.Min(to[places[i]], span);
            }
        }

        for (var p = 0; p < count; p++)
        {
            to[p] = Math.Min(WidestKernelVolts, share * Math.Min(deviation, SpansADeviation * to[p]));
        }
    }

    /// <summary>
    /// Particles that the complaint leaves, as if alike: (Σw)² / Σw². Taken before any reading, so that their order does not
    /// matter.
    /// </summary>
    private double Effective()
    {
        var (sum, squares) = (0.0, 0.0);
        for (var p = 0; p < count; p++)
        {
            var w = always[p] + sometimes[p];
            sum += w;
            squares += w * w;
        }

        return squares > 0 ? Math.Max(1, sum * sum / squares) : 1;
    }
}
