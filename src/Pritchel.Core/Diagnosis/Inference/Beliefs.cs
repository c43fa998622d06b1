using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>Something a repair would cure, and how much of the belief lies on it.</summary>
/// <param name="Repair">The repair; null for "none of these".</param>
/// <param name="Share">0 to 1.</param>
/// <param name="Likeliest">The likeliest fault within it.</param>
/// <param name="IsSound">Whether it is that nothing is wrong in this circuit.</param>
public sealed record Suspect(Repair? Repair, double Share, Fault? Likeliest, bool IsSound = false)
{
    /// <summary>Share of the repair's belief that its likeliest fault has, 0 to 1: all of it where there is but one.</summary>
    public double LikeliestInIt { get; init; } = 1;

    /// <summary>Words for the list of suspects.</summary>
    public string Words =>
        IsSound ? "Nothing wrong in this circuit: look to fuel, air, compression"
        : Likeliest is null && Repair is null ? "None of these: not as drawn, or two faults"
        : Likeliest?.Words ?? Repair!.Name;

    /// <summary>Identity across weighings.</summary>
    public SuspectId Id =>
        IsSound ? SuspectId.Sound
        : Repair is { } repair ? repair.Id
        : SuspectId.None;
}

/// <summary>
/// What is believed after a complaint and some readings: every particle of every hypothesis weighted by all
/// evidence jointly. Depends only on its arguments, so undoing a reading restores exactly what was.
/// </summary>
public sealed class Beliefs
{
    // Of machines that nobody worked on; somebody's hands make more of them (Circumstances.OtherwiseTimes).
    private const double NoneOfTheseShare = 0.02;
    private const double SoundMachineShare = 0.001;

    // An engine that turns and will not start wants fuel, air or compression as often as spark: common practice, no source.
    private const double NotElectricalShare = 1;

    // How well an unknown cause explains what was heard, and each lamp: no better than guessing.
    private const double NoneExplainsHeard = 0.2;
    private const double NoneExplainsLamp = 0.4;

    // Too much is read on a meter and given by few causes, most of them on the drawing.
    private const double NoneExplainsTooMuch = 0.02;

    private readonly double[][] weights;
    private readonly Hypothesis?[] refined;
    private readonly Lazy<(double Rates, double[] Gains, double[] HealthyLamps)> baseline;
    private readonly Lazy<NotAsDrawn?> wiredOtherwise;
    private double[] shares = [];
    private double[]? drawWeights;
    private int? leading;

    private Beliefs(
        PredictionTable table,
        Complaint complaint,
        Meter meter,
        IReadOnlyList<Reading> readings,
        SideEvidence? sideEvidence
    )
    {
        Table = table;
        SideEvidence = sideEvidence ?? SideEvidence.None;
        Complaint = complaint;
        Meter = meter;
        Readings = readings;
        weights = new double[table.Hypotheses.Count][];
        refined = new Hypothesis?[table.Hypotheses.Count];
        baseline = new(Baseline);
        wiredOtherwise = new(() => NotAsDrawn.InsteadOfTheFirst(this));
        LampsSeen =
        [
            .. complaint.Lamps.Where(l => l.Look != LampLook.NotSeen).Select(Seen).OfType<(int, int, LampLook)>(),
        ];
    }

    /// <summary>A lamp that was looked at, by numbers; null where this duty knows no such lamp or setting.</summary>
    private (int Lamp, int Condition, LampLook Look)? Seen(LampSeen seen) =>
        Table.LampNumber(seen.Lamp) is var lamp and >= 0
        && Table.FreeCondition(seen.Setting, seen.Speed) is { } condition
            ? (lamp, condition, seen.Look)
            : null;

    /// <summary>Lamps looked at, by index.</summary>
    internal IReadOnlyList<(int Lamp, int Condition, LampLook Look)> LampsSeen { get; }

    /// <summary>Predictions they rest on.</summary>
    public PredictionTable Table { get; }

    /// <summary>Complaint they started from.</summary>
    public Complaint Complaint { get; }

    /// <summary>Meter the readings were taken with.</summary>
    public Meter Meter { get; }

    /// <summary>Readings weighed.</summary>
    public IReadOnlyList<Reading> Readings { get; }

    /// <summary>What was looked at and tried besides.</summary>
    public SideEvidence SideEvidence { get; }

    /// <summary>Share of "none of these".</summary>
    public double NoneOfThese { get; private set; }

    /// <summary>
    /// Where somebody worked on it just before: leads put on wrongly that would give every reading as well. Null for none; worked out
    /// once, when first asked for.
    /// </summary>
    public NotAsDrawn? WiredOtherwise => wiredOtherwise.Value;

    private double NoneShare => NoneOfTheseShare * Complaint.Circumstances.OtherwiseTimes;

    /// <summary>Suspects by share, largest first; shares sum to one.</summary>
    public IReadOnlyList<Suspect> Suspects { get; private set; } = [];

    /// <summary>Weights of a hypothesis's particles; all weights and <see cref="NoneOfThese"/> sum to one.</summary>
    public ReadOnlySpan<double> Weights(int hypothesis) => weights[hypothesis];

