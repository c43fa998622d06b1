using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Grounds;

/// <summary>
/// A survey of a machine's grounds by millivolts under load. Each point is read in the setting in which most comes back through
/// it, since an idle ground reads zero and proves nothing. Which way home has ohms too many is found by solving the machine
/// with each in turn.
/// </summary>
public sealed class GroundSurvey
{
    // What the machine itself sends home through a point tells from here on; under it a bulb does it.
    private const double LeastAmps = 0.4;

    // A helper at the key and a starter hot: preferred only where it draws several times more there.
    private const double CrankingCounts = 0.3;
    private const double HeldCounts = 0.6;

    // Probes and the moment at which one looks: from memory.
    private const double DoubtVolts = 0.006;
    private const double DoubtShare = 0.12;
    private static readonly double[] Grid = [.. Enumerable.Range(0, 25).Select(i => 0.004 * Math.Pow(10, i * 0.2))];

    private readonly Circuit circuit;
    private readonly List<Link> links = [];
    private readonly Dictionary<int, CircuitState> states = [];

    private GroundSurvey(Circuit circuit)
    {
        this.circuit = circuit;
        var ground = circuit.Topology.Ground();
        var all = LinksIn(ground);
        var amps = Amps(all);
        Points =
        [
            .. Find(ground, all, amps).OrderBy(p => p.Place.Minutes).ThenBy(p => p.Place.Name, StringComparer.Ordinal),
        ];
        Isolated =
        [
            .. circuit.Machine.Parts.Where(p =>
                p.Kind == PartKinds.Body && !p.Addresses.Any(a => ground.Contains(circuit.NodeOf(a)))
            ),
        ];
        for (var l = 0; l < all.Count; l++)
        {
            links.Add(Solve(all[l], amps.Values.Max(a => a[l])));
        }
    }

    /// <summary>What is read, in the order of the least walking.</summary>
    public IReadOnlyList<GroundPoint> Points { get; }

    /// <summary>Metal that is not meant to be ground: nothing bolts or wires it to battery minus.</summary>
    public IReadOnlyList<Part> Isolated { get; }

    /// <summary>Works a survey out: a second or so.</summary>
    /// <param name="circuit">The machine as drawn.</param>
    /// <returns>The survey; null on a machine without a battery, whose grounds carry nothing at rest.</returns>
    public static GroundSurvey? Of(Circuit circuit) =>
        circuit.PartsThat(PartTraits.StoresCharge).Any() ? new GroundSurvey(circuit) : null;

    /// <summary>
    /// What explains the figures, worst first by volts lost at what it must carry. One way home after the other is taken for
    /// bad as long as that explains much more: what two lose in one circuit adds up.
    /// </summary>
    /// <param name="read">Volts by number of the point.</param>
    public IReadOnlyList<GroundSuspect> Judge(IReadOnlyDictionary<int, double> read)
    {
        const double Explains = 8;
        const int Most = 3;
        var left = read.ToDictionary(r => r.Key, r => r.Value - Points[r.Key].Sound.Value);
        var found = new List<GroundSuspect>();
        for (var k = 0; k < Most && left.Count > 0; k++)
        {
            var nothing = left.Sum(r => Square(r.Value, read[r.Key]));
            var fits = links
                .SelectMany(l => Grid.Select((ohms, g) => (Link: l, Grid: g, Ohms: ohms)))
                .Select(f =>
                    (
                        f.Link,
                        f.Grid,
                        f.Ohms,
                        Misfit: left.Sum(r => Square(r.Value - f.Link.Rise[f.Grid][r.Key], read[r.Key]))
                    )
                )
                .ToList();
            if (fits.Count == 0)
            {
                break;
            }

            var best = fits.MinBy(f => f.Misfit);
            if (nothing - best.Misfit < Explains)
            {
                break;
            }

            const double AsWell = 4;
            var fitting = fits.Where(f => f.Link == best.Link && f.Misfit - best.Misfit < AsWell).ToList();
            var open = fitting.Exists(f => f.Grid == Grid.Length - 1);
            double Weight(double misfit) => Math.Exp((best.Misfit - misfit) / 2);
            var total = fits.Sum(f => Weight(f.Misfit));
            var alike = links.Where(l => SameAs(l, best.Link, left.Keys)).ToList();
            found.Add(
                new GroundSuspect(
                    [.. alike.Select(l => l.Fault.Words).Distinct()],
                    new Ohms(open ? fitting.Min(f => f.Ohms) : best.Ohms),
                    open,
                    new Amps(alike.Max(l => l.Carries)),
                    fits.Where(f => alike.Contains(f.Link)).Sum(f => Weight(f.Misfit)) / total
                )
                {
                    Where = best.Link.Fault.Repair.Place,
                    Wire = best.Link.Fault.Id.Of.Owner.Wire,
                }
            );
            foreach (var point in left.Keys.ToList())
            {
                left[point] -= best.Link.Rise[best.Grid][point];
            }
        }

        return [.. found.OrderByDescending(f => f.Lost.Value)];
    }

    private static double Square(double off, double read)
    {
        var doubt = DoubtVolts + (DoubtShare * Math.Abs(read));
        return off * off / (doubt * doubt);
    }

    private static bool SameAs(Link one, Link other, IEnumerable<int> points)
    {
        const double Alike = 0.05;
        return points.All(p =>
            Enumerable
                .Range(0, Grid.Length)
                .All(g =>
                    Math.Abs(one.Rise[g][p] - other.Rise[g][p]) <= DoubtVolts + (Alike * Math.Abs(other.Rise[g][p]))
                )
        );
    }

