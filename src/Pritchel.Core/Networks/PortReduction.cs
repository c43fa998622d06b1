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
    private readonly int[] acting;
    private readonly int[] kept;
    private readonly double[][] levels;

    // What was taken out, in turn, and behind it what is left. Each that was taken out keeps those it met and its share of each.
    private readonly int[] order;
    private readonly int[] met;
    private readonly int[] neighbours;
    private readonly double[] shares;
    private readonly double[] partial;
    private readonly double[] volts;
    private readonly int[] islands;
    private int keeping;
    private bool knowsIslands;

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
        acting = new int[from.Length];
        kept = new int[count];
        // One for everything, and one more each time that what acts is halved.
        levels = new double[1 + int.Log2(Math.Max(1, (2 * from.Length) - 1))][];
        for (var level = 0; level < levels.Length; level++)
        {
            levels[level] = new double[count * count];
        }

        order = new int[count];
        met = new int[count];
        neighbours = new int[count * count];
        shares = new double[count * count];
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
        knowsIslands = false;
        for (var p = 0; p < count; p++)
        {
            // Always in the same turn, so that the same network gives the same volts to the last digit.
            order[p] = p;
        }

        var act = 0;
        for (var s = 0; s < from.Length; s++)
        {
            if (emfs[s] != 0 && sourceConductances[s] > 0 && from[s] != to[s])
            {
                acting[act++] = s;
            }
        }

        Gather(edges);
        for (var (s, next) = (0, 0); s < from.Length; s++)
        {
            if (next < act && acting[next] == s)
            {
                next++;
            }
            else if (sourceConductances[s] > 0)
            {
                Add(levels[0], from[s], to[s], sourceConductances[s]);
            }
        }

        if (act == 0)
        {
            // Nothing drives anything: only who is joined to whom is left to find out.
            keeping++;
            kept[reference] = keeping;
            var left = TakeOut(levels[0], 0);
            (partial[reference], islands[reference]) = (0, reference);
            Expand(left);
        }
        else
        {
            Superpose(0, act, 0, 0, emfs, sourceConductances);
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

    /// <summary>
    /// Lets some of what acts act, one after another. What is at none of their ends is taken out once for all of them; then half of
    /// them stand still while the others act, and the other way round.
    /// </summary>
    /// <param name="low">First of those that act.</param>
    /// <param name="past">Past the last of them.</param>
    /// <param name="level">How often what acts was halved.</param>
    /// <param name="left">How many ports have been taken out.</param>
    /// <param name="emfs">Volts of each source.</param>
    /// <param name="sourceConductances">Siemens of each source.</param>
    [MethodImpl(Elimination.Hot)]
    private void Superpose(
        int low,
        int past,
        int level,
        int left,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances
    )
    {
        keeping++;
        for (var a = low; a < past; a++)
        {
            (kept[from[acting[a]]], kept[to[acting[a]]]) = (keeping, keeping);
        }

        var work = levels[level];
        left = TakeOut(work, left);
        if (past - low == 1)
        {
            Act(acting[low], work, left, emfs, sourceConductances);
            return;
        }

        var half = (low + past) / 2;
        for (var side = 0; side < 2; side++)
        {
            var (first, end) = side == 0 ? (low, half) : (half, past);
            var (stillFirst, stillEnd) = side == 0 ? (half, past) : (low, half);
            work.CopyTo(levels[level + 1].AsSpan());
            for (var a = stillFirst; a < stillEnd; a++)
            {
                var s = acting[a];
                Add(levels[level + 1], from[s], to[s], sourceConductances[s]);
            }

            Superpose(first, end, level + 1, left, emfs, sourceConductances);
        }
    }

    /// <summary>
    /// One source acts on the two ports that are left. Its own conductance was left out: it is in series with the e.m.f., not
    /// across it.
    /// </summary>
    [MethodImpl(Elimination.Hot)]
    private void Act(
        int source,
        double[] work,
        int left,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances
    )
    {
        var (plus, minus) = (from[source], to[source]);
        var conductance = sourceConductances[source];
        partial[plus] = emfs[source] * (conductance / (conductance + work[(plus * count) + minus]));
        partial[minus] = 0;
        if (!knowsIslands)
        {
            // It joins them itself; the others' own conductances are in, so the first to act knows every island.
            (islands[plus], islands[minus]) = (plus, plus);
        }

        Expand(left);
        for (var p = 0; p < count; p++)
        {
            volts[p] += partial[p];
        }
    }

    /// <summary>Conductances between ports that the elimination left, without any source's own.</summary>
    [MethodImpl(Elimination.Hot)]
    private void Gather(ReadOnlySpan<double> edges)
    {
        var work = levels[0];
        Array.Clear(work);
        foreach (var (at, mirror, edge) in joins)
        {
            work[at] = edges[edge];
            work[mirror] = edges[edge];
        }
    }

    /// <summary>Takes out every port that is left and not to be kept, one after another.</summary>
    /// <returns>How many have been taken out by now.</returns>
    [MethodImpl(Elimination.Hot)]
    private int TakeOut(double[] work, int left)
    {
        var wanted = left;
        for (var k = left; k < count; k++)
        {
            if (kept[order[k]] != keeping)
            {
                (order[wanted], order[k]) = (order[k], order[wanted]);
                wanted++;
            }
        }

        for (; left < wanted; left++)
        {
            TakeOutOne(work, order[left], left + 1);
        }

        return left;
    }

    [MethodImpl(Elimination.Hot)]
    private void TakeOutOne(double[] work, int taken, int first)
    {
        var row = work.AsSpan(taken * count, count);
        var share = shares.AsSpan(taken * count, count);
        var near = neighbours.AsSpan(taken * count, count);
        var many = 0;
        double total = 0;
        foreach (var port in order.AsSpan(first))
        {
            if (row[port] > 0)
            {
                total += row[port];
                near[many++] = port;
            }
        }

        met[taken] = many;
        for (var i = 0; i < many; i++)
        {
            var a = near[i];
            var toA = row[a] / total;
            share[i] = toA;
            for (var j = i + 1; j < many; j++)
            {
                var b = near[j];
                var joined = toA * row[b];
                work[(a * count) + b] += joined;
                work[(b * count) + a] += joined;
            }
        }
    }

    /// <summary>Volts of the ports taken out, last first, from those that were kept; islands too, while nobody knows them.</summary>
    [MethodImpl(Elimination.Hot)]
    private void Expand(int left)
    {
        for (var k = left - 1; k >= 0; k--)
        {
            var port = order[k];
            var share = shares.AsSpan(port * count, met[port]);
            var near = neighbours.AsSpan(port * count, share.Length);
            double mean = 0;
            for (var j = 0; j < share.Length; j++)
            {
                mean += share[j] * partial[near[j]];
            }

            partial[port] = mean;
            if (!knowsIslands)
            {
                islands[port] = share.Length > 0 ? islands[near[^1]] : port;
            }
        }

        knowsIslands = true;
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
