using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Practice;

/// <summary>
/// What one reading speaks for, as a mechanic reasons with a finger on the diagram: for volts the way from the battery to
/// a probe that should have its volts, or from one that should have none to ground; for ohms the way between the probes,
/// or all that is still joined to the probe where sound wiring would show an open circuit. Found on the sound machine
/// alone; it knows nothing of what is predicted or believed of faults.
/// </summary>
internal sealed class Stretches(DiagnosisKit kit)
{
    private readonly Dictionary<ProbePair, bool[]> covered = [];
    private readonly Dictionary<int, Ways> ways = [];
    private readonly List<Fault?> faults = [.. kit.Table.Hypotheses.Select(h => h.Fault)];

    private Circuit Circuit => kit.Circuit;

    /// <summary>For each hypothesis of the table, whether its fault lies on the stretch that a reading speaks for.</summary>
    /// <param name="at">The reading's place.</param>
    /// <param name="sound">What sound wiring shows there, on the scale of what is read.</param>
    public bool[] Of(ProbePair at, double sound)
    {
        if (!covered.TryGetValue(at, out var found))
        {
            found = Lies(at, sound);
            covered.Add(at, found);
        }

        return found;
    }

    private bool[] Lies(ProbePair at, double sound)
    {
        var condition = kit.Table.Conditions[at.Condition];
        var stands = WaysOf(at.Condition);
        var open = condition.Observable.WantsDeadCircuit && sound >= Observable.Open - 0.01;
        if (!condition.Observable.IsProbed || condition.Observable is DirectAmps || open)
        {
            var island = condition.Observable.IsProbed
                ? [.. stands.Island(at.Red)]
                : Terminals(kit.Table.Duty.Load).SelectMany(stands.Island).ToHashSet();
            return [.. faults.Select(f => f is not null && Touches(f, island))];
        }

        HashSet<int> nodes =
            condition.Observable is not DirectVolts ? [.. stands.Way(at.Red, at.Black)]
            : sound > SoundBands.HalfTheVolts ? [.. stands.Way(Top, at.Red), Circuit.Reference]
            : [.. stands.Way(at.Red, Circuit.Reference)];
        return [.. faults.Select(f => f is not null && OnTheWay(f, nodes))];
    }

    private int Top =>
        Circuit.PartsThat(PartTraits.StoresCharge).FirstOrDefault() is { } battery
            ? Circuit.NodeOf(battery.At("+"))
            : Circuit.Reference;

    private IEnumerable<int> Terminals(PartId part) =>
        Circuit.Machine.Index.Part(part)!.Addresses.Select(a => Circuit.NodeOf(a));

    /// <summary>Both ends on it, or one where the fault leads off to somewhere else.</summary>
    private bool OnTheWay(Fault fault, HashSet<int> way)
    {
        bool On(int node) => way.Contains(node);
        return fault.Kind is FaultKind.Chafed or FaultKind.ShortedToNeighbour or FaultKind.Swapped
            ? (On(fault.Nodes.From) && fault.Nodes.From != Circuit.Reference)
                || (On(fault.Nodes.To) && fault.Nodes.To != Circuit.Reference)
            : On(fault.Nodes.From) && On(fault.Nodes.To);
    }

    private bool Touches(Fault fault, HashSet<int> island) =>
        (fault.Nodes.From != Circuit.Reference && island.Contains(fault.Nodes.From))
        || (fault.Nodes.To != Circuit.Reference && island.Contains(fault.Nodes.To));

    private Ways WaysOf(int condition)
    {
        if (!ways.TryGetValue(condition, out var found))
        {
            found = new Ways(Circuit, kit.Table.Conditions[condition]);
            ways.Add(condition, found);
        }

        return found;
    }

    /// <summary>What joins what, as contacts stand in one condition of the sound machine.</summary>
    private sealed class Ways
    {
        private readonly ILookup<int, (int To, double Ohms)> joins;
        private readonly Dictionary<int, Dictionary<int, int>> trees = [];
        private readonly int reference;

        public Ways(Circuit circuit, Condition condition)
        {
            reference = circuit.Reference;
            var state = new CircuitState(circuit) { FollowsWaves = false };
            var values = circuit.NominalParameters();
            foreach (var parameter in condition.Off.SelectMany(what => Case.Opened(circuit, what)))
            {
                values[parameter.Index] = double.PositiveInfinity;
            }

            state.Begin(values);
            state.Move(condition.Setting);
            joins = circuit
                .Network.Branches.Select((b, i) => (b.From, b.To, Ohms: 1 / state.Conductances[i]))
                .Where(b => b.From != b.To && double.IsFinite(b.Ohms))
                .SelectMany(b => new[] { b, (From: b.To, To: b.From, b.Ohms) })
                .ToLookup(b => b.From, b => (b.To, b.Ohms));
        }

        /// <summary>Nodes on the way of least resistance, both ends too; none where nothing joins them.</summary>
        public IEnumerable<int> Way(int from, int to)
        {
            if (!trees.TryGetValue(from, out var came))
            {
                came = Tree(from);
                trees.Add(from, came);
            }

            if (from != to && !came.ContainsKey(to))
            {
                yield break;
            }

            for (var node = to; ; node = came[node])
            {
                yield return node;
                if (node == from)
                {
                    yield break;
                }
            }
        }

        /// <summary>Nodes joined to one without passing battery negative.</summary>
        public IEnumerable<int> Island(int node)
        {
            var seen = new HashSet<int> { node, reference };
            var next = new Queue<int>([node]);
            while (next.TryDequeue(out var here))
            {
                yield return here;
                foreach (var (to, _) in joins[here].Where(j => seen.Add(j.To)))
                {
                    next.Enqueue(to);
                }
            }
        }

        private Dictionary<int, int> Tree(int from)
        {
            var (best, came) = (new Dictionary<int, double> { [from] = 0 }, new Dictionary<int, int>());
            var next = new PriorityQueue<int, double>([(from, 0)]);
            while (next.TryDequeue(out var node, out var ohms))
            {
                foreach (var (to, more) in joins[node])
                {
                    if (ohms + more < best.GetValueOrDefault(to, double.PositiveInfinity))
                    {
                        best[to] = ohms + more;
                        came[to] = node;
                        next.Enqueue(to, ohms + more);
                    }
                }
            }

            return came;
        }
    }
}
