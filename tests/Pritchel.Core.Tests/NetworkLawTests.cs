using System.Numerics;
using CsCheck;

namespace Pritchel.Core.Tests;

/// <summary>Laws that the solver was not written from: spanning trees, delta and star, superposition, power.</summary>
public class NetworkLawTests
{
    private static readonly Gen<double> Siemens = Gen.Double[-3, 3].Select(e => Math.Pow(10, e));

    private static readonly Gen<(int Nodes, (int, int, double)[] Branches)> Small =
        from nodes in Gen.Int[3, 6]
        from branches in Gen.Select(Gen.Int[0, nodes - 1], Gen.Int[0, nodes - 1], Siemens).Array[nodes, 10]
        select (nodes, branches.Where(b => b.Item1 != b.Item2).ToArray());

    [Fact]
    public void Effective_resistance_is_Kirchhoffs_ratio_of_forests_to_trees() =>
        Small.Sample(
            network =>
            {
                // Matrix-tree theorem: R = Σ products over forests of two trees that part the points / Σ over trees.
                // A forest that parts 0 and 1 is a tree of the network with those two made one.
                var trees = TreeSum(network.Nodes, network.Branches);
                var merged = network.Branches.Select(b => (Merge(b.Item1), Merge(b.Item2), b.Item3)).ToArray();
                var forests = TreeSum(network.Nodes - 1, merged);
                if (trees > 0)
                {
                    var expected = forests / trees;
                    Assert.Equal(expected, EffectiveOhms(network.Nodes, network.Branches), 1e-11 * expected);
                }
            },
            iter: 1000
        );

    [Fact]
    public void A_bridge_has_the_resistance_of_its_mesh_equations()
    {
        // Arms 2 and 3 Ω over 5 and 7 Ω, 11 Ω across. Mesh currents by Cramer's rule, 1 V across:
        // | 7  0 −..|: with i0 round the source, i1 and i2 round the upper and lower triangles,
        //  (2+5)i0 − 2i1 − 5i2 = 1;  −2i0 + (2+3+11)i1 − 11i2 = 0;  −5i0 − 11i1 + (5+7+11)i2 = 0.
        var determinant = (7 * ((16 * 23) - (11 * 11))) + (2 * ((-2 * 23) - (11 * 5))) - (5 * ((2 * 11) + (16 * 5)));
        var expected = determinant / (double)((16 * 23) - (11 * 11));
        var bridge = new[] { (1, 2, 1 / 2.0), (1, 3, 1 / 3.0), (2, 0, 1 / 5.0), (3, 0, 1 / 7.0), (2, 3, 1 / 11.0) };
        Assert.Equal(expected, EffectiveOhms(4, bridge), 1e-12);
    }

    [Fact]
    public void A_star_stands_in_for_its_delta() =>
        Gen.Select(Siemens, Siemens, Siemens, Siemens, Siemens)
            .Sample(
                (ab, bc, ca, outer, feed) =>
                {
                    // Star arm at a = sum of the delta's conductance products over the opposite side's.
                    var products = (ab * bc) + (bc * ca) + (ca * ab);
                    var rest = new[] { (0, 1, outer), (1, 2, feed), (0, 2, 1.0) };
                    var delta = new RandomNetwork(
                        3,
                        [.. rest, (0, 1, ab), (1, 2, bc), (2, 0, ca)],
                        [(1, 0, 10, 2)]
                    ).Solve();
                    var star = new RandomNetwork(
                        4,
                        [.. rest, (0, 3, products / bc), (1, 3, products / ca), (2, 3, products / ab)],
                        [(1, 0, 10, 2)]
                    ).Solve();
                    Assert.Equal(delta.Drop(1, 0), star.Drop(1, 0), 1e-10);
                    Assert.Equal(delta.Drop(2, 1), star.Drop(2, 1), 1e-10);
                },
                iter: 1000
            );

    [Fact]
    public void Sources_superpose_and_give_what_the_branches_take() =>
        (
            from small in Small
            from emfs in Gen.Double[-15, 15].Array[3]
            from inside in Siemens.Array[3]
            select (small.Nodes, small.Branches, emfs, inside)
        ).Sample(
            n =>
            {
                (int, int, double, double)[] Sources(Func<int, double> emf) =>
                    [.. Enumerable.Range(0, 3).Select(k => (k % n.Nodes, (k + 1) % n.Nodes, emf(k), n.inside[k]))];
                var all = new RandomNetwork(n.Nodes, n.Branches, Sources(k => n.emfs[k])).Solve();
                var alone = Enumerable
                    .Range(0, 3)
                    .Select(k => new RandomNetwork(n.Nodes, n.Branches, Sources(j => j == k ? n.emfs[k] : 0)).Solve())
                    .ToList();
                for (var node = 1; node < n.Nodes; node++)
                {
                    Assert.Equal(alone.Sum(a => a.Drop(node, 0)), all.Drop(node, 0), 1e-9);
                }

                var taken = n.Branches.Sum(b => b.Item3 * Math.Pow(all.Drop(b.Item1, b.Item2), 2));
                var given = 0.0;
                foreach (var (from, to, emf, siemens) in Sources(k => n.emfs[k]))
                {
                    var amps = (emf - all.Drop(from, to)) * siemens;
                    given += emf * amps;
                    taken += amps * amps / siemens;
                }

                Assert.Equal(given, taken, 1e-9 * Math.Max(1, given));
            },
            iter: 1000
        );

    private static int Merge(int node) => node <= 1 ? 0 : node - 1;

    /// <summary>Sum over spanning trees of the products of their conductances, by trying every subset.</summary>
    private static double TreeSum(int nodes, (int From, int To, double Siemens)[] branches)
    {
        var sum = 0.0;
        for (var subset = 0; subset < 1 << branches.Length; subset++)
        {
            if (BitOperations.PopCount((uint)subset) != nodes - 1)
            {
                continue;
            }

            var (component, product, tree) = (Enumerable.Range(0, nodes).ToArray(), 1.0, true);
            for (var b = 0; b < branches.Length && tree; b++)
            {
                if ((subset >> b & 1) == 1)
                {
                    var (from, to) = (component[branches[b].From], component[branches[b].To]);
                    tree = from != to;
                    product *= branches[b].Siemens;
                    component = [.. component.Select(c => c == from ? to : c)];
                }
            }

            sum += tree ? product : 0;
        }

        return sum;
    }

    private static double EffectiveOhms(int nodes, (int, int, double)[] branches)
    {
        var volts = new RandomNetwork(nodes, branches, [(1, 0, 1, 1)]).Solve().Drop(1, 0);
        return volts / (1 - volts);
    }
}
