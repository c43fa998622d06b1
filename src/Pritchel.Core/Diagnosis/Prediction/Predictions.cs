using System.Buffers;
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

    // Borrowed from the pool while they are worked in, and so longer than what is in them: megabytes a hypothesis that are wanted for
    // as long as it takes to solve it.
    private readonly float[][] figures;
    private readonly bool[] pooled;
    private readonly float[][]?[] rows;
    private readonly PointSlots slots;
    private readonly float[] nothing;
    private readonly Dictionary<int, Hanging[]>?[] hanging;

    // A tenth of what meters show.
    private const float SameWithin = 1e-4f;

    /// <summary>Room for what is worked out, or for what is read from a file.</summary>
    /// <param name="table">The table it belongs to.</param>
    /// <param name="isRead">Whether rows come from a file as they were packed: arrays to work in would only be thrown away.</param>
    public Predictions(PredictionTable table, bool isRead = false)
    {
        var (conditions, particles, lamps) = (table.Conditions, table.Particles, table.Lamps.Count);
        nothing = new float[particles];
        slots = table.Slots;
        figures = [.. conditions.Select((_, c) => isRead ? [] : Cleared(slots.Count(c) * particles))];
        pooled = new bool[figures.Length];
        Array.Fill(pooled, !isRead);
        Glows = [.. conditions.Select(c => new float[(c.IsFree ? lamps : 0) * particles])];
        Chatters = [.. conditions.Select(_ => new bool[particles])];
        hanging = new Dictionary<int, Hanging[]>?[conditions.Count];
        rows = new float[][]?[conditions.Count];
        for (var c = 0; c < figures.Length; c++)
        {
            if (!table.HasFigures(c))
            {
                Exact(c).Fill(float.NaN);
            }
        }
    }

    /// <summary>About how many bytes of memory are its own and no other's.</summary>
    public long Bytes { get; private set; }

    public float[][] Glows { get; }

    public bool[][] Chatters { get; }

    public ReadOnlySpan<float> At(int condition, int node, int particles)
    {
        var slot = slots.Of(condition, node);
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

    private static float[] Cleared(int count)
    {
        var array = ArrayPool<float>.Shared.Rent(count);
        array.AsSpan(0, count).Clear();
        return array;
    }

    private Span<float> Exact(int condition) =>
        figures[condition] is { Length: > 0 } array ? array.AsSpan(0, slots.Count(condition) * nothing.Length) : [];

    /// <summary>Gives back what was worked in, and works in nothing or in another's from now on.</summary>
    private void Hold(int condition, float[] instead)
    {
        if (pooled[condition])
        {
            ArrayPool<float>.Shared.Return(figures[condition]);
        }

        (figures[condition], pooled[condition]) = (instead, false);
    }

    private Dictionary<int, Hanging[]>.KeyCollection Loose(int condition) => (hanging[condition] ?? None).Keys;

    private float Share(int condition, int node, int particle) =>
        hanging[condition] is { } nodes && nodes.TryGetValue(node, out var all) ? all[particle].Share : 1;

    /// <summary>Whether every figure and lamp of a particle in a condition is the same, and chatter too.</summary>
    /// <remarks>A path that a fault lays changes the order of solving, so the last digits may differ.</remarks>
    public bool Same(Predictions other, int condition, int particle)
    {
        bool Alike(ReadOnlySpan<float> mine, ReadOnlySpan<float> its)
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
            && Alike(Exact(condition), other.Exact(condition))
            && Alike(Glows[condition], other.Glows[condition])
            && Loose(condition)
                .Union(other.Loose(condition))
                .All(n => Math.Abs(Share(condition, n, particle) - other.Share(condition, n, particle)) <= SameWithin);
    }

    /// <summary>Whether its figures of a condition are another's own.</summary>
    public bool Borrowed(Predictions other, int condition) =>
        ReferenceEquals(Chatters[condition], other.Chatters[condition]);

    /// <summary>Takes another's figures of a condition for its own.</summary>
    public void Borrow(Predictions other, int condition)
    {
        Hold(condition, other.figures[condition]);
        (rows[condition], Glows[condition], Chatters[condition], hanging[condition]) = (
            other.rows[condition],
            other.Glows[condition],
            other.Chatters[condition],
            other.hanging[condition]
        );
    }

    public void Set(int condition, int slot, int particle, double value) =>
        figures[condition][(slot * nothing.Length) + particle] = (float)value;

    /// <summary>Rounds everything to what a meter could tell and keeps what is alike once.</summary>
    /// <param name="sound">The sound machine's, already packed; null for its own.</param>
    /// <param name="constants">Rows that are alike for every particle, shared by all.</param>
    /// <param name="keepsExact">Whether the exact figures are still compared with: see <see cref="DropExact()"/>.</param>
    public void Pack(Predictions? sound, ConcurrentDictionary<float, float[]> constants, bool keepsExact = false)
    {
        for (var c = 0; c < figures.Length; c++)
        {
            if (sound is not null && Borrowed(sound, c))
            {
                Borrow(sound, c);
                Hold(c, []);
                continue;
            }

            var flat = Exact(c);
            var packed = new float[flat.Length / nothing.Length][];
            for (var slot = 0; slot < packed.Length; slot++)
            {
                packed[slot] = Packed(
                    flat.Slice(slot * nothing.Length, nothing.Length),
                    sound?.rows[c]?[slot],
                    constants
                );
            }

            rows[c] = packed;
            if (!keepsExact)
            {
                DropExact(c);
            }

            Weigh(c, sound);
        }
    }

    /// <summary>Lets go of what was exact, when nothing is compared with it any more.</summary>
    public void DropExact()
    {
        for (var c = 0; c < figures.Length; c++)
        {
            DropExact(c);
        }
    }

    private void DropExact(int condition)
    {
        Hold(condition, []);
        Round(Glows[condition]);
    }

    private static float[] Packed(
        ReadOnlySpan<float> exact,
        float[]? sound,
        ConcurrentDictionary<float, float[]> constants
    )
    {
        Span<float> row = stackalloc float[exact.Length];
        exact.CopyTo(row);
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

            var packed = new float[slots.Count(c)][];
            for (var slot = 0; slot < packed.Length; slot++)
            {
                packed[slot] = PredictionRow.Read(reader, nothing.Length, sound?.rows[c]?[slot], constants);
            }

            rows[c] = packed;
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

            Weigh(c, sound);
        }
    }

    /// <summary>Adds what a packed condition takes: an array has a head of three words, and rows that are constant count as shared.</summary>
    private void Weigh(int condition, Predictions? sound)
    {
        const int Head = 24;
        var own = 0;
        for (var slot = 0; slot < rows[condition]!.Length; slot++)
        {
            var row = rows[condition]![slot];
            own +=
                !ReferenceEquals(row, sound?.rows[condition]?[slot]) && row.AsSpan().ContainsAnyExcept(row[0]) ? 1 : 0;
        }

        Bytes +=
            (own * (Head + (sizeof(float) * (long)nothing.Length)))
            + (Head + (8L * rows[condition]!.Length))
            + (2 * Head)
            + nothing.Length
            + (sizeof(float) * (long)Glows[condition].Length)
            + ((hanging[condition]?.Count ?? 0) * (Head + (12L * nothing.Length)));
    }
}
