using Pritchel.Core.Exchange;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

/// <summary>A settled case taken out of its state: values by branch and source, and its netlist.</summary>
internal sealed record SolvedCase(double[] Conductances, double[] Emfs, double[] SourceConductances, string Netlist)
{
    public static SolvedCase Of(CircuitState state) =>
        new([.. state.Conductances], [.. state.Emfs], [.. state.SourceConductances], SpiceNetlist.Write(state, "case"));
}

/// <summary>Plain dense factorisation with partial pivoting, for comparison: stamp, factor, substitute, no allocation.</summary>
internal sealed class DenseSolver
{
    // Ties nodes that nothing else holds, so that the matrix is not singular.
    private const double FloatSiemens = 1e-12;

    private readonly Network network;
    private readonly int size;
    private readonly double[] a;
    private readonly double[] x;

    public DenseSolver(Network network)
    {
        this.network = network;
        size = network.NodeCount - 1;
        a = new double[size * size];
        x = new double[size];
    }

    public ReadOnlySpan<double> Volts => x;

    public void Solve(SolvedCase values)
    {
        Array.Clear(a);
        Array.Clear(x);
        for (var n = 0; n < size; n++)
        {
            a[(n * size) + n] = FloatSiemens;
        }

        for (var b = 0; b < network.Branches.Count; b++)
        {
            Stamp(Row(network.Branches[b].From), Row(network.Branches[b].To), values.Conductances[b]);
        }

        for (var s = 0; s < network.Sources.Count; s++)
        {
            var (from, to) = (Row(network.Sources[s].From), Row(network.Sources[s].To));
            Stamp(from, to, values.SourceConductances[s]);
            Inject(from, values.Emfs[s] * values.SourceConductances[s]);
            Inject(to, -values.Emfs[s] * values.SourceConductances[s]);
        }

        Factor();
    }

    private int Row(int node) =>
        node == network.Reference ? -1
        : node < network.Reference ? node
        : node - 1;

    private void Stamp(int i, int j, double siemens)
    {
        if (i >= 0)
        {
            a[(i * size) + i] += siemens;
        }

        if (j >= 0)
        {
            a[(j * size) + j] += siemens;
        }

        if (i >= 0 && j >= 0)
        {
            a[(i * size) + j] -= siemens;
            a[(j * size) + i] -= siemens;
        }
    }

    private void Inject(int row, double amps)
    {
        if (row >= 0)
        {
            x[row] += amps;
        }
    }

    private void Factor()
    {
        for (var k = 0; k < size; k++)
        {
            var pivot = k;
            for (var r = k + 1; r < size; r++)
            {
                if (Math.Abs(a[(r * size) + k]) > Math.Abs(a[(pivot * size) + k]))
                {
                    pivot = r;
                }
            }

            if (pivot != k)
            {
                for (var c = 0; c < size; c++)
                {
                    (a[(k * size) + c], a[(pivot * size) + c]) = (a[(pivot * size) + c], a[(k * size) + c]);
                }

                (x[k], x[pivot]) = (x[pivot], x[k]);
            }

            var above = a.AsSpan(k * size, size);
            for (var r = k + 1; r < size; r++)
            {
                var row = a.AsSpan(r * size, size);
                if (row[k] == 0)
                {
                    continue;
                }

                var factor = row[k] / above[k];
                for (var c = k; c < size; c++)
                {
                    row[c] -= factor * above[c];
                }

                x[r] -= factor * x[k];
            }
        }

        for (var r = size - 1; r >= 0; r--)
        {
            var sum = x[r];
            for (var c = r + 1; c < size; c++)
            {
                sum -= a[(r * size) + c] * x[c];
            }

            x[r] = sum / a[(r * size) + r];
        }
    }
}
