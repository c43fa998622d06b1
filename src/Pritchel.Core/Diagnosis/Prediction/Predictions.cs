using System.Collections.Concurrent;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// Figures of one hypothesis, laid out so that particles lie side by side. While they are worked out, one array holds a
/// condition; once packed, each point has a row, which it shares with the sound machine wherever the two are alike.
/// </summary>
internal sealed class Predictions
{
    private static readonly Dictionary<int, Hanging[]> None = [];

    // One millivolt, a tenth of a percent of ohms; a power of two, so that rounding to it is exact.
    internal const float Step = 1f / 1024;

    // Beyond this a float is no finer than the step itself.
    private const float Coarser = 8192;

    private readonly float[][] figures;
    private readonly float[][]?[] rows;
    private readonly int[][] slots;
    private readonly float[] nothing;
    private readonly Dictionary<int, Hanging[]>?[] hanging;

    // A tenth of what meters show.
    private const float SameWithin = 1e-4f;

    public Predictions(PredictionTable table, int lamps)
    {
        var (conditions, nodes, particles) = (table.Conditions, table.Circuit.Network.NodeCount, table.Particles);
        nothing = new float[particles];
        slots = [.. conditions.Select(c => c.Pairs is { } pairs ? Slots(pairs, nodes) : [])];
        figures = [.. conditions.Select(c => new float[(c.Pairs?.Count ?? nodes) * particles])];
        Glows = [.. conditions.Select(c => new float[(c.IsFree ? lamps : 0) * particles])];
        Chatters = [.. conditions.Select(_ => new bool[particles])];
        hanging = new Dictionary<int, Hanging[]>?[conditions.Count];
        rows = new float[][]?[conditions.Count];
        for (var c = 0; c < figures.Length; c++)
        {
            if (!table.HasFigures(c))
            {
                Array.Fill(figures[c], float.NaN);
            }
        }
    }

    public float[][] Glows { get; }

    public bool[][] Chatters { get; }

    public ReadOnlySpan<float> At(int condition, int node, int particles)
    {
        var slot = slots[condition].Length == 0 ? node : slots[condition][node];
        return slot < 0 ? nothing
            : rows[condition] is { } packed ? packed[slot]
            : figures[condition].AsSpan(slot * particles, particles);
    }

    /// <summary>How a node gives way to a meter, by particle; empty where it is firm in all.</summary>
    public ReadOnlySpan<Hanging> Hanging(int condition, int node) =>
        hanging[condition] is { } nodes && nodes.TryGetValue(node, out var all) ? all : [];

    /// <summary>Notes how a node hangs on leakage in a particle.</summary>
    public void SetHanging(int condition, int node, int particle, Hanging how)
    {
        var nodes = hanging[condition] ??= [];
        if (!nodes.TryGetValue(node, out var all))
        {
            nodes[node] = all = new Hanging[nothing.Length];
            Array.Fill(all, Prediction.Hanging.Firm);
        }

        all[particle] = how;
    }

    private Dictionary<int, Hanging[]>.KeyCollection Loose(int condition) => (hanging[condition] ?? None).Keys;

    private float Share(int condition, int node, int particle) =>
        hanging[condition] is { } nodes && nodes.TryGetValue(node, out var all) ? all[particle].Share : 1;

    /// <summary>Whether every figure and lamp of a particle in a condition is the same, and chatter too.</summary>
    /// <remarks>A path that a fault lays changes the order of solving, so the last digits may differ.</remarks>
    public bool Same(Predictions other, int condition, int particle)
    {
        bool Alike(float[] mine, float[] its)
        {
            for (var i = particle; i < mine.Length; i += nothing.Length)
            {
                if (!(Math.Abs(mine[i] - its[i]) <= SameWithin || (float.IsNaN(mine[i]) && float.IsNaN(its[i]))))
                {
                    return false;
                }
            }

            return true;
        }

        return Chatters[condition][particle] == other.Chatters[condition][particle]
            && Alike(figures[condition], other.figures[condition])
            && Alike(Glows[condition], other.Glows[condition])
            && Loose(condition)
                .Union(other.Loose(condition))
                .All(n => Math.Abs(Share(condition, n, particle) - other.Share(condition, n, particle)) <= SameWithin);
    }

    /// <summary>Whether its figures of a condition are another's own.</summary>
    public bool Borrowed(Predictions other, int condition) =>
        ReferenceEquals(Chatters[condition], other.Chatters[condition]);

    /// <summary>Takes another's figures of a condition for its own.</summary>
    public void Borrow(Predictions other, int condition) =>
        (figures[condition], rows[condition], Glows[condition], Chatters[condition], hanging[condition]) = (
            other.figures[condition],
            other.rows[condition],
            other.Glows[condition],
            other.Chatters[condition],
            other.hanging[condition]
        );

