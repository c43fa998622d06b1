using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Observables;

namespace Pritchel.Core.PartTests;

/// <summary>A figure as entered on a sheet.</summary>
/// <param name="Reading">Which reading.</param>
/// <param name="Figure">In its unit; infinite for OL.</param>
/// <param name="Digits">How finely it was typed; null where that is not told.</param>
/// <param name="Times">How many times running it was read alike: a slip seldom repeats itself.</param>
public sealed record SheetEntry(string Reading, double Figure, TypedDigits? Digits = null, int Times = 1)
{
    /// <summary>How it came and went; null where it stood still.</summary>
    public Wavering? Wavers { get; init; }
}

/// <summary>
/// What is believed of a part after some readings of its sheet, taken in any order, any left out. Every state and every part
/// drawn is weighed by all figures jointly, so what windings share cancels and what they do not share tells.
/// </summary>
public sealed class SheetBeliefs
{
    // Share of readings that say nothing: a slip, a wrong range.
    private const double WildShare = 0.02;
    private const double WildDensity = 1.0 / 18;

    // How often a part that was put on the bench is sound: as often as not. Common practice, no source.
    private const double SoundShare = 0.5;

    private readonly SheetTable table;
    private readonly double[][] weights;

    private SheetBeliefs(SheetTable table, IReadOnlyList<SheetEntry> entries, double[][] weights)
    {
        (this.table, Entries, this.weights) = (table, entries, weights);
        Shares = [.. weights.Select(w => w.Sum())];
    }

    /// <summary>Predictions they rest on.</summary>
    public SheetTable Table => table;

    /// <summary>Figures weighed.</summary>
    public IReadOnlyList<SheetEntry> Entries { get; }

    /// <summary>Share of each state; they sum to one.</summary>
    public IReadOnlyList<double> Shares { get; }

    /// <summary>Share of being sound.</summary>
    public double Sound => Shares[0];

    /// <summary>States by share, largest first.</summary>
    public IEnumerable<(PartState State, double Share)> Ranked =>
        table.States.Select((s, i) => (s, Shares[i])).OrderByDescending(s => s.Item2);

    /// <summary>How well the best of all states and parts shows what was read: under this, nothing on the sheet explains it.</summary>
    public double BestFit { get; private init; }

    /// <summary>Weighs what was entered.</summary>
    /// <param name="table">The sheet's predictions.</param>
    /// <param name="entries">Figures; of the same reading the last counts.</param>
    /// <param name="suspicion">How many times likelier than usual something is wrong with it: under one for a new part.</param>
    /// <param name="looked">How many times likelier a state is by what was looked for; all alike when null.</param>
    public static SheetBeliefs Weigh(
        SheetTable table,
        IEnumerable<SheetEntry> entries,
        double suspicion = 1,
        Func<PartState, double>? looked = null
    )
    {
        var last = entries
            .GroupBy(e => e.Reading, StringComparer.Ordinal)
            .Select(g => g.Last())
            .Where(e => !table.Readings.Any(r => r.Id == e.Reading && r.IsNoted))
            .ToList();
        var read = last.Select(e => (Entry: e, At: IndexOf(table, e.Reading))).Where(e => e.At >= 0).ToList();
        var bad = SoundShare * suspicion / ((SoundShare * suspicion) + 1 - SoundShare);
        var rates = Math.Max(1e-9, table.States.Where((_, i) => !table.IsHidden(i)).Sum(s => s.Rate));
        var weights = new double[table.States.Count][];
        var best = 0.0;
        for (var s = 0; s < weights.Length; s++)
        {
            var prior =
                (table.States[s].IsSound ? 1 - bad : bad * table.States[s].Rate / rates)
                * (looked?.Invoke(table.States[s]) ?? 1);
            weights[s] = new double[table.Particles];
            if (table.IsHidden(s))
            {
                continue;
            }

            for (var p = 0; p < table.Particles; p++)
            {
                var likelihood = 1.0;
                foreach (var (entry, at) in read)
                {
                    likelihood *= entry.Wavers is { } wavers
                        ? wavers.Likelihood(table.States[s], table.Shows(s, p, at))
                        : Likelihood(table, at, entry, table.Figure(s, p, at));
                }

                best = Math.Max(best, likelihood);
                weights[s][p] = prior / table.Particles * likelihood;
            }
        }

        var total = weights.Sum(w => w.Sum());
        foreach (var particles in weights)
        {
            for (var p = 0; p < particles.Length; p++)
            {
                particles[p] /= total;
            }
        }

        return new SheetBeliefs(table, last, weights) { BestFit = best };
    }

