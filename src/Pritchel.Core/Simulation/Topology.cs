using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>What leads where on a machine by its loom alone: wires, couplings and splices, and diodes on kill leads.</summary>
public sealed class Topology
{
    private readonly Circuit circuit;
    private readonly Lazy<ILookup<int, int>> links;
    private readonly Lazy<HashSet<int>> ignited;
    private readonly Lazy<HashSet<int>> killWiring;

    internal Topology(Circuit circuit)
    {
        this.circuit = circuit;
        links = new(Links);
        ignited = new(() => MetalOf(circuit.KillLeads.Select(k => k.Kill)));
        killWiring = new(WithDiodes);
    }

    /// <summary>
    /// Whether wires, couplings and splices alone lead from a point to a terminal that ignition's hundreds of volts stand on.
    /// </summary>
    public bool CarriesIgnition(PointId point) => ignited.Value.Contains(circuit.NodeOf(point));

    /// <summary>Terminals that wires, couplings, splices and diodes join to a kill terminal, as nodes.</summary>
    public IEnumerable<int> KillMetal() => killWiring.Value.Where(circuit.IsTerminal).Order();

    /// <summary>The same with ends of wires.</summary>
    public IReadOnlySet<int> KillWiring => killWiring.Value;

    private HashSet<int> WithDiodes()
    {
        var metal = ignited.Value.ToHashSet();
        var diodes = KillDiodes().ToList();
        for (var before = -1; before != metal.Count; )
        {
            before = metal.Count;
            metal.UnionWith(MetalOf(diodes.Where(d => d.Exists(metal.Contains)).SelectMany(d => d)));
        }

        return metal;
    }

    /// <summary>Terminals of each diode that parts coils' kill leads from one another, as nodes.</summary>
    public IEnumerable<List<int>> KillDiodes() =>
        circuit
            .PartsThat(PartTraits.IsOneWay)
            .Select(p => p.Addresses.Select(a => circuit.NodeOf(a)).ToList())
            .Where(d => d.Exists(ignited.Value.Contains));

    /// <summary>Nodes that the loom itself joins to some, through no part but couplings and splices.</summary>
    public HashSet<int> MetalOf(IEnumerable<int> from) => NodeLinks.Reached(from, links.Value);

    /// <summary>Nodes that the loom, bodies and mounts join to what volts are counted from.</summary>
    public HashSet<int> Ground()
    {
        var bolted = NodeLinks.Both(
            circuit
                .Machine.Parts.Where(p => p.Kind == PartKinds.Body)
                .SelectMany(p => p.Addresses.Select(a => (circuit.NodeOf(p.Addresses.First()), circuit.NodeOf(a))))
                .Concat(circuit.Machine.Mounts.Select(m => (circuit.NodeOf(m.Terminal), circuit.NodeOf(m.On))))
        );
        var ground = MetalOf([circuit.Reference]);
        for (var before = -1; before != ground.Count; )
        {
            before = ground.Count;
            ground = MetalOf(NodeLinks.Reached(ground, bolted));
        }

        return ground;
    }

    private ILookup<int, int> Links() =>
        NodeLinks.Both(
            circuit
                .Machine.Wires.SelectMany(w =>
                    new (PointId, PointId)[] { (w.From.At, w.Id.From), (w.Id.From, w.Id.To), (w.Id.To, w.To.At) }
                )
                .Concat(circuit.Machine.Parts.SelectMany(Cavity.Of).Select(c => ((PointId)c.A, (PointId)c.B)))
                .Select(l => (circuit.NodeOf(l.Item1), circuit.NodeOf(l.Item2)))
        );
}
