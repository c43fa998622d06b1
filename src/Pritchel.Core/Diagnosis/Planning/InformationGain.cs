using System.Runtime.CompilerServices;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>
/// Mutual information between a reading and which repair is needed, under present beliefs. "None of these" is left
/// out: any reading at all would tell it apart, which says nothing about where to probe.
/// </summary>
internal sealed class InformationGain
{
    // Readings are sorted into bins: fine near zero, where drops are judged, a fifth of a volt wide above one volt.
    private const double FineVolts = 0.02;
    private const double BinsPerFine = 2;
    private const double BinsPerVolt = 5;
    private const double LeastVolts = -3;
    private const double MostVolts = 16;
    private const double LeastShare = 5e-4;
    private const double LeastWeightShare = 1e-5;
    private const int StepsPerVolt = 500;
    private const int Representatives = 4;
    private const double LeastDifferenceVolts = 0.01;
    private const double FarAway = 100;
    private const int HangingPlaces = 4;
    private const double HangingVolts = 0.5;
    private const double MostByDamp = 0.1;
    private const int MostOnStack = 1024;
    private static readonly double FineTop = BinsPerFine * Math.Asinh(1 / FineVolts);
    private static readonly int BinOffset = (int)Math.Ceiling(FineTop + (BinsPerVolt * (-LeastVolts - 1))) + 1;
    private static readonly float[] Places = TabulatePlaces();
    private static readonly float[] OhmPlaces = TabulateOhms();
    private static readonly int Bins = BinOffset + (int)Math.Ceiling(FineTop + (BinsPerVolt * (MostVolts - 1))) + 3;

    // A figure that will not stand still says only that it does not, whatever volts lie under it.
    private static readonly int Jumping = Bins - 1;

    private readonly Beliefs beliefs;
    private readonly Dictionary<int, Reading[]> readings;
    private readonly List<(Hypothesis Shown, int Class, Particle[] Particles)> live = [];
    private readonly int spreadOver;
    private readonly int classes;
    private readonly double entropy;

    /// <summary>Prepares to rate tests.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="most">Particles of each fault that are looked at: a few for a first look at which tests are worth a second.</param>
    public InformationGain(Beliefs beliefs, int most = int.MaxValue)
    {
        this.beliefs = beliefs;
        readings = beliefs
            .Readings.Where(r => r.Value is not null)
            .Select(r => (Group: SharedError.GroupOf(beliefs.Table, r.At.Condition), Reading: r))
            .Where(r => r.Group is not null)
            .GroupBy(r => r.Group!.Value, r => r.Reading)
            .ToDictionary(g => g.Key, g => g.ToArray());
        var byRepair = new Dictionary<SuspectId, int>();
        var shares = new List<double>();
        for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
        {
            var share = beliefs.Share(h);
            if (share < LeastShare)
            {
                continue;
            }

            var repair = beliefs.Hypothesis(h).Fault is { } fault ? fault.Repair.Id : SuspectId.Sound;
            if (!byRepair.TryGetValue(repair, out var index))
            {
                index = byRepair.Count;
                byRepair.Add(repair, index);
                shares.Add(0);
            }

            shares[index] += share;
            var shown = beliefs.Hypothesis(h);
            live.Add(
                (shown.HasPredictions ? shown : beliefs.Table.Healthy, index, Alive(beliefs.Weights(h), share, most))
            );
        }

        spreadOver = beliefs.Counting switch
        {
            > 32 => 1,
            > 12 => 2,
            _ => 3,
        };
        classes = shares.Count;
        var total = shares.Sum();
        entropy = -shares.Sum(s => s / total * Math.Log2(s / total));
    }

    /// <summary>Particles looked at for each test.</summary>
    public int Looks => live.Sum(l => l.Particles.Length);

    public double[] NewScratch() => new double[(classes * Bins) + Bins];

