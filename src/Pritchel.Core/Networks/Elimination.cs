using System.Runtime.CompilerServices;

namespace Pritchel.Core.Networks;

/// <summary>
/// Node volts of a <see cref="Network"/> by star–mesh elimination. Every number formed is a sum, product or
/// quotient of positive numbers, so milliohms beside 10 MΩ, opens and floating islands lose nothing
/// (docs/method.md, "Solving a circuit"). What stands still between solves is eliminated once and kept. One instance serves one thread; solving allocates nothing.
/// </summary>
public sealed class Elimination
{
    /// <summary>Compiled well at once: compiled quickly first, all complaints of a fresh record take a good third longer to find.</summary>
    internal const MethodImplOptions Hot = MethodImplOptions.AggressiveOptimization;

    private readonly Network network;
    private readonly double[] standing;
    private readonly double[] edges;
    private readonly double[] weights;
    private readonly double[] totals;
    private readonly double[] volts;
    private readonly int[] islands;
    private readonly PortReduction ports;
    private CurrentElimination? together;
    private readonly Source[] sources;
    private bool expanded;

    /// <summary>Prepares working memory for a network.</summary>
    public Elimination(Network network)
    {
        this.network = network;
        standing = new double[network.EdgeCount];
        edges = new double[network.EdgeCount];
        weights = new double[network.Neighbours.Length];
        totals = new double[network.NodeCount];
        volts = new double[network.NodeCount];
        islands = new int[network.NodeCount];
        ports = new PortReduction(network);
        sources = [.. network.Sources];
    }

    /// <summary>The network solved.</summary>
    public Network Network => network;

    /// <summary>
    /// Solves for node volts.
    /// </summary>
    /// <param name="conductances">Siemens per branch, each ≥ 0 and finite.</param>
    /// <param name="emfs">Volts per source.</param>
    /// <param name="sourceConductances">Series siemens per source, each ≥ 0 and finite; zero disconnects it.</param>
    public void Solve(
        ReadOnlySpan<double> conductances,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances
    )
    {
        Array.Clear(standing);
        var (branchEdge, varies) = (network.BranchEdge, 0);
        for (var b = 0; b < branchEdge.Length; b++)
        {
            if (varies < network.Varying.Length && network.Varying[varies] == b)
            {
                varies++;
            }
            else if (branchEdge[b] >= 0)
            {
                standing[branchEdge[b]] += conductances[b];
            }
        }

        Reduce(network.Steps.AsSpan(0, network.StandingSteps), standing);
        SolveAgain(conductances, emfs, sourceConductances, quick: false);
    }

    /// <summary>Eliminates all but the ports and solves nothing: what <see cref="DeadNetwork"/> stands on.</summary>
    /// <param name="conductances">Siemens per branch.</param>
    [MethodImpl(Hot)]
    internal void Reduce(ReadOnlySpan<double> conductances)
    {
        Array.Clear(edges);
        for (var b = 0; b < network.BranchEdge.Length; b++)
        {
            if (network.BranchEdge[b] >= 0)
            {
                edges[network.BranchEdge[b]] += conductances[b];
            }
        }

        Reduce(network.Steps, edges);
    }

    /// <summary>
    /// Solves anew after e.m.f.s, source conductances and conductances of the network's varying branches have changed and
    /// nothing else: what <see cref="Solve"/> made of the rest stands.
    /// </summary>
    /// <param name="conductances">Siemens per branch; only those of varying branches are looked at.</param>
    /// <param name="emfs">Volts per source.</param>
    /// <param name="sourceConductances">Series siemens per source.</param>
    /// <param name="quick">All sources in one pass, good to a microvolt: for the steps of a wave.</param>
    [MethodImpl(Hot)]
    public void SolveAgain(
        ReadOnlySpan<double> conductances,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances,
        bool quick
    )
    {
        standing.CopyTo(edges, 0);
        foreach (var branch in network.Varying)
        {
            if (network.BranchEdge[branch] >= 0)
            {
                edges[network.BranchEdge[branch]] += conductances[branch];
            }
        }

        if (quick)
        {
            (together ??= new CurrentElimination(network)).Solve(
                edges,
                sources,
                emfs,
                sourceConductances,
                volts,
                islands
            );
            expanded = network.StandingSteps == 0;
            return;
        }

        Reduce(network.Steps.AsSpan(network.StandingSteps), edges);
        ports.Solve(edges, emfs, sourceConductances);
        for (var p = 0; p < network.Ports.Length; p++)
        {
            volts[network.Ports[p]] = ports.Volts(p);
            islands[network.Ports[p]] = ports.Island(p);
        }

        Expand(network.StandingSteps, network.Steps.Length);
        expanded = network.StandingSteps == 0;
    }

