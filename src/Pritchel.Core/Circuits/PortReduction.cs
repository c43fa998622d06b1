namespace Pritchel.Core.Circuits;

/// <summary>
/// The few nodes that sources stand on, after everything else has been eliminated. Sources are superposed, each
/// with its own negative node at zero, so that no step subtracts nearly equal numbers.
/// </summary>
internal sealed class PortReduction
{
    private readonly Network network;
    private readonly int count;
    private readonly int reference;
    private readonly int[] from;
    private readonly int[] to;
    private readonly double[] mesh;
    private readonly double[] work;
    private readonly double[] shares;
    private readonly int[] order;
    private readonly double[] partial;
    private readonly double[] volts;
    private readonly int[] islands;

    public PortReduction(Network network)
    {
        this.network = network;
        count = network.Ports.Length;
        reference = Array.IndexOf(network.Ports, network.Reference);
        from = [.. network.Sources.Select(s => Array.IndexOf(network.Ports, s.From))];
        to = [.. network.Sources.Select(s => Array.IndexOf(network.Ports, s.To))];
        mesh = new double[count * count];
        work = new double[count * count];
        shares = new double[count * count];
        order = new int[count];
        partial = new double[count];
        volts = new double[count];
        islands = new int[count];
    }

    public double Volts(int port) => volts[port];

    public int Island(int port) => islands[port];

    public void Solve(ReadOnlySpan<double> edges, ReadOnlySpan<double> emfs, ReadOnlySpan<double> sourceConductances)
    {
        for (var i = 0; i < mesh.Length; i++)
        {
            mesh[i] = network.PortEdges[i] < 0 ? 0 : edges[network.PortEdges[i]];
        }

        for (var s = 0; s < from.Length; s++)
        {
            Add(mesh, from[s], to[s], sourceConductances[s]);
        }

        FindIslands();
        Array.Clear(volts);
        for (var s = 0; s < from.Length; s++)
        {
            if (emfs[s] != 0 && sourceConductances[s] > 0 && from[s] != to[s])
            {
                Superpose(s, emfs[s], sourceConductances[s], edges, sourceConductances);
            }
        }

        for (var p = 0; p < count; p++)
        {
            if (p != reference && islands[p] == islands[reference])
            {
                volts[p] -= volts[reference];
            }
        }

        volts[reference] = 0;
    }

    /// <summary>
    /// As <see cref="Solve"/>, all sources in one pass: each eliminated port hands its current on to its neighbours in
    /// shares. Currents of both signs may cancel, so nodes that only megohms hold lose digits: about a microvolt. For the
    /// many steps of a wave.
    /// </summary>
    public void SolveTogether(
        ReadOnlySpan<double> edges,
        ReadOnlySpan<double> emfs,
        ReadOnlySpan<double> sourceConductances
    )
    {
        Array.Clear(partial);
        for (var i = 0; i < work.Length; i++)
        {
            work[i] = network.PortEdges[i] < 0 ? 0 : edges[network.PortEdges[i]];
        }

        for (var s = 0; s < from.Length; s++)
        {
            Add(work, from[s], to[s], sourceConductances[s]);
            var amps = emfs[s] * sourceConductances[s];
            partial[from[s]] += amps;
            partial[to[s]] -= amps;
        }

        for (var k = 0; k < count; k++)
        {
            islands[k] = k;
            if (k != reference)
            {
                HandOn(k);
            }
        }

        volts[reference] = 0;
        for (var k = count - 1; k >= 0; k--)
        {
            if (k == reference)
            {
                continue;
            }

            var (mean, row) = (partial[k], k * count);
            for (var j = 0; j < count; j++)
            {
                var share = shares[row + j];
                if (share > 0)
                {
                    mean += share * volts[j];
                    islands[k] = islands[j];
                }
            }

            volts[k] = mean;
        }
    }

    /// <summary>Takes a port out: joins those after it that it joined, and leaves it its shares and its own volts.</summary>
    private void HandOn(int k)
    {
        var row = k * count;
        double total = 0;
        for (var j = 0; j < count; j++)
        {
            total += j > k || j == reference ? work[row + j] : 0;
        }

        if (total == 0)
        {
            shares.AsSpan(row, count).Clear();
            partial[k] = 0;
            return;
        }

        var amps = partial[k];
        for (var j = 0; j < count; j++)
        {
            var share = j > k || j == reference ? work[row + j] / total : 0;
            shares[row + j] = share;
            partial[j] += share * amps;
            if (share > 0)
            {
                for (var i = j + 1; i < count; i++)
                {
                    if (i > k || i == reference)
                    {
                        Add(work, i, j, share * work[row + i]);
                    }
                }
            }
        }

        partial[k] = amps / total;
    }

    private void Superpose(
        int source,
        double emf,
        double conductance,
        ReadOnlySpan<double> edges,
        ReadOnlySpan<double> sourceConductances
    )
    {
        // The acting source's own conductance is left out: it is in series with the e.m.f., not across it.
        for (var i = 0; i < work.Length; i++)
        {
            work[i] = network.PortEdges[i] < 0 ? 0 : edges[network.PortEdges[i]];
        }

        for (var s = 0; s < from.Length; s++)
        {
            if (s != source)
            {
                Add(work, from[s], to[s], sourceConductances[s]);
            }
        }

        var eliminated = EliminateOthers(from[source], to[source]);
        var across = work[(from[source] * count) + to[source]];
        Array.Clear(partial);
        partial[from[source]] = emf * (conductance / (conductance + across));
        for (var k = eliminated - 1; k >= 0; k--)
        {
            var port = order[k];
            double mean = 0;
            for (var j = 0; j < count; j++)
            {
                mean += shares[(port * count) + j] * partial[j];
            }

            partial[port] = mean;
        }

        for (var p = 0; p < count; p++)
        {
            volts[p] += partial[p];
        }
    }

    private int EliminateOthers(int keepA, int keepB)
    {
        Array.Clear(shares);
        var eliminated = 0;
        for (var k = 0; k < count; k++)
        {
            if (k == keepA || k == keepB)
            {
                continue;
            }

            order[eliminated++] = k;
            double total = 0;
            for (var j = 0; j < count; j++)
            {
                total += work[(k * count) + j];
            }

            if (total == 0)
            {
                continue;
            }

            for (var j = 0; j < count; j++)
            {
                shares[(k * count) + j] = work[(k * count) + j] / total;
            }

            for (var i = 0; i < count; i++)
            {
                for (var j = i + 1; j < count; j++)
                {
                    if (i != k && j != k)
                    {
                        Add(work, i, j, shares[(k * count) + i] * work[(k * count) + j]);
                    }
                }
            }

            for (var j = 0; j < count; j++)
            {
                work[(k * count) + j] = 0;
                work[(j * count) + k] = 0;
            }
        }

        return eliminated;
    }

    private void FindIslands()
    {
        for (var p = 0; p < count; p++)
        {
            islands[p] = p;
        }

        // Few ports: repeated relabelling to the lowest number is shorter than a disjoint-set forest.
        bool changed;
        do
        {
            changed = false;
            for (var i = 0; i < count; i++)
            {
                for (var j = 0; j < count; j++)
                {
                    if (mesh[(i * count) + j] > 0 && islands[j] < islands[i])
                    {
                        islands[i] = islands[j];
                        changed = true;
                    }
                }
            }
        } while (changed);
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
