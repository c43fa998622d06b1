using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>Figures of one hypothesis, laid out so that particles lie side by side.</summary>
internal sealed class Predictions
{
    private static readonly Dictionary<int, Hanging[]> None = [];
    private readonly float[][] figures;
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
        return slot < 0 ? nothing : figures[condition].AsSpan(slot * particles, particles);
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
        (figures[condition], Glows[condition], Chatters[condition], hanging[condition]) = (
            other.figures[condition],
            other.Glows[condition],
            other.Chatters[condition],
            other.hanging[condition]
        );

    public void Set(int condition, int slot, int particle, double value) =>
        figures[condition][(slot * nothing.Length) + particle] = (float)value;

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