    /// <summary>Share of one hypothesis.</summary>
    public double Share(int hypothesis) => shares[hypothesis];

    /// <summary>
    /// How probable each draw of a healthy machine has become. All hypotheses share the draws, so readings that pin
    /// the battery's charge narrow the healthy band too. A floor keeps the band from closing on one draw.
    /// </summary>
    internal double[] DrawWeights => drawWeights ??= WeighDraws();

    /// <summary>Particles of a hypothesis that still count, (Σw)² / Σw², in the mean over the shares of hypotheses.</summary>
    internal double Counting
    {
        get
        {
            var (sum, total) = (0.0, 0.0);
            for (var h = 0; h < weights.Length; h++)
            {
                var share = Share(h);
                if (share > 0 && Table.Hypotheses[h].HasPredictions)
                {
                    sum += share * share * share / weights[h].Sum(w => w * w);
                    total += share;
                }
            }

            return total > 0 ? sum / total : Table.Particles;
        }
    }

    /// <summary>Index of the likeliest hypothesis.</summary>
    internal int LeadingIndex => leading ??= Enumerable.Range(0, weights.Length).MaxBy(Share);

    /// <summary>The likeliest hypothesis, when it is a fault with predictions of its own.</summary>
    internal Hypothesis? Leading =>
        Hypothesis(LeadingIndex) is { HasPredictions: true, Fault: not null } first ? first : null;

    /// <summary>Weighs a complaint and readings.</summary>
    public static Beliefs Weigh(
        PredictionTable table,
        Complaint complaint,
        Meter meter,
        IReadOnlyList<Reading> readings,
        SideEvidence? sideEvidence = null
    )
    {
        var beliefs = new Beliefs(table, complaint, meter, readings, sideEvidence);
        beliefs.WeighAll();
        return beliefs;
    }

    /// <summary>What would be believed had one reading not been taken.</summary>
    public Beliefs Without(Reading reading) =>
        Weigh(Table, Complaint, Meter, [.. Readings.Where(r => !ReferenceEquals(r, reading))], SideEvidence);

    private void WeighAll()
    {
        var grouped = GroupedReading.Of(Table, Readings, Meter);
        var told = new double[weights.Length][];
        Parallel.ForEach(
            AlikeByEffects(),
            Cores.All,
            alike =>
            {
                var weigher = Weigher(alike[0]);
                var evenly = weigher.Weigh(1, grouped);
                foreach (var h in alike)
                {
                    var prior = Prior(h);
                    weights[h] = [.. evenly.Select(w => w * prior)];
                    told[h] = [.. weigher.Told.Select(w => w * prior)];
                }
            }
        );
        Refine(grouped, told);
        var total = weights.Sum(w => w.Sum());
        NoneOfThese =
            NoneShare
            * Likelihood.OfTries(Complaint)
            * NoneExplains(Complaint.Heard)
            * Math.Pow(NoneExplainsLamp, Math.Min(3, LampsSeen.Count))
            * grouped.Aggregate(
                1.0,
                (all, r) => all * Likelihood.WildDensity(Table.Conditions[r.At.Condition].Observable)
            )
            * SideEvidence.OfUnknown
            * WorseEvidence.OfUnknown(Complaint);
        total += NoneOfThese;
        NoneOfThese /= total;
        foreach (var particle in weights)
        {
            for (var p = 0; p < particle.Length; p++)
            {
                particle[p] /= total;
            }
        }

        shares = [.. weights.Select(w => w.Sum())];
        Suspects =
        [
            .. Enumerable
                .Range(0, weights.Length)
                .Select(h => (Table.Hypotheses[h].Fault, Share: Share(h)))
                .Where(x => x.Fault is not null)
                .GroupBy(x => x.Fault!.Repair.Id)
                .Select(g =>
                {
                    var (likeliest, most, all) = (
                        g.MaxBy(x => x.Share).Fault!,
                        g.Max(x => x.Share),
                        g.Sum(x => x.Share)
                    );
                    return new Suspect(likeliest.Repair, all, likeliest) { LikeliestInIt = all > 0 ? most / all : 1 };
                })
                .Append(new Suspect(null, NoneOfThese, null))
                .Append(new Suspect(null, Share(weights.Length - 1), null, IsSound: true))
                .OrderByDescending(s => s.Share),
        ];
    }

    private static double NoneExplains(Heard heard) =>
        heard switch
        {
            Heard.NotSaid => 1,
            Heard.TooMuch => NoneExplainsTooMuch,
            _ => NoneExplainsHeard,
        };

    /// <summary>
    /// Hypotheses in groups that show the same and are weighed the same but for how likely they were: all that leave the duty
    /// alone are taken for the sound machine. Every other is a group of its own.
    /// </summary>
    private IEnumerable<int[]> AlikeByEffects() =>
        Enumerable
            .Range(0, weights.Length)
            .GroupBy(h =>
                Table.Hypotheses[h] is { Fault: { } fault, HasPredictions: false }
                    ? (-1, fault.ComesAndGoes)
                    : (h, false)
            )
            .Select(g => g.ToArray());