    /// <summary>
    /// Bits that a reading is expected to tell of which state it is: entropy of the states less what is left of it, the figure
    /// falling into bins as wide as its doubt.
    /// </summary>
    public double Bits(int reading)
    {
        var (bins, at) = (new Dictionary<int, double[]>(), table.Bins(reading));
        for (var s = 0; s < weights.Length; s++)
        {
            for (var p = 0; p < weights[s].Length; p++)
            {
                if (weights[s][p] <= 0)
                {
                    continue;
                }

                var bin = at[s][p];
                if (!bins.TryGetValue(bin, out var shares))
                {
                    bins.Add(bin, shares = new double[weights.Length]);
                }

                shares[s] += weights[s][p];
            }
        }

        return Math.Max(0, Entropy(Shares) - bins.Values.Sum(Left));

        static double Left(double[] bin)
        {
            var share = bin.Sum();
            return share * Entropy(bin.Select(x => x / share));
        }
    }

    /// <summary>Where a figure would lie if all were well: tenth and ninetieth percentile of the sound part after what was read.</summary>
    public (double Low, double High) Expected(int reading)
    {
        var sound = Enumerable
            .Range(0, table.Particles)
            .Select(p => (Figure: table.Figure(0, p, reading), Weight: weights[0][p]))
            .OrderBy(f => f.Figure)
            .ToList();
        var total = sound.Sum(f => f.Weight);
        double At(double share)
        {
            var sum = 0.0;
            foreach (var (figure, weight) in sound)
            {
                sum += weight;
                if (sum >= share * total)
                {
                    return figure;
                }
            }

            return sound[^1].Figure;
        }

        return (At(0.1), At(0.9));
    }

    /// <summary>Whether a figure is what a sound part would show, within the meter's doubt; what is only noted always is.</summary>
    public bool Agrees(int reading, SheetEntry entry)
    {
        if (table.Readings[reading].IsNoted)
        {
            return true;
        }

        if (entry.Wavers is not null)
        {
            return false;
        }

        var observable = table.Readings[reading].Observable;
        var (low, high) = Expected(reading);
        var read = observable.Scaled(entry.Figure);
        var doubt = 2 * SheetDoubt.Of(table, reading, entry, entry.Figure);
        return read >= observable.Scaled(low) - doubt && read <= observable.Scaled(high) + doubt;
    }

    /// <summary>Number of a reading on its sheet; −1 when there is none of that id.</summary>
    public static int IndexOf(SheetTable table, string reading)
    {
        for (var r = 0; r < table.Readings.Count; r++)
        {
            if (table.Readings[r].Id == reading)
            {
                return r;
            }
        }

        return -1;
    }

    private static double Likelihood(SheetTable table, int reading, SheetEntry entry, double predicted)
    {
        var observable = table.Readings[reading].Observable;
        var doubt = SheetDoubt.Of(table, reading, entry, predicted);
        var z = (observable.Scaled(entry.Figure) - observable.Scaled(predicted)) / doubt;
        var near = Math.Exp(-0.5 * z * z) / (doubt * Math.Sqrt(2 * Math.PI));
        var wild = Math.Pow(WildShare, entry.Times);
        return ((1 - wild) * near) + (wild * WildDensity);
    }

    private static double Entropy(IEnumerable<double> shares) => -shares.Where(s => s > 0).Sum(s => s * Math.Log2(s));
}
