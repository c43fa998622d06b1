namespace Pritchel.Core.Networks;

/// <summary>
/// A network with every e.m.f. dead, eliminated whole, so that ohms between any two of its nodes are quickly had: a test
/// current in at one and out at the other is handed on along the elimination and its volts found on the way back, which
/// touches only what both nodes were eliminated into. One instance serves one thread; after it is made nothing is allocated.
/// </summary>
internal sealed class DeadNetwork
{
    private readonly Elimination elimination;
    private readonly double[] siemens;
    private readonly int branches;
    private readonly int[] stepOf;
    private readonly double[] amps;
    private readonly double[] volts;
    private readonly bool[] touched;
    private readonly int[] met;

    /// <summary>Prepares working memory for a network; its sources count with their own conductance alone.</summary>
    public DeadNetwork(Network network)
    {
        branches = network.Branches.Count;
        elimination = new Elimination(
            new Network(
                network.NodeCount,
                [.. network.Branches, .. network.Sources.Select(s => new Branch(s.From, s.To))],
                [],
                network.Reference
            )
        );
        siemens = new double[elimination.Network.Branches.Count];
        stepOf = new int[network.NodeCount];
        Array.Fill(stepOf, elimination.Network.Steps.Length);
        for (var s = 0; s < elimination.Network.Steps.Length; s++)
        {
            stepOf[elimination.Network.Steps[s].Node] = s;
        }

        amps = new double[network.NodeCount];
        volts = new double[network.NodeCount];
        touched = new bool[network.NodeCount];
        met = new int[network.NodeCount];
    }

    /// <summary>Takes conductances over, in siemens by branch and by source.</summary>
    public void Stand(ReadOnlySpan<double> conductances, ReadOnlySpan<double> sourceConductances)
    {
        conductances.CopyTo(siemens);
        sourceConductances.CopyTo(siemens.AsSpan(branches));
        elimination.Reduce(siemens);
    }

    /// <summary>Ohms between two nodes as things stand; infinite when nothing joins them.</summary>
    public double Ohms(int a, int b)
    {
        if (a == b)
        {
            return 0;
        }

        if (LastOf(a) != LastOf(b))
        {
            return double.PositiveInfinity;
        }

        (amps[a], amps[b]) = (1, -1);
        touched[a] = touched[b] = true;
        HandBack(HandOn(Math.Min(stepOf[a], stepOf[b])));
        return volts[a] - volts[b];
    }

    /// <summary>The node that a node's piece of metal was eliminated into last: the same for all that is joined.</summary>
    private int LastOf(int node)
    {
        var network = elimination.Network;
        while (stepOf[node] < network.Steps.Length)
        {
            var step = network.Steps[stepOf[node]];
            var into = elimination.Shares.Slice(step.FirstNeighbour, step.Degree).IndexOfAnyExcept(0);
            if (into < 0)
            {
                break;
            }

            node = network.Neighbours[step.FirstNeighbour + into];
        }

        return node;
    }

    /// <summary>Current into each eliminated node goes on to its neighbours in their shares; how many steps took part.</summary>
    private int HandOn(int first)
    {
        var (network, count) = (elimination.Network, 0);
        var shares = elimination.Shares;
        for (var s = first; s < network.Steps.Length; s++)
        {
            ref readonly var step = ref network.Steps[s];
            if (!touched[step.Node])
            {
                continue;
            }

            met[count++] = s;
            for (var i = step.FirstNeighbour; i < step.FirstNeighbour + step.Degree; i++)
            {
                if (shares[i] > 0)
                {
                    amps[network.Neighbours[i]] += shares[i] * amps[step.Node];
                    touched[network.Neighbours[i]] = true;
                }
            }
        }

        return count;
    }

    /// <summary>Volts, last node first: what its own current makes of its total, above the mean of its neighbours.</summary>
    private void HandBack(int count)
    {
        var network = elimination.Network;
        var shares = elimination.Shares;
        (volts[network.Reference], amps[network.Reference], touched[network.Reference]) = (0, 0, false);
        for (var k = count - 1; k >= 0; k--)
        {
            ref readonly var step = ref network.Steps[met[k]];
            var total = elimination.TotalOf(step.Node);
            var level = total > 0 ? amps[step.Node] / total : 0;
            for (var i = step.FirstNeighbour; i < step.FirstNeighbour + step.Degree; i++)
            {
                level += shares[i] > 0 ? shares[i] * volts[network.Neighbours[i]] : 0;
            }

            volts[step.Node] = level;
            (amps[step.Node], touched[step.Node]) = (0, false);
        }
    }
}
