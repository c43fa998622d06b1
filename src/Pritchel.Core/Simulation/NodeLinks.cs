namespace Pritchel.Core.Simulation;

/// <summary>Links between nodes, and what can be reached along them.</summary>
internal static class NodeLinks
{
    /// <summary>Links from either end.</summary>
    public static ILookup<int, int> Both(IEnumerable<(int A, int B)> links) =>
        links.SelectMany(l => new[] { l, (A: l.B, B: l.A) }).ToLookup(l => l.A, l => l.B);

    /// <summary>Nodes reached, those begun from included.</summary>
    /// <param name="from">Where to begin.</param>
    /// <param name="links">Links from either end.</param>
    /// <param name="without">Nodes never entered, or null.</param>
    public static HashSet<int> Reached(IEnumerable<int> from, ILookup<int, int> links, HashSet<int>? without = null)
    {
        var reached = from.ToHashSet();
        var open = new Queue<int>(reached);
        while (open.TryDequeue(out var node))
        {
            foreach (var next in links[node].Where(n => without?.Contains(n) != true && reached.Add(n)))
            {
                open.Enqueue(next);
            }
        }

        return reached;
    }
}