    public void Set(int condition, int slot, int particle, double value) =>
        figures[condition][(slot * nothing.Length) + particle] = (float)value;

    /// <summary>Rounds everything to what a meter could tell and keeps what is alike once.</summary>
    /// <param name="sound">The sound machine's, already packed; null for its own.</param>
    /// <param name="constants">Rows that are alike for every particle, shared by all.</param>
    public void Pack(Predictions? sound, ConcurrentDictionary<float, float[]> constants)
    {
        for (var c = 0; c < figures.Length; c++)
        {
            if (sound is not null && Borrowed(sound, c))
            {
                Borrow(sound, c);
                continue;
            }

            var flat = figures[c];
            var packed = new float[flat.Length / nothing.Length][];
            for (var slot = 0; slot < packed.Length; slot++)
            {
                packed[slot] = Packed(
                    flat.AsSpan(slot * nothing.Length, nothing.Length),
                    sound?.rows[c]?[slot],
                    constants
                );
            }

            Round(Glows[c]);
            (rows[c], figures[c]) = (packed, []);
        }
    }

    private static float[] Packed(Span<float> row, float[]? sound, ConcurrentDictionary<float, float[]> constants)
    {
        Round(row);
        if (sound is not null && row.SequenceEqual(sound))
        {
            return sound;
        }

        return row.ContainsAnyExcept(row[0]) || float.IsNaN(row[0])
            ? row.ToArray()
            : constants.GetOrAdd(row[0], static (value, count) => Filled(value, count), row.Length);
    }

    private static float[] Filled(float value, int count)
    {
        var row = new float[count];
        Array.Fill(row, value);
        return row;
    }

    private static void Round(Span<float> row)
    {
        foreach (ref var figure in row)
        {
            if (Math.Abs(figure) < Coarser)
            {
                figure = MathF.Round(figure / Step) * Step;
            }
        }
    }

    /// <summary>Writes what is its own; what is the sound machine's is said to be.</summary>
    public void Write(BinaryWriter writer, Predictions? sound)
    {
        for (var c = 0; c < rows.Length; c++)
        {
            var borrowed = sound is not null && Borrowed(sound, c);
            writer.Write(borrowed);
            if (borrowed)
            {
                continue;
            }

            foreach (var (row, slot) in rows[c]!.Select((row, slot) => (row, slot)))
            {
                PredictionRow.Write(writer, row, sound?.rows[c]?[slot]);
            }

            PredictionRow.Write(writer, Glows[c], sound?.Glows[c]);
            foreach (var chatters in Chatters[c])
            {
                writer.Write(chatters);
            }

            writer.Write(hanging[c]?.Count ?? 0);
            foreach (var (node, all) in hanging[c] ?? None)
            {
                writer.Write(node);
                PredictionRow.Write(writer, all);
            }
        }
    }

    /// <summary>Takes in what was written of a hypothesis of the same table.</summary>
    public void Read(BinaryReader reader, Predictions? sound, Dictionary<float, float[]> constants)
    {
        for (var c = 0; c < rows.Length; c++)
        {
            if (reader.ReadBoolean())
            {
                Borrow(sound ?? throw new InvalidDataException("The sound machine borrows from nobody."), c);
                continue;
            }

            var packed = new float[figures[c].Length / nothing.Length][];
            for (var slot = 0; slot < packed.Length; slot++)
            {
                packed[slot] = PredictionRow.Read(reader, nothing.Length, sound?.rows[c]?[slot], constants);
            }

            (rows[c], figures[c]) = (packed, []);
            Glows[c] = PredictionRow.Read(reader, Glows[c].Length, sound?.Glows[c], null);
            for (var p = 0; p < nothing.Length; p++)
            {
                Chatters[c][p] = reader.ReadBoolean();
            }

            var loose = reader.ReadInt32();
            hanging[c] = loose == 0 ? null : [];
            for (var n = 0; n < loose; n++)
            {
                var node = reader.ReadInt32();
                hanging[c]![node] = PredictionRow.ReadHanging(reader, nothing.Length);
            }
        }
    }

    private static int[] Slots(IReadOnlyList<(int Red, int Black)> pairs, int nodes)
    {
        var slots = new int[nodes];
        Array.Fill(slots, -1);
        for (var i = 0; i < pairs.Count; i++)
        {
            if (slots[pairs[i].Red] >= 0)
            {
                throw new ArgumentException("A point is red in two pairs of one condition.", nameof(pairs));
            }

            slots[pairs[i].Red] = i;
        }

        return pairs.All(p => slots[p.Black] < 0)
            ? slots
            : throw new ArgumentException(
                "A point is red in one pair of a condition and black in another.",
                nameof(pairs)
            );
    }
}
