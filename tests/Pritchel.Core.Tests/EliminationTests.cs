using CsCheck;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Tests;

/// <summary>The solver against a plain high-precision one, and against laws that any resistive network keeps.</summary>
public class EliminationTests
{
    private static readonly Gen<double> Siemens = Gen.OneOf(
        Gen.Double[-7, 4].Select(e => Math.Pow(10, e)),
        Gen.Const(0.0),
        Gen.Const(1e4),
        Gen.Const(1e-7)
    );

    private static readonly Gen<RandomNetwork> Networks =
        from nodes in Gen.Int[3, 24]
        from branches in Gen.Select(Gen.Int[0, nodes - 1], Gen.Int[0, nodes - 1], Siemens).Array[nodes, nodes * 3]
        from sources in Gen.Select(
            Gen.Int[0, nodes - 1],
            Gen.Int[0, nodes - 1],
            Gen.Double[-15, 15],
            Gen.Double[-3, 3].Select(e => Math.Pow(10, e))
        ).Array[1, 3]
        select new RandomNetwork(nodes, branches, sources);

    [Fact]
    public void Agrees_with_28_digit_arithmetic_to_1e_12_of_the_highest_source() =>
        Networks.Sample(
            network =>
            {
                var ours = network.Solve();
                var theirs = DecimalSolver.Solve(network);
                var allowed = 1e-12 * Math.Max(1e-3, network.Sources.Max(s => Math.Abs(s.Emf)));
                for (var n = 0; n < network.Nodes; n++)
                {
                    Assert.Equal(theirs[n] is not null, ours.Joined(n, 0));
                    if (theirs[n] is { } exact)
                    {
                        Assert.True(
                            Math.Abs((double)((decimal)ours.Volts(n) - exact)) <= allowed,
                            $"node {n}: {ours.Volts(n):R} against {exact}"
                        );
                    }
                }
            },
            iter: 2000
        );

    [Fact]
    public void Solving_again_on_what_stands_is_solving_afresh() =>
        Gen.Select(Networks, Gen.Int[0, 1000], Siemens.Array[12])
            .Sample(
                (network, pick, fresh) =>
                {
                    int[] varying =
                    [
                        .. Enumerable.Range(0, network.Branches.Length).Where(b => (b * 7919 + pick) % 3 == 0),
                    ];
                    var solver = network.Solver(varying);
                    var changed = network.Branches.ToArray();
                    foreach (var b in varying)
                    {
                        changed[b].Siemens = fresh[b % fresh.Length];
                    }

                    var after = network with { Branches = changed };
                    solver.SolveAgain(
                        [.. changed.Select(b => b.Siemens)],
                        [.. network.Sources.Select(s => s.Emf)],
                        [.. network.Sources.Select(s => s.Siemens)],
                        quick: false
                    );
                    var plain = after.Solve();
                    for (var n = 0; n < network.Nodes; n++)
                    {
                        Assert.Equal(plain.Joined(n, 0), solver.Joined(n, 0));
                        Assert.Equal(plain.Volts(n), solver.Volts(n), 1e-11);
                    }
                },
                iter: 1000
            );

    /// <summary>
    /// All sources in one pass against one after another, with what varies changed between: within 100 µV where nothing hangs on
    /// more than a megohm, and the same nodes joined.
    /// </summary>
    [Fact]
    public void All_sources_together_are_all_sources_superposed() =>
        Gen.Select(Networks, Gen.Int[0, 1000], Siemens.Array[12])
            .Sample(
                (network, pick, fresh) =>
                {
                    static double Firm(double siemens) => siemens <= 0 ? 0 : Math.Clamp(siemens, 1e-6, 1e3);
                    var firm = network with
                    {
                        Branches = [.. network.Branches.Select(b => b with { Siemens = Firm(b.Siemens) })],
                        Sources = [.. network.Sources.Select(s => s with { Siemens = Math.Min(s.Siemens, 100) })],
                    };
                    int[] varying =
                    [
                        .. Enumerable.Range(0, firm.Branches.Length).Where(b => (b * 7919 + pick) % 3 == 0),
                    ];
                    var (together, apart) = (firm.Solver(varying), firm.Solver(varying));
                    var changed = firm.Branches.ToArray();
                    foreach (var b in varying)
                    {
                        changed[b].Siemens = Firm(fresh[b % fresh.Length]);
                    }

                    void Again(Elimination solver, bool quick) =>
                        solver.SolveAgain(
                            [.. changed.Select(b => b.Siemens)],
                            [.. firm.Sources.Select(s => s.Emf)],
                            [.. firm.Sources.Select(s => s.Siemens)],
                            quick
                        );
                    Again(together, quick: true);
                    Again(apart, quick: false);
                    for (var n = 0; n < firm.Nodes; n++)
                    {
                        Assert.Equal(apart.Joined(n, 0), together.Joined(n, 0));
                        Assert.Equal(apart.Volts(n), together.Volts(n), 1e-4);
                    }
                },
                iter: 1000
            );

