using System.Runtime.CompilerServices;

namespace Pritchel.Core.Networks;

/// <summary>
/// All sources in one pass: sources as currents beside their own siemens (Norton), each eliminated node handing its current on
/// to its neighbours in shares, ports like any other in the order that joins least. Currents of both signs may cancel, so nodes
/// that only megohms hold lose digits: about a microvolt. For the many steps of a wave.
/// </summary>
internal sealed class CurrentElimination
{
    private readonly Network network;
    private readonly WholeOrder order;
    private readonly double[] siemens;
    private readonly double[] shares;
    private readonly double[] currents;

    public CurrentElimination(Network network)
    {
        (this.network, order) = (network, network.Whole);
        siemens = new double[order.EdgeCount];
        shares = new double[order.Neighbours.Length];
        currents = new double[network.NodeCount];
    }

    /// <summary>Solves for the volts of all nodes but those that stand.</summary>
    /// <param name="edges">Siemens by edge, what stands eliminated.</param>
    /// <param name="sources">The network's sources.</param>
    /// <param name="emfs">Volts per source.</param>
    /// <param name="sourceConductances">Series siemens per source.</param>
    /// <param name="volts">Filled by node.</param>
    /// <param name="islands">Filled by node.</param>
    [MethodImpl(Elimination.Hot)]
    public void Solve(
        ReadOnlySpan<double> edges,
        ReadOnlySpan<Source> sources,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances,
        double[] volts,
        int[] islands
    )
    {
        Array.Clear(currents);
        edges[..order.StandingEdges].CopyTo(siemens);
        siemens.AsSpan(order.StandingEdges).Clear();
        for (var s = 0; s < sources.Length; s++)
        {
            if (order.SourceEdges[s] >= 0)
            {
                siemens[order.SourceEdges[s]] += sourceConductances[s];
                var amps = emfs[s] * sourceConductances[s];
                currents[sources[s].From] += amps;
                currents[sources[s].To] -= amps;
            }
        }

        foreach (ref readonly var step in order.Steps.AsSpan())
        {
            Eliminate(in step);
        }

        (volts[network.Reference], islands[network.Reference]) = (0, network.Reference);
        for (var k = order.Steps.Length - 1; k >= 0; k--)
        {
            Expand(in order.Steps[k], volts, islands);
        }
    }

    [MethodImpl(Elimination.Hot)]
    private void Eliminate(in EliminationStep step)
    {
        var star = order.NeighbourEdges.AsSpan(step.FirstNeighbour, step.Degree);
        var met = order.Neighbours.AsSpan(step.FirstNeighbour, step.Degree);
        var share = shares.AsSpan(step.FirstNeighbour, step.Degree);
        double total = 0;
        for (var i = 0; i < star.Length; i++)
        {
            share[i] = siemens[star[i]];
            total += share[i];
        }

        // Its own volts keep what its current meets in going on.
        var amps = currents[step.Node];
        if (total == 0)
        {
            currents[step.Node] = 0;
            return;
        }

        var inverse = 1 / total;
        currents[step.Node] = amps * inverse;
        var mesh = order.MeshEdges.AsSpan(step.FirstMeshEdge, step.Degree * (step.Degree - 1) / 2);
        var at = 0;
        for (var i = 0; i < share.Length; i++)
        {
            var part = share[i] * inverse;
            currents[met[i]] += part * amps;
            for (var j = i + 1; j < share.Length; j++)
            {
                siemens[mesh[at++]] += part * share[j];
            }

            share[i] = part;
        }
    }

    [MethodImpl(Elimination.Hot)]
    private void Expand(in EliminationStep step, double[] volts, int[] islands)
    {
        var (mean, joined) = (currents[step.Node], network.NodeCount + step.Node);
        for (var i = step.FirstNeighbour; i < step.FirstNeighbour + step.Degree; i++)
        {
            var (weight, neighbour) = (shares[i], order.Neighbours[i]);
            mean += weight * volts[neighbour];
            joined = weight > 0 ? islands[neighbour] : joined;
        }

        (volts[step.Node], islands[step.Node]) = (mean, joined);
    }
}
