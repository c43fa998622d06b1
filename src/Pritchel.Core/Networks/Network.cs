namespace Pritchel.Core.Networks;

/// <summary>A conducting branch between two nodes of a <see cref="Network"/>.</summary>
/// <param name="From">First node.</param>
/// <param name="To">Second node.</param>
public readonly record struct Branch(int From, int To);

/// <summary>An e.m.f. behind a series conductance, between two nodes; positive at <paramref name="From"/>.</summary>
/// <param name="From">Node the e.m.f. drives current out of.</param>
/// <param name="To">Node it returns to.</param>
public readonly record struct Source(int From, int To);

/// <summary>
/// The shape of a resistive circuit: nodes, branches and sources, without their values. Ordered once for
/// star–mesh elimination (minimum degree); <see cref="Elimination"/> then solves any values on it without allocating.
/// </summary>
public sealed class Network
{
    private readonly Lazy<WholeOrder> whole;

    /// <summary>Orders a network for elimination.</summary>
    /// <param name="nodeCount">Number of nodes, numbered from zero.</param>
    /// <param name="branches">Branches; several may join the same two nodes.</param>
    /// <param name="sources">Sources; their nodes are kept to the end as ports.</param>
    /// <param name="reference">Node that node volts are measured from.</param>
    /// <param name="varying">
    /// Branches whose conductance may change from one solve to the next while the rest stand. Their nodes are eliminated
    /// last, so that the work before them is kept (<see cref="Elimination.SolveAgain"/>).
    /// </param>
    public Network(
        int nodeCount,
        IReadOnlyList<Branch> branches,
        IReadOnlyList<Source> sources,
        int reference,
        IReadOnlyList<int>? varying = null
    )
    {
        NodeCount = nodeCount;
        Branches = [.. branches];
        Sources = [.. sources];
        Reference = reference;
        Ports = [.. sources.SelectMany(s => new[] { s.From, s.To }).Append(reference).Distinct().Order()];
        Varying = [.. varying ?? []];
        var last = Varying.SelectMany(b => new[] { Branches[b].From, Branches[b].To }).ToHashSet();
        var plan = new OrderingPlan(nodeCount, Branches, Ports, last);
        plan.KeepPorts();
        whole = new Lazy<WholeOrder>(() =>
            new OrderingPlan(nodeCount, Branches, Ports, last).KeepOnly(Reference, Sources)
        );
        StandingSteps = plan.StandingSteps;
        IsStanding = new bool[nodeCount];
        foreach (var step in plan.Steps.Take(StandingSteps))
        {
            IsStanding[step.Node] = true;
        }

        BranchEdge = plan.BranchEdge;
        EdgeCount = plan.EdgeCount;
        Steps = [.. plan.Steps];
        Neighbours = [.. plan.Neighbours];
        NeighbourEdges = [.. plan.NeighbourEdges];
        MeshEdges = [.. plan.MeshEdges];
        PortEdges = plan.PortEdges;
    }

    /// <summary>Number of nodes.</summary>
    public int NodeCount { get; }

    /// <summary>Branches, in the order their conductances are given.</summary>
    public IReadOnlyList<Branch> Branches { get; }

    /// <summary>Sources, in the order their e.m.f.s are given.</summary>
    public IReadOnlyList<Source> Sources { get; }

    /// <summary>Node that volts are measured from.</summary>
    public int Reference { get; }

    /// <summary>Nodes kept as terminals of the reduced network, ascending.</summary>
    internal int[] Ports { get; }

    /// <summary>Branches that may change while the rest stand.</summary>
    internal int[] Varying { get; }

    /// <summary>How many of <see cref="Steps"/>, from the first, touch no branch that varies.</summary>
    internal int StandingSteps { get; }

    /// <summary>Whether a node is eliminated in one of those.</summary>
    internal bool[] IsStanding { get; }

    /// <summary>The same without ports: what stands is eliminated alike, all else in the order that joins least.</summary>
    internal WholeOrder Whole => whole.Value;

    internal int EdgeCount { get; }

    /// <summary>Edge that each branch adds to, or −1 for a branch from a node to itself.</summary>
    internal int[] BranchEdge { get; }

    internal EliminationStep[] Steps { get; }

    internal int[] Neighbours { get; }

    internal int[] NeighbourEdges { get; }

    /// <summary>For each step, the edge joining neighbours i and j, i before j, row by row.</summary>
    internal int[] MeshEdges { get; }

    /// <summary>Edge between ports i and j at i·n+j, or −1 where none arises.</summary>
    internal int[] PortEdges { get; }
}

/// <summary>Elimination of one node: its neighbours and the mesh that replaces its star.</summary>
/// <param name="Node">Node eliminated.</param>
/// <param name="FirstNeighbour">Index of its first neighbour in the network's neighbour lists.</param>
/// <param name="Degree">Number of neighbours.</param>
/// <param name="FirstMeshEdge">Index of its first mesh edge.</param>
internal readonly record struct EliminationStep(int Node, int FirstNeighbour, int Degree, int FirstMeshEdge);

