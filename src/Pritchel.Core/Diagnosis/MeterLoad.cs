using Pritchel.Core.Circuits;

namespace Pritchel.Core.Diagnosis;

/// <summary>
/// What a voltmeter's own megohms do to metal that hangs on leakage alone: behind blocking diodes or damp, a node has the
/// battery's volts until it is read. For metal that is joined to ground through no more than a megohm it changes nothing
/// that shows; for the rest the reading is the open volts times G/(G + Gm), G being what leaks into that piece of metal
/// and Gm the meter (voltage divider).
/// </summary>
internal sealed class MeterLoad
{
    // Ten megohms: common meters on volts.
    private const double MeterSiemens = 1e-7;

    // A tenth of the reading is lost behind this.
    private const double FirmSiemens = 1e-6;

    private readonly Network network;
    private readonly int[] parents;
    private readonly double[] leaks;
    private readonly (int Number, int Anchor)[] afloat;
    private int islands;

    public MeterLoad(Network network)
    {
        this.network = network;
        parents = new int[network.NodeCount];
        leaks = new double[network.NodeCount];
        afloat = new (int, int)[network.NodeCount];
    }

    /// <summary>Works out which metal hangs on leakage, as a state stands.</summary>
    public void Look(CircuitState state)
    {
        for (var n = 0; n < parents.Length; n++)
        {
            (parents[n], leaks[n], afloat[n]) = (n, 0, default);
        }

        islands = 0;

        var branches = network.Branches;
        var conductances = state.Conductances;
        for (var b = 0; b < branches.Count; b++)
        {
            if (conductances[b] >= FirmSiemens)
            {
                Join(branches[b].From, branches[b].To);
            }
        }

        for (var s = 0; s < network.Sources.Count; s++)
        {
            if (state.SourceConductances[s] >= FirmSiemens)
            {
                Join(network.Sources[s].From, network.Sources[s].To);
            }
        }

        for (var b = 0; b < branches.Count; b++)
        {
            var (from, to) = (Root(branches[b].From), Root(branches[b].To));
            if (from != to)
            {
                leaks[from] += conductances[b];
                leaks[to] += conductances[b];
            }
        }
    }

    /// <summary>Share of a node's open volts that a meter to the reference shows; 1 where the node is firm.</summary>
    public double Share(int node)
    {
        var root = Root(node);
        return root == Root(network.Reference) ? 1 : leaks[root] / (leaks[root] + MeterSiemens);
    }

    /// <summary>Number from 1 of the piece of metal that a node lies on, and the node that its volts are told from.</summary>
    public (int Number, int Anchor) IslandOf(int node)
    {
        var root = Root(node);
        if (afloat[root].Number == 0)
        {
            afloat[root] = (++islands, node);
        }

        return afloat[root];
    }

    private int Root(int node)
    {
        while (parents[node] != node)
        {
            parents[node] = parents[parents[node]];
            node = parents[node];
        }

        return node;
    }

    private void Join(int a, int b) => parents[Root(a)] = Root(b);
}
