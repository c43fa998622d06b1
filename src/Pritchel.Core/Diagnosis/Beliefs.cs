using Pritchel.Core.Faults;
using Pritchel.Core.Meters;

namespace Pritchel.Core.Diagnosis;

/// <summary>Something a repair would cure, and how much of the belief lies on it.</summary>
/// <param name="Repair">The repair; null for "none of these".</param>
/// <param name="Share">0 to 1.</param>
/// <param name="Likeliest">The likeliest fault within it.</param>
public sealed record Suspect(Repair? Repair, double Share, Fault? Likeliest)
{
    /// <summary>Words for the list of suspects.</summary>
    public string Words => Likeliest?.Words ?? (Repair?.Name ?? "None of these: not as drawn, or two faults");

    /// <summary>Identity across weighings.</summary>
    public string Id => Repair?.Id ?? "none";
}

/// <summary>
/// What is believed after a complaint and some readings: every particle of every hypothesis weighted by all
/// evidence jointly. Depends only on its arguments, so undoing a reading restores exactly what was.
/// </summary>
public sealed class Beliefs
{
    private const double NoneOfTheseShare = 0.02;
    private const double SoundMachineShare = 0.001;

    // How well an unknown cause explains what was heard, and each lamp: no better than guessing.
    private const double NoneExplainsHeard = 0.2;
    private const double NoneExplainsLamp = 0.4;

    private readonly double[][] weights;
    private double[]? drawWeights;
    private int? leading;

    private Beliefs(PredictionTable table, Complaint complaint, Meter meter, IReadOnlyList<Reading> readings)
    {
        Table = table;
        Complaint = complaint;
        Meter = meter;
        Readings = readings;
        weights = new double[table.Hypotheses.Count][];
        LampsSeen =
        [
            .. complaint
                .Lamps.Where(l => l.Look != LampLook.NotSeen && l.Condition < table.Conditions.Count)
                .Select(l => (Lamp: table.Lamps.ToList().IndexOf(l.Lamp), l.Condition, l.Look))
                .Where(l => l.Lamp >= 0),
        ];
    }

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

    /// <summary>Share of "none of these".</summary>
    public double NoneOfThese { get; private set; }

    /// <summary>Suspects by share, largest first; shares sum to one.</summary>
    public IReadOnlyList<Suspect> Suspects { get; private set; } = [];

    /// <summary>Weights of a hypothesis's particles; all weights and <see cref="NoneOfThese"/> sum to one.</summary>
    public ReadOnlySpan<double> Weights(int hypothesis) => weights[hypothesis];

    /// <summary>Share of one hypothesis.</summary>
    public double Share(int hypothesis) => weights[hypothesis].Sum();

    /// <summary>
    /// How probable each draw of a healthy machine has become. All hypotheses share the draws, so readings that pin
    /// the battery's charge narrow the healthy band too. A floor keeps the band from closing on one draw.
    /// </summary>
    internal double[] DrawWeights => drawWeights ??= WeighDraws();

    /// <summary>Index of the likeliest hypothesis.</summary>
    internal int LeadingIndex => leading ??= Enumerable.Range(0, weights.Length).MaxBy(Share);

    /// <summary>The likeliest hypothesis, when it is a fault with predictions of its own.</summary>
    internal Hypothesis? Leading =>
        Table.Hypotheses[LeadingIndex] is { HasVolts: true, Fault: not null } first ? first : null;

    /// <summary>Weighs a complaint and readings.</summary>
    public static Beliefs Weigh(
        PredictionTable table,
        Complaint complaint,
        Meter meter,
        IReadOnlyList<Reading> readings
    )
    {
        var beliefs = new Beliefs(table, complaint, meter, readings);
        beliefs.WeighAll();
        return beliefs;
    }

    private void WeighAll()
    {
        var grouped = GroupedReading.Of(Table, Readings, Meter);
        var life = Complaint.Circumstances;
        var rates = Table.Hypotheses.Sum(h => h.Fault?.RateUnder(life) ?? 0);
        var gains = MeterGains();
        var healthyLamps = new double[Table.Particles];
        for (var p = 0; p < healthyLamps.Length; p++)
        {
            healthyLamps[p] = ParticleWeigher.LampLikelihood(this, Table.Healthy, p);
        }

        Parallel.For(
            0,
            weights.Length,
            h =>
            {
                var hypothesis = Table.Hypotheses[h];
                var rate = hypothesis.Fault?.RateUnder(life) ?? rates * SoundMachineShare;
                var prior = rate / rates * (1 - NoneOfTheseShare) / Table.Particles;
                weights[h] = new ParticleWeigher(this, hypothesis, gains, healthyLamps).Weigh(prior, grouped);
            }
        );
        var total = weights.Sum(w => w.Sum());
        NoneOfThese =
            NoneOfTheseShare
            * (Complaint.Heard == Heard.NotSaid ? 1 : NoneExplainsHeard)
            * Math.Pow(NoneExplainsLamp, Math.Min(3, LampsSeen.Count))
            * Math.Pow(Likelihood.WildDensity, grouped.Count);
        total += NoneOfThese;
        NoneOfThese /= total;
        foreach (var particle in weights)
        {
            for (var p = 0; p < particle.Length; p++)
            {
                particle[p] /= total;
            }
        }

        Suspects =
        [
            .. Enumerable
                .Range(0, weights.Length)
                .Select(h => (Table.Hypotheses[h].Fault, Share: Share(h)))
                .Where(x => x.Fault is not null)
                .GroupBy(x => x.Fault!.Repair.Id)
                .Select(g =>
                {
                    var likeliest = g.MaxBy(x => x.Share).Fault!;
                    return new Suspect(likeliest.Repair, g.Sum(x => x.Share), likeliest);
                })
                .Append(new Suspect(null, NoneOfThese + Share(weights.Length - 1), null))
                .OrderByDescending(s => s.Share),
        ];
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

/// <summary>Readings of one pair of points taken together: repeats average the meter's noise and nothing else.</summary>
/// <param name="At">Where.</param>
/// <param name="Volts">Mean of the readings; null when it jumped.</param>
/// <param name="Symptom">Whether the symptom was there.</param>
/// <param name="Noise">Standard deviation of the mean.</param>
internal sealed record GroupedReading(ProbePair At, double? Volts, SymptomNow Symptom, double Noise)
{
    public static List<GroupedReading> Of(PredictionTable table, IReadOnlyList<Reading> readings, Meter meter) =>
        [
            .. readings
                .GroupBy(r => (r.At, r.Symptom, Jumps: r.Volts is null))
                .Select(g =>
                {
                    var volts = g.Key.Jumps ? (double?)null : g.Average(r => r.Volts!.Value);
                    var quantity = table.Conditions[g.Key.At.Condition].Quantity;
                    var noise = Scale.Noise(meter, quantity, volts ?? 0) / Math.Sqrt(g.Count());
                    return new GroupedReading(g.Key.At, volts, g.Key.Symptom, noise);
                }),
        ];
}