/// <summary>An order that eliminates every node but the reference, whatever sources stand on it.</summary>
/// <param name="Steps">Steps after those that stand.</param>
/// <param name="Neighbours">Lists of neighbours that the steps point into.</param>
/// <param name="NeighbourEdges">Edge to each neighbour.</param>
/// <param name="MeshEdges">For each step, the edge joining neighbours i and j, row by row.</param>
/// <param name="SourceEdges">Edge that each source's own siemens lie in, or −1 for a source from a node to itself.</param>
/// <param name="StandingEdges">Number of edges that are there once what stands is eliminated, numbered as in the network.</param>
/// <param name="EdgeCount">Number of edges in all.</param>
internal sealed record WholeOrder(
    EliminationStep[] Steps,
    int[] Neighbours,
    int[] NeighbourEdges,
    int[] MeshEdges,
    int[] SourceEdges,
    int StandingEdges,
    int EdgeCount
);

/// <summary>
/// Symbolic elimination in minimum-degree order, some nodes kept to the end: first what stands, always alike; then either all but
/// the ports, or all but the reference.
/// </summary>
internal sealed class OrderingPlan
{
    private const int MostNeighboursEarly = 3;

    private readonly Dictionary<(int, int), int> edges = [];
    private readonly HashSet<int>[] adjacent;
    private readonly int[] ports;
    private readonly HashSet<int> left;

    public OrderingPlan(int nodeCount, IReadOnlyList<Branch> branches, int[] ports, HashSet<int> last)
    {
        this.ports = ports;
        adjacent = new HashSet<int>[nodeCount];
        for (var n = 0; n < nodeCount; n++)
        {
            adjacent[n] = [];
        }

        BranchEdge = new int[branches.Count];
        for (var b = 0; b < branches.Count; b++)
        {
            BranchEdge[b] = branches[b].From == branches[b].To ? -1 : Join(branches[b].From, branches[b].To);
        }

        // A frame or a key's feed joins so much that taking it out early would join everything to everything.
        left = Enumerable.Range(0, nodeCount).Except(ports).ToHashSet();
        Eliminate([.. left.Where(n => !last.Contains(n))], MostNeighboursEarly);
        StandingSteps = Steps.Count;
    }

    public int[] BranchEdge { get; }

    public int StandingSteps { get; }

    public int EdgeCount => edges.Count;

    public List<EliminationStep> Steps { get; } = [];

    public List<int> Neighbours { get; } = [];

    public List<int> NeighbourEdges { get; } = [];

    public List<int> MeshEdges { get; } = [];

    public int[] PortEdges { get; private set; } = [];

    /// <summary>Goes on until the ports alone are left.</summary>
    public void KeepPorts()
    {
        Eliminate([.. left], int.MaxValue);
        PortEdges = new int[ports.Length * ports.Length];
        for (var i = 0; i < ports.Length; i++)
        {
            for (var j = 0; j < ports.Length; j++)
            {
                PortEdges[(i * ports.Length) + j] = edges.GetValueOrDefault(Key(ports[i], ports[j]), -1);
            }
        }
    }

    /// <summary>Goes on until the reference alone is left, ports like any other, sources' own siemens among the edges.</summary>
    public WholeOrder KeepOnly(int reference, IReadOnlyList<Source> sources)
    {
        var (met, mesh, standing) = (Neighbours.Count, MeshEdges.Count, EdgeCount);
        int[] sourceEdges = [.. sources.Select(s => s.From == s.To ? -1 : Join(s.From, s.To))];
        left.UnionWith(ports);
        left.Remove(reference);
        Eliminate([.. left], int.MaxValue);
        return new WholeOrder(
            [
                .. Steps
                    .Skip(StandingSteps)
                    .Select(s =>
                        s with
                        {
                            FirstNeighbour = s.FirstNeighbour - met,
                            FirstMeshEdge = s.FirstMeshEdge - mesh,
                        }
                    ),
            ],
            [.. Neighbours.Skip(met)],
            [.. NeighbourEdges.Skip(met)],
            [.. MeshEdges.Skip(mesh)],
            sourceEdges,
            standing,
            EdgeCount
        );
    }

    private static (int Low, int High) Key(int a, int b) => a < b ? (a, b) : (b, a);

    private int Join(int a, int b)
    {
        var key = Key(a, b);
        if (!edges.TryGetValue(key, out var edge))
        {
            edge = edges.Count;
            edges.Add(key, edge);
            adjacent[a].Add(b);
            adjacent[b].Add(a);
        }

        return edge;
    }

    private void Eliminate(HashSet<int> candidates, int mostNeighbours)
    {
        var queue = new SortedSet<(int Degree, int Node)>(candidates.Select(n => (adjacent[n].Count, n)));
        while (queue.Count > 0 && queue.Min is var (degree, node) && degree <= mostNeighbours)
        {
            left.Remove(node);
            var star = adjacent[node].Order().ToArray();
            queue.Remove((degree, node));
            queue.ExceptWith(star.Select(n => (adjacent[n].Count, n)));
            Steps.Add(new EliminationStep(node, Neighbours.Count, star.Length, MeshEdges.Count));
            foreach (var neighbour in star)
            {
                Neighbours.Add(neighbour);
                NeighbourEdges.Add(edges[Key(node, neighbour)]);
                adjacent[neighbour].Remove(node);
            }

            for (var i = 0; i < star.Length; i++)
            {
                for (var j = i + 1; j < star.Length; j++)
                {
                    MeshEdges.Add(Join(star[i], star[j]));
                }
            }

            queue.UnionWith(star.Where(candidates.Contains).Select(n => (adjacent[n].Count, n)));
        }
    }
}
