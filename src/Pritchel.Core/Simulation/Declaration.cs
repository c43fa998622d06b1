using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>Collects what the devices of a machine declare, before it is compiled.</summary>
public sealed class Declaration
{
    private readonly Dictionary<PointId, int> nodes = [];
    private readonly List<int> tiedTo = [];
    private readonly Machine machine;

    internal Declaration(Machine machine)
    {
        this.machine = machine;
    }

    /// <summary>Goes on from what was declared before, which stays as it is.</summary>
    internal Declaration(Declaration before)
    {
        machine = before.machine;
        nodes = new Dictionary<PointId, int>(before.nodes);
        tiedTo = [.. before.tiedTo];
        Points = [.. before.Points];
        Parameters = [.. before.Parameters];
        Branches = [.. before.Branches];
        BranchKeys = [.. before.BranchKeys];
        Sources = [.. before.Sources];
        SourceKeys = [.. before.SourceKeys];
        States = [.. before.States];
        Memories = [.. before.Memories];
    }

    internal List<PointId> Points { get; } = [];

    internal List<Parameter> Parameters { get; } = [];

    internal List<Branch> Branches { get; } = [];

    internal List<BranchKey> BranchKeys { get; } = [];

    internal List<Source> Sources { get; } = [];

    internal List<Element> SourceKeys { get; } = [];

    internal List<Element> States { get; } = [];

    internal List<double> Memories { get; } = [];

    internal List<DiodeArm> Diodes { get; } = [];

    /// <summary>Node of a point, made on first use.</summary>
    public int Node(PointId point)
    {
        if (!nodes.TryGetValue(point, out var node))
        {
            node = nodes.Count;
            nodes.Add(point, node);
            Points.Add(point);
            tiedTo.Add(node);
        }

        return node;
    }

    /// <summary>Makes two points one node: bolts of one casting, wires in one stud.</summary>
    public void Tie(PointId a, PointId b)
    {
        var (one, other) = (Root(Node(a)), Root(Node(b)));
        tiedTo[Math.Max(one, other)] = Math.Min(one, other);
    }

    /// <summary>Declares a parameter.</summary>
    /// <param name="of">What it is a figure of.</param>
    /// <param name="figure">Which figure, ending in its unit.</param>
    /// <param name="nominal">Healthy value.</param>
    /// <param name="spread">How healthy ones vary.</param>
    public ParameterId Parameter(Element of, string figure, double nominal, Spread spread)
    {
        Parameters.Add(new Parameter(new ParameterKey(of, figure), nominal, spread));
        return new ParameterId(Parameters.Count - 1);
    }

    /// <summary>Declares a conducting branch between two points.</summary>
    /// <param name="of">What conducts.</param>
    /// <param name="from">First end.</param>
    /// <param name="to">Second end.</param>
    /// <param name="role">What it is to whoever follows a line.</param>
    public BranchId Branch(Element of, PointId from, PointId to, BranchRole role = BranchRole.Other)
    {
        Branches.Add(new Branch(Node(from), Node(to)));
        BranchKeys.Add(new BranchKey(of, role));
        return new BranchId(Branches.Count - 1);
    }

    /// <summary>Declares an e.m.f. behind a series conductance.</summary>
    public SourceId Source(Element of, PointId from, PointId to)
    {
        Sources.Add(new Source(Node(from), Node(to)));
        SourceKeys.Add(of);
        return new SourceId(Sources.Count - 1);
    }

    /// <summary>Declares a discrete state, zero at first.</summary>
    public StateId State(Element of)
    {
        States.Add(of);
        return new StateId(States.Count - 1);
    }

    /// <summary>Declares a continuous working value.</summary>
    public MemoryId Memory(double start)
    {
        Memories.Add(start);
        return new MemoryId(Memories.Count - 1);
    }

    /// <summary>Number of a control.</summary>
    public int Control(ControlId id) => machine.Index.ControlNumber(id);

    /// <summary>Positions of a control, in order.</summary>
    public IReadOnlyList<PositionId> PositionsOf(ControlId id) => machine.Index.Control(id)!.Positions;

    /// <summary>Number of the engine that turns a part: the one it names, else the machine's first; −1 without engines.</summary>
    public int Engine(Part part) =>
        machine.Engines is not { Count: > 0 } ? -1
        : part.Engine is not { } named ? 0
        : machine.Index.EngineNumber(named);

    /// <summary>Compact numbering of nodes after ties: compact number by declared number.</summary>
    internal int[] CompactNodes(out int count)
    {
        var compact = new int[tiedTo.Count];
        count = 0;
        for (var n = 0; n < compact.Length; n++)
        {
            compact[n] = Root(n) == n ? count++ : compact[Root(n)];
        }

        return compact;
    }

    private int Root(int node)
    {
        while (tiedTo[node] != node)
        {
            node = tiedTo[node];
        }

        return node;
    }
}
