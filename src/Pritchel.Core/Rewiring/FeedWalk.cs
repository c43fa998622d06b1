using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>Where a machine's feeds lead: through wires, joints, studs and contacts, past no fuse and no load.</summary>
internal sealed class FeedWalk
{
    private readonly Circuit circuit;
    private readonly ILookup<int, (int To, double Metres, bool Cable)> links;
    private readonly HashSet<int> ground;

    public FeedWalk(Circuit circuit)
    {
        this.circuit = circuit;
        var machine = circuit.Machine;
        ground = circuit.Topology.Ground();
        Fuses =
        [
            .. circuit
                .Devices.OfType<IProtects>()
                .Select(p => (Part: machine.Index.Part(((Device)p).PartId!.Value)!, p.Rating))
                .Select(f =>
                    (
                        f.Part,
                        new Amps(circuit.Parameters[f.Rating.Index].Nominal),
                        (IReadOnlyList<int>)[.. f.Part.Addresses.Select(a => circuit.NodeOf(a))]
                    )
                ),
        ];
        links = machine
            .Wires.SelectMany(w =>
                new (PointId A, PointId B, double Metres, bool Cable)[]
                {
                    (w.From.At, w.Id.From, 0, false),
                    (w.Id.From, w.Id.To, w.Cable == true ? 0 : w.LengthM, w.Cable == true),
                    (w.Id.To, w.To.At, 0, false),
                }
            )
            .Concat(Joints(machine).Select(j => (j.A, j.B, Metres: 0.0, Cable: false)))
            .Select(l => (A: circuit.NodeOf(l.A), B: circuit.NodeOf(l.B), l.Metres, l.Cable))
            .Concat(
                circuit
                    .BranchKeys.Select((key, i) => (key.Role, Branch: circuit.Network.Branches[i]))
                    .Where(b => b.Role == BranchRole.Contact)
                    .Select(b => (A: b.Branch.From, B: b.Branch.To, Metres: 0.0, Cable: false))
            )
            .SelectMany(l => new[] { (From: l.A, To: l.B, l.Metres, l.Cable), (From: l.B, To: l.A, l.Metres, l.Cable) })
            .ToLookup(l => l.From, l => (l.To, l.Metres, l.Cable));
        BatteryPosts =
        [
            .. circuit
                .PartsThat(PartTraits.StoresCharge)
                .Select(b => circuit.NodeOf(b.At("+")))
                .Where(n => !ground.Contains(n)),
        ];
    }

    /// <summary>Fuses and breakers with the nodes of their terminals.</summary>
    public IReadOnlyList<(Part Part, Amps Rating, IReadOnlyList<int> Nodes)> Fuses { get; }

    /// <summary>Nodes of the batteries' live posts.</summary>
    public IReadOnlyList<int> BatteryPosts { get; }

    /// <summary>What is one piece without a wire: cavities, a switch's contacts, the studs of a body and what is bolted to it.</summary>
    private static IEnumerable<(PointId A, PointId B)> Joints(Machine machine)
    {
        foreach (var part in machine.Parts)
        {
            foreach (var cavity in Cavity.Of(part))
            {
                yield return (cavity.A, cavity.B);
            }

            foreach (var contact in part.Contacts ?? [])
            {
                yield return (part.At(contact.Between[0]), part.At(contact.Between[1]));
            }

            foreach (var stud in part.Kind == PartKinds.Body ? part.Addresses.Skip(1) : [])
            {
                yield return (part.Addresses.First(), stud);
            }
        }

        foreach (var mount in machine.Mounts)
        {
            yield return (mount.Terminal, mount.On);
        }
    }

    /// <summary>Metres of wire to each node that is reached, cables not counted (Dijkstra's shortest way).</summary>
    /// <param name="nodes">Where to begin.</param>
    /// <param name="cables">Whether cables lead on.</param>
    public Dictionary<int, double> From(IEnumerable<int> nodes, bool cables = true)
    {
        var reached = new Dictionary<int, double>();
        var open = new PriorityQueue<int, double>(nodes.Select(n => (n, 0.0)));
        while (open.TryDequeue(out var node, out var metres))
        {
            if (!reached.TryAdd(node, metres))
            {
                continue;
            }

            foreach (var (to, more, _) in links[node].Where(l => !ground.Contains(l.To) && (cables || !l.Cable)))
            {
                open.Enqueue(to, metres + more);
            }
        }

        return reached;
    }