    /// <summary>
    /// Where readings have left a leading hypothesis few particles that count, or none near, its severities are drawn anew
    /// about where they best explain the readings, and it is weighed again: otherwise it would be punished, reading by
    /// reading, for the gap beside its nearest one.
    /// </summary>
    private void Refine(List<GroupedReading> grouped, double[][] told)
    {
        const double FewOf = 0.25;
        if (grouped.Count == 0)
        {
            return;
        }

        var (leastShare, most) = Table.FollowsWaves ? (1e-3, 10) : (0.05, 3);
        var fits = new SeverityFit?[weights.Length];
        Parallel.For(
            0,
            weights.Length,
            Cores.All,
            h => fits[h] = SeverityFit.Of(this, Table.Hypotheses[h], grouped, told[h])
        );
        var total = weights.Select((w, h) => Math.Max(w.Sum(), fits[h]?.Weight ?? 0)).Sum();
        var few = Enumerable
            .Range(0, weights.Length)
            .Where(h => fits[h] is { } fit && Math.Max(weights[h].Sum(), fit.Weight) > leastShare * total)
            .Select(h => (Index: h, Sum: weights[h].Sum(), Squares: weights[h].Sum(w => w * w), Fit: fits[h]!.Value))
            .Where(x => x.Sum < x.Fit.Weight || x.Sum * x.Sum / x.Squares < FewOf * Table.Particles)
            .OrderByDescending(x => Math.Max(x.Sum, x.Fit.Weight))
            .Take(most)
            .ToList();
        Parallel.ForEach(
            few,
            Cores.All,
            x =>
            {
                refined[x.Index] = Table.Near(x.Index, x.Fit.About, x.Fit.Within);
                weights[x.Index] = Weigh(x.Index, grouped);
            }
        );
    }

    /// <summary>A hypothesis with the predictions its weights stand for.</summary>
    internal Hypothesis Hypothesis(int index) => refined[index] ?? Table.Hypotheses[index];

    /// <summary>A hypothesis's particles after the complaint and some readings, not yet brought to sum to one with others.</summary>
    internal double[] Weigh(int hypothesis, IReadOnlyList<GroupedReading> readings) =>
        Weigher(hypothesis).Weigh(Prior(hypothesis), readings);

    private ParticleWeigher Weigher(int hypothesis)
    {
        var (_, gains, healthyLamps) = baseline.Value;
        return new ParticleWeigher(this, Hypothesis(hypothesis), gains, healthyLamps);
    }

    /// <summary>How likely a particle of a hypothesis was before the complaint, by rate, circumstances and what was looked at.</summary>
    private double Prior(int hypothesis)
    {
        var weighed = Hypothesis(hypothesis);
        var rates = baseline.Value.Rates;
        var rate =
            weighed.Fault?.RateUnder(Complaint.Circumstances)
            ?? rates * (Complaint.Heard == Heard.WillNotStart ? NotElectricalShare : SoundMachineShare);

        // A fault that leaves the duty alone is no reason for this complaint: as seldom as none at all.
        rate *= weighed is { Fault: not null, HasPredictions: false } ? SoundMachineShare : 1;
        return rate
            / rates
            * (1 - NoneShare)
            / Table.Particles
            * SideEvidence.Of(weighed.Fault)
            * WorseEvidence.Of(Complaint, weighed.Fault);
    }

    /// <summary>What every weighing stands on: rates, this meter's gains, how lamps look on a sound machine.</summary>
    private (double Rates, double[] Gains, double[] HealthyLamps) Baseline()
    {
        var healthyLamps = new double[Table.Particles];
        for (var p = 0; p < healthyLamps.Length; p++)
        {
            healthyLamps[p] = ParticleWeigher.LampLikelihood(this, Table.Healthy, p);
        }

        // The complaint chose the circuit: what cannot give it is not what other causes are weighed against.
        var rates = Table
            .Hypotheses.Where(h => h.HasPredictions)
            .Sum(h => h.Fault?.RateUnder(Complaint.Circumstances) ?? 0);

        // Where no single fault gives it, what does not is no likelier for that: two at once, or not as drawn.
        rates = rates > 0 ? rates : Table.Hypotheses.Sum(h => h.Fault?.RateUnder(Complaint.Circumstances) ?? 0);
        return (Math.Max(rates, 1e-9), MeterGains(), healthyLamps);
    }

    private double[] WeighDraws()
    {
        const double Floor = 0.3;
        var draws = new double[Table.Particles];
        foreach (var particles in weights)
        {
            for (var p = 0; p < draws.Length; p++)
            {
                draws[p] += particles[p];
            }
        }

        var floor = draws.Sum() * Floor / draws.Length;
        return [.. draws.Select(w => w + floor)];
    }

    /// <summary>The gain error of this one meter, by particle: shared by all readings, so it never averages out.</summary>
    private double[] MeterGains()
    {
        var random = new Random(7717);
        return
        [
            .. Enumerable.Range(0, Table.Particles).Select(_ => 1 + (Meter.GainSigma * HealthyMachine.Normal(random))),
        ];
    }
}
