using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// What a voltmeter's own megohms do to metal that hangs on leakage alone: behind blocking diodes or damp, a node has the
/// battery's volts until it is read. For metal that is joined to ground through no more than a megohm it changes nothing
/// that shows; for the rest the reading is the open volts times G/(G + Gm), G being what leaks into that piece of metal
/// and Gm the meter (voltage divider). Where that would pull it more than a knee below what feeds it through a diode, the
/// diode conducts and holds it there.
/// </summary>
internal sealed class MeterLoad
{
    private readonly double meterSiemens;

    // A tenth of the reading is lost behind this.
    private const double FirmSiemens = 1e-6;

    private readonly Circuit circuit;
    private readonly Network network;
    private readonly int[] parents;
    private readonly double[] leaks;
    private readonly double[] low;
    private readonly double[] high;
    private readonly (int Number, int Anchor)[] afloat;
    private int islands;

    public MeterLoad(Circuit circuit, Ohms input)
    {
        meterSiemens = 1 / input.Value;
        this.circuit = circuit;
        network = circuit.Network;
        parents = new int[network.NodeCount];
        leaks = new double[network.NodeCount];
        low = new double[network.NodeCount];
        high = new double[network.NodeCount];
        afloat = new (int, int)[network.NodeCount];
    }

    /// <summary>Works out which metal hangs on leakage, as a state stands.</summary>
    public void Look(CircuitState state)
    {
        for (var n = 0; n < parents.Length; n++)
        {
            (parents[n], leaks[n], afloat[n]) = (n, 0, default);
            (low[n], high[n]) = (double.NegativeInfinity, double.PositiveInfinity);
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

        foreach (var (anode, cathode, arm) in circuit.Diodes)
        {
            if (!double.IsInfinity(state[arm.OnOhms]))
            {
                Hold(state, anode, cathode, arm.KneeVolts);
            }
        }
    }

    /// <summary>How a node gives way to a meter.</summary>
    public Hanging Of(int node)
    {
        var root = Root(node);
        return root == Root(network.Reference)
            ? Hanging.Firm
            : new Hanging((float)(leaks[root] / (leaks[root] + meterSiemens)), (float)low[root], (float)high[root]);
    }

    /// <summary>A diode with one end on firm metal holds the loose metal at its other within its knee, on one side.</summary>
    private void Hold(CircuitState state, int anode, int cathode, double knee)
    {
        var (firm, from, to) = (Root(network.Reference), Root(anode), Root(cathode));
        if (from == firm && to != firm)
        {
            low[to] = Math.Max(low[to], state.Drop(anode, network.Reference) - knee);
        }

        if (to == firm && from != firm)
        {
            high[from] = Math.Min(high[from], state.Drop(cathode, network.Reference) + knee);
        }
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
