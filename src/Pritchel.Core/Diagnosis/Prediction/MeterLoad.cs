using System.Runtime.InteropServices;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// What a voltmeter's own megohms do to metal that hangs on leakage alone: behind blocking diodes or damp, a node has the
/// battery's volts until it is read. For metal that is joined to ground through no more than a megohm it changes nothing
/// that shows; for the rest the reading is the open volts times G/(G + Gm), G being what leaks into that piece of metal
/// from firm metal, by way of others that hang too, and Gm the meter (voltage divider). Where that would pull it more than a knee below what feeds it through a diode, the
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
    private readonly List<(int A, int B, double Siemens)> leaks = [];
    private readonly List<int> leaky = [];
    private readonly bool[] barely;
    private readonly double[] known;
    private readonly double[] volts;
    private readonly double[] drawn;
    private readonly double[] joined;
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
        barely = new bool[network.Sources.Count];
        known = new double[network.NodeCount];
        volts = new double[network.NodeCount];
        drawn = new double[network.NodeCount];
        joined = new double[network.NodeCount];
        low = new double[network.NodeCount];
        high = new double[network.NodeCount];
        afloat = new (int, int)[network.NodeCount];
    }

    /// <summary>Works out which metal hangs on leakage, as a state stands.</summary>
    public void Look(CircuitState state)
    {
        for (var n = 0; n < parents.Length; n++)
        {
            (parents[n], known[n], afloat[n]) = (n, double.NaN, default);
            (low[n], high[n]) = (double.NegativeInfinity, double.PositiveInfinity);
        }

        islands = 0;
        leaks.Clear();
        leaky.Clear();
        Array.Clear(joined);

        var branches = network.Branches;
        var conductances = state.Conductances;
        for (var b = 0; b < branches.Count; b++)
        {
            if (conductances[b] >= FirmSiemens)
            {
                Join(branches[b].From, branches[b].To);
            }
        }

        // A diode that leakage alone keeps at its knee holds nothing: the meter takes that current and lets it block.
        foreach (var (_, _, arm) in circuit.Diodes)
        {
            barely[arm.Knee.Index] = Math.Abs(state.Through(arm.Knee)) < meterSiemens * arm.KneeVolts;
        }

        for (var s = 0; s < network.Sources.Count; s++)
        {
            if (state.SourceConductances[s] >= FirmSiemens && !barely[s])
            {
                Join(network.Sources[s].From, network.Sources[s].To);
            }
        }

        for (var b = 0; b < branches.Count; b++)
        {
            var (from, to) = (Root(branches[b].From), Root(branches[b].To));
            if (from != to && conductances[b] > 0)
            {
                leaks.Add((from, to, conductances[b]));
                Leak(from, conductances[b]);
                Leak(to, conductances[b]);
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
            : new Hanging((float)(Leaks(root) / (Leaks(root) + meterSiemens)), (float)low[root], (float)high[root]);
    }

    /// <summary>
    /// Siemens from a hanging piece of metal to the firm, the rest that hangs left to find its own volts: one volt is put on
    /// it, the others are relaxed between their neighbours until they stand, and its current is counted.
    /// </summary>
    private double Leaks(int root)
    {
        const int Rounds = 40;
        if (!double.IsNaN(known[root]))
        {
            return known[root];
        }

        if (joined[root] == 0)
        {
            return known[root] = 0;
        }

        var firm = Root(network.Reference);
        foreach (var n in leaky)
        {
            volts[n] = n == root ? 1 : 0;
        }

        for (var round = 0; round < Rounds; round++)
        {
            foreach (var n in leaky)
            {
                drawn[n] = 0;
            }

            foreach (var (a, b, siemens) in CollectionsMarshal.AsSpan(leaks))
            {
                drawn[a] += siemens * volts[b];
                drawn[b] += siemens * volts[a];
            }

            foreach (var n in leaky)
            {
                if (n != firm && n != root)
                {
                    volts[n] = drawn[n] / joined[n];
                }
            }
        }

        return known[root] = joined[root] - drawn[root];
    }

    /// <summary>Counts a leak at one of the pieces of metal it lies between.</summary>
    private void Leak(int root, double siemens)
    {
        if (joined[root] == 0)
        {
            leaky.Add(root);
        }

        joined[root] += siemens;
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
