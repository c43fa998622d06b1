using Pritchel.Core.Diagnosis.Procedures;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>Where figures of each point are kept, condition by condition; the same for every hypothesis of a table.</summary>
internal sealed class PointSlots
{
    private readonly int nodes;
    private readonly int[]?[] slots;
    private readonly int[] counts;

    /// <summary>Numbers the points that conditions read.</summary>
    /// <param name="conditions">Conditions of a table.</param>
    /// <param name="nodes">Nodes of its circuit.</param>
    /// <exception cref="ArgumentException">A point is red in two pairs of one condition, or red in one and black in another.</exception>
    public PointSlots(IReadOnlyList<Condition> conditions, int nodes)
    {
        this.nodes = nodes;
        slots = [.. conditions.Select(c => c.Pairs is { } pairs ? Numbered(pairs) : null)];
        counts = [.. conditions.Select(c => c.Pairs?.Count ?? nodes)];
    }

    /// <summary>How many figures a condition has.</summary>
    public int Count(int condition) => counts[condition];

    /// <summary>Where a node's figure is; negative where none is kept.</summary>
    public int Of(int condition, int node) => slots[condition] is { } numbered ? numbered[node] : node;

    private int[] Numbered(IReadOnlyList<(int Red, int Black)> pairs)
    {
        var numbered = new int[nodes];
        Array.Fill(numbered, -1);
        for (var i = 0; i < pairs.Count; i++)
        {
            if (numbered[pairs[i].Red] >= 0)
            {
                throw new ArgumentException("A point is red in two pairs of one condition.", nameof(pairs));
            }

            numbered[pairs[i].Red] = i;
        }

        return pairs.All(p => numbered[p.Black] < 0)
            ? numbered
            : throw new ArgumentException(
                "A point is red in one pair of a condition and black in another.",
                nameof(pairs)
            );
    }
}