    [Fact]
    public void Reciprocity_holds() =>
        Gen.Select(Networks, Gen.Int[1, 100], Gen.Int[1, 100])
            .Sample(
                (network, a, b) =>
                {
                    var (p, q) = (a % network.Nodes, b % network.Nodes);
                    if (p == q || p == 0 || q == 0)
                    {
                        return;
                    }

                    // Volts at q from a source at p equal volts at p from the same source at q; both behind one ohm.
                    var atQ = new RandomNetwork(network.Nodes, network.Branches, [(p, 0, 10, 1), (q, 0, 0, 1)])
                        .Solve()
                        .Volts(q);
                    var atP = new RandomNetwork(network.Nodes, network.Branches, [(p, 0, 0, 1), (q, 0, 10, 1)])
                        .Solve()
                        .Volts(p);
                    Assert.Equal(atQ, atP, 1e-11);
                },
                iter: 1000
            );

    [Fact]
    public void Another_conductor_never_raises_effective_resistance() =>
        Gen.Select(Networks, Gen.Int[0, 100], Gen.Int[0, 100], Siemens)
            .Sample(
                (network, a, b, more) =>
                {
                    var before = EffectiveOhms(network.Nodes, network.Branches);
                    var after = EffectiveOhms(
                        network.Nodes,
                        [.. network.Branches, (a % network.Nodes, b % network.Nodes, more)]
                    );
                    Assert.True(after <= before * (1 + 1e-12) || double.IsInfinity(before));
                },
                iter: 1000
            );

    [Fact]
    public void A_ladder_has_the_resistance_of_its_continued_fraction()
    {
        // Rungs of 2 ohm, rails of 1 ohm: worked from the far end, R = 1 + (2 ∥ R).
        const int Rungs = 12;
        var (branches, expected) = (new List<(int, int, double)>(), 3.0);
        for (var k = 0; k < Rungs; k++)
        {
            branches.Add((k == 0 ? 1 : k + 1, k + 2, 1));
            branches.Add((k + 2, 0, 0.5));
        }

        for (var k = 1; k < Rungs; k++)
        {
            expected = 1 + (2 * expected / (2 + expected));
        }

        Assert.Equal(expected, EffectiveOhms(Rungs + 2, [.. branches]), 1e-12);
    }

    [Fact]
    public void A_milliohm_joint_beside_ten_megohms_and_an_open_keeps_its_millivolts()
    {
        // 12 V behind 1 mΩ feeding 10 MΩ through a 1 mΩ joint; another node hangs on an open.
        var solved = new RandomNetwork(4, [(1, 2, 1000), (2, 0, 1e-7), (3, 1, 0)], [(1, 0, 12, 1000)]).Solve();
        var amps = 12 / (10e6 + 0.002);
        Assert.Equal(amps * 0.001, solved.Drop(1, 2), amps * 0.001 * 1e-5);
        Assert.False(solved.Joined(3, 0));
    }

    private static double EffectiveOhms(int nodes, (int, int, double)[] branches)
    {
        var solved = new RandomNetwork(nodes, branches, [(1, 0, 1, 1)]).Solve();
        var volts = solved.Drop(1, 0);
        return volts >= 1 ? double.PositiveInfinity : volts / (1 - volts);
    }
}

