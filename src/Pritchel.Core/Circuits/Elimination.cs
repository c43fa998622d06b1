namespace Pritchel.Core.Circuits;

/// <summary>
/// Node volts of a <see cref="Network"/> by star–mesh elimination. Every number formed is a sum, product or
/// quotient of positive numbers, so milliohms beside 10 MΩ, opens and floating islands lose nothing
/// (docs/method.md, "Solving a circuit"). One instance serves one thread; solving allocates nothing.
/// </summary>
public sealed class Elimination
{
    private readonly Network network;
    private readonly double[] edges;
    private readonly double[] weights;
    private readonly double[] volts;
    private readonly int[] islands;
    private readonly PortReduction ports;

    /// <summary>Prepares working memory for a network.</summary>
    public Elimination(Network network)
    {
        this.network = network;
        edges = new double[network.EdgeCount];
        weights = new double[network.Neighbours.Length];
        volts = new double[network.NodeCount];
        islands = new int[network.NodeCount];
        ports = new PortReduction(network);
    }

    /// <summary>The network solved.</summary>
    public Network Network => network;

    /// <summary>
    /// Solves for node volts.
    /// </summary>
    /// <param name="conductances">Siemens per branch, each ≥ 0 and finite.</param>
    /// <param name="emfs">Volts per source.</param>
    /// <param name="sourceConductances">Series siemens per source, each ≥ 0 and finite; zero disconnects it.</param>
    /// <param name="quick">All sources in one pass, good to a microvolt: for the steps of a wave.</param>
    public void Solve(
        ReadOnlySpan<double> conductances,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances,
        bool quick = false
    )
    {
        Array.Clear(edges);
        var branchEdge = network.BranchEdge;
        for (var b = 0; b < branchEdge.Length; b++)
        {
            if (branchEdge[b] >= 0)
            {
                edges[branchEdge[b]] += conductances[b];
            }
        }

        Reduce();
        if (quick)
        {
            ports.SolveTogether(edges, emfs, sourceConductances);
        }
        else
        {
            ports.Solve(edges, emfs, sourceConductances);
        }

        for (var p = 0; p < network.Ports.Length; p++)
        {
            volts[network.Ports[p]] = ports.Volts(p);
            islands[network.Ports[p]] = ports.Island(p);
        }

        Expand();
    }

    /// <summary>
    /// Volts at <paramref name="a"/> above <paramref name="b"/>; zero when nothing conducts between their
    /// islands, which is what a meter joining them would settle at.
    /// </summary>
    public double Drop(int a, int b) => islands[a] == islands[b] ? volts[a] - volts[b] : 0;

    /// <summary>Whether any conducting path, however poor, joins two nodes.</summary>
    public bool Joined(int a, int b) => islands[a] == islands[b];

    /// <summary>Volts of a node above the reference; zero in an island that floats.</summary>
    public double Volts(int node) => Drop(node, network.Reference);

    /// <summary>Copies every node's volts and island, by node.</summary>
    internal void CopyTo(Span<double> toVolts, Span<int> toIslands)
    {
        volts.CopyTo(toVolts);
        islands.CopyTo(toIslands);
    }

    private void Reduce()
    {
        // Local copies keep the loop free of field loads; nearly every node of a loom has two neighbours.
        var (edgeOf, meshOf, conductance, share) = (network.NeighbourEdges, network.MeshEdges, edges, weights);
        foreach (ref readonly var step in network.Steps.AsSpan())
        {
            var first = step.FirstNeighbour;
            if (step.Degree != 2)
            {
                ReduceStar(in step);
                continue;
            }

            var (a, b) = (conductance[edgeOf[first]], conductance[edgeOf[first + 1]]);
            var total = a + b;
            if (total == 0)
            {
                (share[first], share[first + 1]) = (0, 0);
                continue;
            }

            var inverse = 1 / total;
            var toA = a * inverse;
            share[first] = toA;
            share[first + 1] = b * inverse;
            conductance[meshOf[step.FirstMeshEdge]] += toA * b;
        }
    }

    private void ReduceStar(in EliminationStep step)
    {
        var star = network.NeighbourEdges.AsSpan(step.FirstNeighbour, step.Degree);
        var share = weights.AsSpan(step.FirstNeighbour, step.Degree);
        double total = 0;
        foreach (var edge in star)
        {
            total += edges[edge];
        }

        if (total == 0)
        {
            share.Clear();
            return;
        }

        var mesh = step.FirstMeshEdge;
        for (var i = 0; i < star.Length; i++)
        {
            share[i] = edges[star[i]] / total;
            for (var j = i + 1; j < star.Length; j++)
            {
                edges[network.MeshEdges[mesh++]] += share[i] * edges[star[j]];
            }
        }
    }

    /// <summary>Back substitution: each node is the weighted mean of the neighbours it was eliminated into.</summary>
    private void Expand()
    {
        var (steps, neighbours, share, level, island) = (network.Steps, network.Neighbours, weights, volts, islands);
        for (var s = steps.Length - 1; s >= 0; s--)
        {
            ref readonly var step = ref steps[s];
            double mean = 0;
            var joined = network.NodeCount + step.Node;
            for (var i = step.FirstNeighbour; i < step.FirstNeighbour + step.Degree; i++)
            {
                var weight = share[i];
                var neighbour = neighbours[i];
                mean += weight * level[neighbour];
                joined = weight > 0 ? island[neighbour] : joined;
            }

            level[step.Node] = mean;
            island[step.Node] = joined;
        }
    }
}