    /// <summary>Bits a reading would give; zero when everything left predicts alike.</summary>
    public double Bits(ProbePair at, double[] scratch)
    {
        var sharing = SharingWith(at);
        if (!Differs(at, sharing) || !beliefs.Table.Follows(at))
        {
            return 0;
        }

        var observable = beliefs.Table.Conditions[at.Condition].Observable;
        var places = observable is DeadOhms ? OhmPlaces : Places;
        Span<(int First, int Past)> ranges =
            classes <= MostOnStack ? stackalloc (int, int)[classes] : new (int, int)[classes];
        ranges.Fill((Jumping, 0));
        var byDamp = 0.0;
        foreach (var (shown, index, particles) in live)
        {
            var figures = new Expected(shown, at, sharing, particles[0].Index);
            var row = scratch.AsSpan(index * Bins, Bins);
            var chatters = shown.Chatters(at.Condition);
            var (first, past) = ranges[index];
            foreach (var (p, weight) in particles)
            {
                if (chatters[p])
                {
                    row[Jumping] += weight;
                    continue;
                }

                byDamp += observable.DampDecides && figures.IsByDamp(p) ? weight : 0;
                if (figures.Hangs(p))
                {
                    // On a leak that is known to a decade at best: as likely half of it, nothing, or half a volt more.
                    var hanging = figures[p];
                    Put(row, Place(places, hanging), weight / HangingPlaces, ref first, ref past);
                    Put(row, Place(places, hanging / 2), weight / HangingPlaces, ref first, ref past);
                    Put(row, Place(places, 0), weight / HangingPlaces, ref first, ref past);
                    Put(row, Place(places, hanging + HangingVolts), weight / HangingPlaces, ref first, ref past);
                    continue;
                }

                Put(row, Place(places, figures[p]), weight, ref first, ref past);
            }

            ranges[index] = (first, past);
        }

        if (byDamp > MostByDamp)
        {
            // A voltmeter across an open switch, say: nobody asks for what a leak decides that nobody knows.
            Clear(scratch, ranges);
            return 0;
        }

        if (observable.WantsDeadCircuit)
        {
            for (var k = 0; k < classes; k++)
            {
                ranges[k] = Blur(scratch.AsSpan(k * Bins, Jumping), ranges[k]);
            }
        }

        var bits = Math.Max(0, entropy - Remaining(scratch, ranges));
        Clear(scratch, ranges);
        return bits;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Put(Span<double> row, double place, double weight, ref int first, ref int past)
    {
        var bin = (int)place;
        var above = (place - bin) * weight;
        row[bin] += weight - above;
        row[bin + 1] += above;
        (first, past) = (Math.Min(first, bin), Math.Max(past, bin + 2));
    }

    /// <summary>Leaves the scratch as empty as it was found: most rows are filled over a few bins only.</summary>
    private void Clear(double[] scratch, ReadOnlySpan<(int First, int Past)> ranges)
    {
        for (var k = 0; k < classes; k++)
        {
            var (first, past) = ranges[k];
            var row = scratch.AsSpan(k * Bins, Bins);
            row[Jumping] = 0;
            if (past > first)
            {
                row[first..past].Clear();
            }
        }

        scratch.AsSpan(classes * Bins, Bins).Clear();
    }

    /// <summary>
    /// Severities of a log scale leave gaps where few particles count, and a reading in a gap of one suspect and not of
    /// another's would seem to tell them apart: each figure is spread over as many bins as the gaps are wide.
    /// </summary>
    private (int First, int Past) Blur(Span<double> row, (int First, int Past) range)
    {
        if (range.Past <= range.First)
        {
            return range;
        }

        var (first, past) = (Math.Max(0, range.First - spreadOver), Math.Min(row.Length, range.Past + spreadOver));
        Span<double> before = stackalloc double[row.Length];
        row[first..past].CopyTo(before[first..past]);
        for (var b = first; b < past; b++)
        {
            double sum = 0;
            for (var d = -spreadOver; d <= spreadOver; d++)
            {
                sum += (spreadOver + 1 - Math.Abs(d)) * before[Math.Clamp(b + d, 0, row.Length - 1)];
            }

            row[b] = sum / ((spreadOver + 1) * (spreadOver + 1));
        }

        return (first, past);
    }

    /// <summary>Whether the likeliest particles of what is left predict different volts at all.</summary>
    private bool Differs(ProbePair at, Reading[] sharing)
    {
        var (least, most) = (double.PositiveInfinity, double.NegativeInfinity);
        foreach (var (shown, _, particles) in live)
        {
            var figures = new Expected(shown, at, sharing, particles[0].Index);
            var chatters = shown.Chatters(at.Condition);
            for (var i = 0; i < particles.Length && i < Representatives; i++)
            {
                var volts = chatters[particles[i].Index] ? FarAway : figures[particles[i].Index];
                least = Math.Min(least, volts);
                most = Math.Max(most, volts);
            }

            if (most - least > LeastDifferenceVolts)
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>Entropy that is expected to be left, Σ −joint·log₂(joint/total) over the mass of what is in the bins.</summary>
    private double Remaining(double[] rows, ReadOnlySpan<(int First, int Past)> ranges)
    {
        var total = rows.AsSpan(classes * Bins, Bins);
        for (var k = 0; k < classes; k++)
        {
            var row = rows.AsSpan(k * Bins, Bins);
            for (var b = ranges[k].First; b < ranges[k].Past; b++)
            {
                total[b] += row[b];
            }

            total[Jumping] += row[Jumping];
        }

        var (mass, remaining) = (0.0, 0.0);
        foreach (var t in total)
        {
            mass += t;
            remaining += t > 0 ? t * Math.Log2(t) : 0;
        }

        for (var k = 0; k < classes; k++)
        {
            var row = rows.AsSpan(k * Bins, Bins);
            for (var b = ranges[k].First; b < ranges[k].Past; b++)
            {
                remaining -= row[b] > 0 ? row[b] * Math.Log2(row[b]) : 0;
            }

            remaining -= row[Jumping] > 0 ? row[Jumping] * Math.Log2(row[Jumping]) : 0;
        }

        return remaining / mass;
    }

    /// <summary>Particles that count, heaviest first; of a few of them, each stands for those between.</summary>
    private static Particle[] Alive(ReadOnlySpan<double> weights, double share, int most)
    {
        var alive = new List<Particle>();
        for (var p = 0; p < weights.Length; p++)
        {
            if (weights[p] > share * LeastWeightShare)
            {
                alive.Add(new Particle(p, weights[p]));
            }
        }

        alive.Sort((a, b) => b.Weight.CompareTo(a.Weight));
        if (alive.Count <= most)
        {
            return [.. alive];
        }

        var oneIn = (alive.Count + most - 1) / most;
        var kept = alive.Where((_, i) => i % oneIn == 0).ToArray();
        var scale = share / kept.Sum(k => k.Weight);
        return [.. kept.Select(k => k with { Weight = k.Weight * scale })];
    }

    private Reading[] SharingWith(ProbePair at) =>
        SharedError.GroupOf(beliefs.Table, at.Condition) is { } group ? readings.GetValueOrDefault(group, []) : [];

    private static float Place(float[] places, double drop) =>
        places[(int)((Math.Clamp(drop, LeastVolts, MostVolts) - LeastVolts) * StepsPerVolt)];

    private static float[] TabulatePlaces()
    {
        var places = new float[(int)((MostVolts - LeastVolts) * StepsPerVolt) + 2];
        for (var i = 0; i < places.Length; i++)
        {
            var volts = LeastVolts + ((i + 0.5) / StepsPerVolt);
            var size = Math.Abs(volts);
            var place = size <= 1 ? BinsPerFine * Math.Asinh(size / FineVolts) : FineTop + (BinsPerVolt * (size - 1));
            places[i] = (float)(BinOffset + (volts < 0 ? -place : place));
        }

        return places;
    }

    /// <summary>Ohms in bins no finer than two leads can tell, whatever the meter.</summary>
    private static float[] TabulateOhms()
    {
        var places = new float[(int)((MostVolts - LeastVolts) * StepsPerVolt) + 2];
        double place = 0;
        for (var i = (int)(-LeastVolts * StepsPerVolt); i < places.Length; i++)
        {
            places[i] = (float)place;
            var scaled = ((i + 0.5) / StepsPerVolt) + LeastVolts;
            place += 1 / Math.Max(1 / BinsPerVolt, DeadOhms.Instance.Noise(Meter.Ordinary, scaled)) / StepsPerVolt;
        }

        return places;
    }

    private readonly record struct Particle(int Index, double Weight);

    /// <summary>
    /// What particles are expected to show, those on metal that has been read in the same condition as far off as they were
    /// there (<see cref="SharedError"/>): reading it again would tell nothing.
    /// </summary>
    private readonly ref struct Expected
    {
        private const double SameVolts = 0.05;

        // A reading that a particle does not explain tells nothing of that particle's error: as in SharedError.
        private const double FarOffVolts = 1;

        private readonly Across figures;
        private readonly Across before;
        private readonly double volts;

        public Expected(Hypothesis shown, ProbePair at, Reading[] readings, int like)
        {
            figures = shown.Across(at);
            var nearest = SameVolts;
            foreach (var reading in readings)
            {
                var its = shown.Across(reading.At);
                var apart = Math.Abs(its[like] - figures[like]);
                if (apart < nearest && Math.Abs(its[like] - reading.Value!.Value) < FarOffVolts)
                {
                    nearest = apart;
                    before = its;
                    (volts, IsRead) = (reading.Value.Value, true);
                }
            }
        }

        private bool IsRead { get; }

        public double this[int particle]
        {
            [MethodImpl(MethodImplOptions.AggressiveInlining)]
            get => IsRead ? Shifted(particle) : figures[particle];
        }

        /// <summary>Whether it hangs on a leak.</summary>
        public bool Hangs(int particle) => figures.Hangs(particle);

        /// <summary>Whether damp decides it.</summary>
        public bool IsByDamp(int particle) => figures.IsByDamp(particle);

        private double Shifted(int particle) =>
            Math.Abs(figures[particle] - before[particle]) < SameVolts
            && Math.Abs(volts - before[particle]) < FarOffVolts
                ? volts + figures[particle] - before[particle]
                : figures[particle];
    }
}