/// <summary>A network made up for a test. Node 0 is the reference.</summary>
internal sealed record RandomNetwork(
    int Nodes,
    (int From, int To, double Siemens)[] Branches,
    (int From, int To, double Emf, double Siemens)[] Sources
)
{
    public Elimination Solve() => Solver(varying: null);

    /// <summary>Solved, with some branches kept ready to change.</summary>
    public Elimination Solver(int[]? varying)
    {
        var network = new Network(
            Nodes,
            [.. Branches.Select(b => new Branch(b.From, b.To))],
            [.. Sources.Select(s => new Source(s.From, s.To))],
            0,
            varying
        );
        var solver = new Elimination(network);
        solver.Solve(
            [.. Branches.Select(b => b.Siemens)],
            [.. Sources.Select(s => s.Emf)],
            [.. Sources.Select(s => s.Siemens)]
        );
        return solver;
    }
}

/// <summary>Gaussian elimination in 28-digit decimals, written plainly: the accuracy oracle.</summary>
internal static class DecimalSolver
{
    /// <summary>Volts by node above node 0; null for nodes that nothing joins to it.</summary>
    public static decimal?[] Solve(RandomNetwork network)
    {
        var joined = JoinedToReference(network);
        var unknowns = Enumerable.Range(1, network.Nodes - 1).Where(n => joined[n]).ToArray();
        var rows = unknowns.Select((n, i) => (n, i)).ToDictionary(x => x.n, x => x.i);
        var size = unknowns.Length;
        var a = new decimal[size, size + 1];
        foreach (
            var (from, to, siemens) in network.Branches.Concat(network.Sources.Select(s => (s.From, s.To, s.Siemens)))
        )
        {
            Stamp(a, rows, from, to, (decimal)siemens);
        }

        foreach (var (from, to, emf, siemens) in network.Sources.Where(s => s.From != s.To))
        {
            var amps = (decimal)emf * (decimal)siemens;
            if (rows.TryGetValue(from, out var i))
            {
                a[i, size] += amps;
            }

            if (rows.TryGetValue(to, out var j))
            {
                a[j, size] -= amps;
            }
        }

        var x = Eliminate(a, size);
        var volts = new decimal?[network.Nodes];
        volts[0] = 0;
        foreach (var (node, row) in rows)
        {
            volts[node] = x[row];
        }

        return volts;
    }

    private static void Stamp(decimal[,] a, Dictionary<int, int> rows, int from, int to, decimal siemens)
    {
        if (from == to)
        {
            return;
        }

        var (hasI, hasJ) = (rows.TryGetValue(from, out var i), rows.TryGetValue(to, out var j));
        if (hasI)
        {
            a[i, i] += siemens;
        }

        if (hasJ)
        {
            a[j, j] += siemens;
        }

        if (hasI && hasJ)
        {
            a[i, j] -= siemens;
            a[j, i] -= siemens;
        }
    }

    private static decimal[] Eliminate(decimal[,] a, int size)
    {
        for (var k = 0; k < size; k++)
        {
            var pivot = Enumerable.Range(k, size - k).MaxBy(r => Math.Abs(a[r, k]));
            for (var c = k; c <= size; c++)
            {
                (a[k, c], a[pivot, c]) = (a[pivot, c], a[k, c]);
            }

            for (var r = k + 1; r < size; r++)
            {
                var factor = a[r, k] / a[k, k];
                for (var c = k; c <= size; c++)
                {
                    a[r, c] -= factor * a[k, c];
                }
            }
        }

        var x = new decimal[size];
        for (var r = size - 1; r >= 0; r--)
        {
            var sum = a[r, size];
            for (var c = r + 1; c < size; c++)
            {
                sum -= a[r, c] * x[c];
            }

            x[r] = sum / a[r, r];
        }

        return x;
    }

    private static bool[] JoinedToReference(RandomNetwork network)
    {
        var joined = new bool[network.Nodes];
        joined[0] = true;
        for (var changed = true; changed; )
        {
            changed = false;
            foreach (
                var (from, to, siemens) in network.Branches.Concat(
                    network.Sources.Select(s => (s.From, s.To, s.Siemens))
                )
            )
            {
                if (siemens > 0 && joined[from] != joined[to])
                {
                    joined[from] = joined[to] = changed = true;
                }
            }
        }

        return joined;
    }
}