    /// <summary>
    /// What an eliminated node is joined to its neighbours by, as shares of <see cref="TotalOf"/>; index by the network's own
    /// lists of neighbours.
    /// </summary>
    internal ReadOnlySpan<double> Shares => weights;

    /// <summary>Siemens that joined a node to its neighbours when it was eliminated.</summary>
    internal double TotalOf(int node) => totals[node];

    /// <summary>
    /// Volts at <paramref name="a"/> above <paramref name="b"/>; zero when nothing conducts between their
    /// islands, which is what a meter joining them would settle at.
    /// </summary>
    public double Drop(int a, int b)
    {
        Reach(a, b);
        return islands[a] == islands[b] ? volts[a] - volts[b] : 0;
    }

    /// <summary>Whether any conducting path, however poor, joins two nodes.</summary>
    public bool Joined(int a, int b)
    {
        Reach(a, b);
        return islands[a] == islands[b];
    }

    /// <summary>Volts of a node above the reference; zero in an island that floats.</summary>
    public double Volts(int node) => Drop(node, network.Reference);

    /// <summary>Copies every node's volts and island, by node.</summary>
    internal void CopyTo(Span<double> toVolts, Span<int> toIslands)
    {
        ExpandStanding();
        volts.CopyTo(toVolts);
        islands.CopyTo(toIslands);
    }

    /// <summary>Works out the volts of nodes among what stands, which are left until someone asks for one of them.</summary>
    private void Reach(int a, int b)
    {
        if (!expanded && (network.IsStanding[a] || network.IsStanding[b]))
        {
            ExpandStanding();
        }
    }

    private void ExpandStanding()
    {
        if (!expanded)
        {
            Expand(0, network.StandingSteps);
            expanded = true;
        }
    }

    [MethodImpl(Hot)]
    private void Reduce(ReadOnlySpan<EliminationStep> steps, double[] conductance)
    {
        // Local copies keep the loop free of field loads; nearly every node of a loom has two neighbours.
        var (edgeOf, meshOf, share) = (network.NeighbourEdges, network.MeshEdges, weights);
        foreach (ref readonly var step in steps)
        {
            var first = step.FirstNeighbour;
            if (step.Degree != 2)
            {
                ReduceStar(in step, conductance);
                continue;
            }

            var (a, b) = (conductance[edgeOf[first]], conductance[edgeOf[first + 1]]);
            var total = a + b;
            totals[step.Node] = total;
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

    [MethodImpl(Hot)]
    private void ReduceStar(in EliminationStep step, double[] conductance)
    {
        var star = network.NeighbourEdges.AsSpan(step.FirstNeighbour, step.Degree);
        var share = weights.AsSpan(step.FirstNeighbour, step.Degree);
        double total = 0;
        for (var i = 0; i < star.Length; i++)
        {
            share[i] = conductance[star[i]];
            total += share[i];
        }

        totals[step.Node] = total;
        if (total == 0)
        {
            return;
        }

        // Each pair's mesh edge gets g·g/Σg; the shares are what the star's own become.
        var mesh = network.MeshEdges.AsSpan(step.FirstMeshEdge, step.Degree * (step.Degree - 1) / 2);
        var (inverse, at) = (1 / total, 0);
        for (var i = 0; i < share.Length; i++)
        {
            var part = share[i] * inverse;
            for (var j = i + 1; j < share.Length; j++)
            {
                conductance[mesh[at++]] += part * share[j];
            }

            share[i] = part;
        }
    }

    /// <summary>Back substitution: each node is the weighted mean of the neighbours it was eliminated into.</summary>
    [MethodImpl(Hot)]
    private void Expand(int first, int past)
    {
        var (steps, neighbours, share, level, island) = (network.Steps, network.Neighbours, weights, volts, islands);
        for (var s = past - 1; s >= first; s--)
        {
            ref readonly var step = ref steps[s];
            if (step.Degree == 2)
            {
                var pair = step.FirstNeighbour;
                var (toA, toB, a, b) = (share[pair], share[pair + 1], neighbours[pair], neighbours[pair + 1]);
                level[step.Node] = (toA * level[a]) + (toB * level[b]);
                island[step.Node] =
                    toB > 0 ? island[b]
                    : toA > 0 ? island[a]
                    : network.NodeCount + step.Node;
                continue;
            }

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