    /// <summary>Ohms that lie between two nodes of ground: a joint, a mount, a cable.</summary>
    private static ParameterId OhmsOf(Fault fault) => fault.Changes[0].Parameter;

    private List<Fault> LinksIn(HashSet<int> ground) =>
        [
            .. circuit.Faults.Where(f =>
                f is { Kind: FaultKind.HighResistance, Paths.Count: 0, Changes.Count: 1 }
                && ground.Contains(f.Nodes.From)
                && ground.Contains(f.Nodes.To)
                && f.Nodes.From != f.Nodes.To
            ),
        ];

    /// <summary>Amps in every link, in every setting in which no fuse opens.</summary>
    private Dictionary<ControlSetting, double[]> Amps(List<Fault> all)
    {
        var trial = new Rewiring.Trial(circuit);
        var nominal = circuit.NominalParameters();
        var amps = new Dictionary<ControlSetting, double[]>();
        foreach (var setting in circuit.SettingsTried(circuit.Machine.Duties))
        {
            if (trial.In(setting).Opened.Count == 0)
            {
                var state = Stand(nominal, setting, bulbAt: null);
                amps[setting] =
                [
                    .. all.Select(f =>
                        Math.Abs(state.Drop(f.Nodes.From, f.Nodes.To)) / Math.Max(1e-6, nominal[OhmsOf(f).Index])
                    ),
                ];
            }
        }

        return amps;
    }

    private IEnumerable<GroundPoint> Find(
        HashSet<int> ground,
        List<Fault> all,
        Dictionary<ControlSetting, double[]> amps
    )
    {
        var (nominal, rest) = (circuit.NominalParameters(), circuit.Setting(null));
        var trial = new Rewiring.Trial(circuit);
        var cranking = amps.Keys.Where(trial.Cranks).ToHashSet();
        double Handy(ControlSetting s) =>
            cranking.Contains(s) ? CrankingCounts
            : s.Held(circuit.Machine).Any() ? HeldCounts
            : 1;
        var taken = new HashSet<int> { circuit.Reference };
        foreach (var part in circuit.Machine.Parts.Where(p => p.Kind is not (PartKinds.Coupling or PartKinds.Splice)))
        {
            foreach (var at in part.Addresses.Where(a => ground.Contains(circuit.NodeOf(a))))
            {
                var node = circuit.NodeOf(at);
                if (!taken.Add(node) || PartKinds.IsBattery(part.Kind))
                {
                    continue;
                }

                int[] own =
                [
                    .. Enumerable.Range(0, all.Count).Where(l => all[l].Nodes.From == node || all[l].Nodes.To == node),
                ];
                double Own(ControlSetting s) => own.Length == 0 ? 0 : own.Max(l => amps[s][l]);
                var (setting, most) = amps.Keys.Select(s => (s, Own(s) * Handy(s))).MaxBy(s => s.Item2);
                var byBulb = most < LeastAmps;
                setting = byBulb ? rest : setting;
                yield return new GroundPoint(
                    at,
                    part.Kind == PartKinds.Body ? part.Name : MachineWords.Terminal(circuit.Machine, at),
                    MachineWords.PlaceOf(circuit.Machine, part),
                    setting,
                    byBulb,
                    cranking.Contains(setting),
                    new Volts(Volts(Stand(nominal, setting, byBulb ? node : null), node))
                );
            }
        }
    }

    private Link Solve(Fault fault, double carries)
    {
        var rise = new double[Grid.Length][];
        for (var g = 0; g < Grid.Length; g++)
        {
            var values = circuit.NominalParameters();
            circuit.Plant(fault, Grid[g], values);
            rise[g] = new double[Points.Count];
            foreach (
                var together in Enumerable.Range(0, Points.Count).GroupBy(p => (Points[p].Setting, Bulb: BulbAt(p)))
            )
            {
                var state = Stand(values, together.Key.Setting, together.Key.Bulb);
                foreach (var p in together)
                {
                    rise[g][p] = Volts(state, circuit.NodeOf(Points[p].At)) - Points[p].Sound.Value;
                }
            }
        }

        return new Link(fault, rise, carries);
    }

    private int? BulbAt(int point) => Points[point].ByBulb ? circuit.NodeOf(Points[point].At) : null;

    private double Volts(CircuitState state, int node) => Math.Abs(state.Drop(node, circuit.Reference));

    /// <summary>The machine in a setting, come to from rest, with a bulb from battery plus to a point or without.</summary>
    private CircuitState Stand(double[] values, ControlSetting setting, int? bulbAt)
    {
        if (!states.TryGetValue(bulbAt ?? -1, out var state))
        {
            state = bulbAt is { } node
                ? new CircuitState(circuit, circuit.WithMeter(node, Plus)) { FollowsWaves = false }
                : new CircuitState(circuit) { FollowsWaves = false };
            states.Add(bulbAt ?? -1, state);
        }

        state.Begin(values);
        if (bulbAt is not null)
        {
            state.ConnectMeter(0, Jump.BulbOhms);
        }

        state.Move(circuit.Setting(null));
        state.Move(setting);
        return state;
    }

    private int Plus => circuit.NodeOf(circuit.PartsThat(PartTraits.StoresCharge).First().At("+"));

    private sealed record Link(Fault Fault, double[][] Rise, double Carries);
}