    /// <summary>
    /// Nodes behind each fuse, as far as the next: fuses are gone through from the batteries outwards, so that a fuse behind
    /// another is not taken to guard what feeds it.
    /// </summary>
    /// <param name="fed">Nodes before the first of them.</param>
    public IReadOnlyDictionary<PartId, HashSet<int>> Behind(IEnumerable<int> fed)
    {
        var known = fed.ToHashSet();
        var behind = Fuses.ToDictionary(f => f.Part.Id, _ => new HashSet<int>());
        var left = Fuses.ToList();
        while (left.FindAll(f => f.Nodes.Any(known.Contains)) is { Count: > 0 } next)
        {
            left.RemoveAll(next.Contains);
            foreach (var fuse in next)
            {
                behind[fuse.Part.Id] = [.. From(fuse.Nodes.Except(known)).Keys.Except(known)];
            }

            known.UnionWith(next.SelectMany(f => behind[f.Part.Id]));
        }

        return behind;
    }

    /// <summary>Wires, cables left out, of which both ends are among some nodes.</summary>
    public IEnumerable<Wire> WiresIn(IReadOnlySet<int> nodes) =>
        circuit.Machine.Wires.Where(w =>
            w.Cable != true && nodes.Contains(circuit.NodeOf(w.Id.From)) && nodes.Contains(circuit.NodeOf(w.Id.To))
        );

    /// <summary>Fed wires in groups that hang together away from what cables reach.</summary>
    public IEnumerable<IReadOnlyList<Wire>> Tails(Dictionary<int, double> fed)
    {
        var left = WiresIn(fed.Keys.ToHashSet()).ToList();
        while (left.Count > 0)
        {
            List<Wire> tail = [left[0]];
            left.RemoveAt(0);
            for (var i = 0; i < tail.Count; i++)
            {
                var joined = Reach(tail[i], fed);
                var more = left.Where(w => Reach(w, fed).Overlaps(joined)).ToList();
                tail.AddRange(more);
                left.RemoveAll(more.Contains);
            }

            yield return tail;
        }
    }

    /// <summary>Parts that some wires feed directly, but for fuses and what only joins.</summary>
    public IReadOnlyList<Part> FedBy(IReadOnlyList<Wire> wires) =>
        [
            .. wires
                .SelectMany(w => new[] { w.From.At, w.To.At })
                .Select(a => circuit.Machine.Index.PartAt(a)!)
                .Distinct()
                .Where(p =>
                    p.Kind is not (PartKinds.Coupling or PartKinds.Splice or PartKinds.Body)
                    && Fuses.All(f => f.Part != p)
                    && !circuit.Is(p.Id, PartTraits.StoresCharge)
                    && p.Addresses.All(a => !IsSource(a))
                ),
        ];

    private bool IsSource(TerminalAddress at) => SourceNodes.Contains(circuit.NodeOf(at));

    private HashSet<int> SourceNodes =>
        field ??= From(BatteryPosts).Where(f => f.Value <= 0).Select(f => f.Key).ToHashSet();

    /// <summary>Nodes of a wire that no cable reaches, and what joints without wire lead on to.</summary>
    private HashSet<int> Reach(Wire wire, Dictionary<int, double> fed) =>
        NodeLinks.Reached(
            new[] { circuit.NodeOf(wire.Id.From), circuit.NodeOf(wire.Id.To) }.Where(n => fed[n] > 0),
            Joined,
            SourceNodes
        );

    private ILookup<int, int> Joined =>
        field ??= links
            .SelectMany(g => g.Where(l => l.Metres <= 0).Select(l => (g.Key, l.To)))
            .ToLookup(l => l.Key, l => l.To);
}
