using System.Runtime.CompilerServices;

namespace Pritchel.Core.Networks;

/// <summary>
/// The few nodes that sources stand on, after everything else has been eliminated. Sources are superposed, each
/// with its own negative node at zero, so that no step subtracts nearly equal numbers.
/// </summary>
internal sealed class PortReduction
{
    private readonly int count;
    private readonly int reference;
    private readonly int[] from;
    private readonly int[] to;
    private readonly (int At, int Mirror, int Edge)[] joins;
    private readonly double[] work;
    private readonly double[] shares;
    private readonly int[] order;
    private readonly int[] neighbours;
    private readonly double[] partial;
    private readonly double[] volts;
    private readonly int[] islands;
    private int left;

    public PortReduction(Network network)
    {
        count = network.Ports.Length;
        reference = Array.IndexOf(network.Ports, network.Reference);
        from = [.. network.Sources.Select(s => Array.IndexOf(network.Ports, s.From))];
        to = [.. network.Sources.Select(s => Array.IndexOf(network.Ports, s.To))];
        joins =
        [
            .. Enumerable
                .Range(0, count * count)
                .Select(at => (At: at, Mirror: (at % count * count) + (at / count), Edge: network.PortEdges[at]))
                .Where(j => j.At < j.Mirror && j.Edge >= 0),
        ];
        work = new double[count * count];
        shares = new double[count * count];
        order = new int[count + 2];
        neighbours = new int[count];
        partial = new double[count];
        volts = new double[count];
        islands = new int[count];
    }

    public double Volts(int port) => volts[port];

    public int Island(int port) => islands[port];

    [MethodImpl(Elimination.Hot)]
    public void Solve(ReadOnlySpan<double> edges, ReadOnlySpan<double> emfs, ReadOnlySpan<double> sourceConductances)
    {
        Array.Clear(volts);
        var acting = 0;
        for (var s = 0; s < from.Length; s++)
        {
            if (emfs[s] != 0 && sourceConductances[s] > 0 && from[s] != to[s])
            {
                Superpose(s, emfs[s], sourceConductances[s], edges, sourceConductances, first: acting++ == 0);
            }
        }

        if (acting == 0)
        {
            // Nothing drives anything: only who is joined to whom is left to find out.
            Gather(edges, sourceConductances, except: -1);
            Eliminate(reference, reference);
            (partial[reference], islands[reference]) = (0, reference);
            Expand(islandsToo: true);
        }

        var zero = volts[reference];
        for (var p = 0; p < count; p++)
        {
            if (islands[p] == islands[reference])
            {
                volts[p] -= zero;
            }
        }
    }

    [MethodImpl(Elimination.Hot)]
    private void Superpose(
        int source,
        double emf,
        double conductance,
        ReadOnlySpan<double> edges,
        ReadOnlySpan<double> sourceConductances,
        bool first
    )
    {
        // The acting source's own conductance is left out: it is in series with the e.m.f., not across it.
        Gather(edges, sourceConductances, except: source);
        var (plus, minus) = (from[source], to[source]);
        Eliminate(plus, minus);
        var across = work[(plus * count) + minus];
        partial[plus] = emf * (conductance / (conductance + across));
        partial[minus] = 0;
        if (first)
        {
            // It joins them itself; the others' own conductances are in, so the first to act knows every island.
            (islands[plus], islands[minus]) = (plus, plus);
        }

        Expand(islandsToo: first);
        for (var p = 0; p < count; p++)
        {
            volts[p] += partial[p];
        }
    }

    /// <summary>Conductances between ports: what the elimination left, and every source's own but one.</summary>
    [MethodImpl(Elimination.Hot)]
    private void Gather(ReadOnlySpan<double> edges, ReadOnlySpan<double> sourceConductances, int except)
    {
        Array.Clear(work);
        foreach (var (at, mirror, edge) in joins)
        {
            work[at] = edges[edge];
            work[mirror] = edges[edge];
        }

        for (var s = 0; s < from.Length; s++)
        {
            if (s != except && sourceConductances[s] > 0)
            {
                Add(work, from[s], to[s], sourceConductances[s]);
            }
        }
    }

    /// <summary>Takes every port but two out, one after another; each keeps its shares of those that were left.</summary>
    [MethodImpl(Elimination.Hot)]
    private void Eliminate(int keepA, int keepB)
    {
        left = 0;
        for (var k = 0; k < count; k++)
        {
            if (k != keepA && k != keepB)
            {
                order[left++] = k;
            }
        }

        (order[left], order[left + 1]) = (keepA, keepB);
        var past = keepA == keepB ? left + 1 : left + 2;
        for (var k = 0; k < left; k++)
        {
            EliminateOne(order[k], k + 1, past);
        }
    }

    /// <summary>Volts of the ports taken out, last first, from those that were kept.</summary>
    [MethodImpl(Elimination.Hot)]
    private void Expand(bool islandsToo)
    {
        for (var k = left - 1; k >= 0; k--)
        {
            var port = order[k];
            var share = shares.AsSpan(port * count, count);
            double mean = 0;
            var joined = port;
            for (var j = 0; j < share.Length; j++)
            {
                if (share[j] > 0)
                {
                    mean += share[j] * partial[j];
                    joined = islands[j];
                }
            }

            partial[port] = mean;
            if (islandsToo)
            {
                islands[port] = joined;
            }
        }
    }

    [MethodImpl(Elimination.Hot)]
    private void EliminateOne(int taken, int first, int past)
    {
        var row = work.AsSpan(taken * count, count);
        var share = shares.AsSpan(taken * count, count);
        share.Clear();
        var met = 0;
        double total = 0;
        foreach (var port in order.AsSpan(first, past - first))
        {
            if (row[port] > 0)
            {
                total += row[port];
                neighbours[met++] = port;
            }
        }

        for (var i = 0; i < met; i++)
        {
            var a = neighbours[i];
            var toA = row[a] / total;
            share[a] = toA;
            for (var j = i + 1; j < met; j++)
            {
                var b = neighbours[j];
                var joined = toA * row[b];
                work[(a * count) + b] += joined;
                work[(b * count) + a] += joined;
            }
        }
    }

    private void Add(double[] matrix, int i, int j, double conductance)
    {
        if (i != j)
        {
            matrix[(i * count) + j] += conductance;
            matrix[(j * count) + i] += conductance;
        }
    }
}
