using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>Collects what the devices of a machine declare, before it is compiled.</summary>
public sealed class Declaration
{
    private readonly Dictionary<string, int> nodes = new(StringComparer.Ordinal);
    private readonly Dictionary<string, int> controls = new(StringComparer.Ordinal);
    private readonly List<int> tiedTo = [];
    private readonly Machine machine;

    internal Declaration(Machine machine)
    {
        this.machine = machine;
        for (var c = 0; c < machine.Controls.Count; c++)
        {
            controls.Add(machine.Controls[c].Id, c);
        }
    }

    /// <summary>Goes on from what was declared before, which stays as it is.</summary>
    internal Declaration(Declaration before)
    {
        machine = before.machine;
        nodes = new Dictionary<string, int>(before.nodes, StringComparer.Ordinal);
        controls = before.controls;
        tiedTo = [.. before.tiedTo];
        NodeNames = [.. before.NodeNames];
        Parameters = [.. before.Parameters];
        Branches = [.. before.Branches];
        BranchNames = [.. before.BranchNames];
        Sources = [.. before.Sources];
        SourceNames = [.. before.SourceNames];
        States = [.. before.States];
        Memories = [.. before.Memories];
    }

    internal List<string> NodeNames { get; } = [];

    internal List<Parameter> Parameters { get; } = [];

    internal List<Branch> Branches { get; } = [];

    internal List<string> BranchNames { get; } = [];

    internal List<Source> Sources { get; } = [];

    internal List<string> SourceNames { get; } = [];

    internal List<string> States { get; } = [];

    internal List<double> Memories { get; } = [];

    internal List<DiodeArm> Diodes { get; } = [];

    /// <summary>Node of that address, made on first use. Addresses are "part.terminal" or "wire@from".</summary>
    public int Node(string address)
    {
        if (!nodes.TryGetValue(address, out var node))
        {
            node = nodes.Count;
            nodes.Add(address, node);
            NodeNames.Add(address);
            tiedTo.Add(node);
        }

        return node;
    }

    /// <summary>Makes two addresses one node: bolts of one casting, wires in one stud.</summary>
    public void Tie(string a, string b)
    {
        var (one, other) = (Root(Node(a)), Root(Node(b)));
        tiedTo[Math.Max(one, other)] = Math.Min(one, other);
    }

    /// <summary>Declares a parameter.</summary>
    /// <param name="name">"device/figure", ending in its unit.</param>
    /// <param name="nominal">Healthy value.</param>
    /// <param name="spread">How healthy ones vary.</param>
    public ParameterId Parameter(string name, double nominal, Spread spread)
    {
        Parameters.Add(new Parameter(name, nominal, spread));
        return new ParameterId(Parameters.Count - 1);
    }

    /// <summary>Declares a conducting branch between two addresses.</summary>
    public BranchId Branch(string name, string from, string to)
    {
        Branches.Add(new Branch(Node(from), Node(to)));
        BranchNames.Add(name);
        return new BranchId(Branches.Count - 1);
    }

    /// <summary>Declares an e.m.f. behind a series conductance.</summary>
    public SourceId Source(string name, string from, string to)
    {
        Sources.Add(new Source(Node(from), Node(to)));
        SourceNames.Add(name);
        return new SourceId(Sources.Count - 1);
    }

    /// <summary>Declares a discrete state, zero at first.</summary>
    public StateId State(string name)
    {
        States.Add(name);
        return new StateId(States.Count - 1);
    }

    /// <summary>Declares a continuous working value.</summary>
    public MemoryId Memory(double start)
    {
        Memories.Add(start);
        return new MemoryId(Memories.Count - 1);
    }

    /// <summary>Index of a control by its id.</summary>
    public int Control(string id) => controls[id];

    /// <summary>Position names of a control, in order.</summary>
    public IReadOnlyList<string> PositionsOf(string id) => machine.Controls[controls[id]].Positions;

    /// <summary>Index of the engine that turns a part: the one it names, else the machine's first; −1 without engines.</summary>
    public int Engine(Part part) =>
        machine.Engines is not { Count: > 0 } engines ? -1
        : part.Engine is null ? 0
        : engines.ToList().FindIndex(e => string.Equals(e.Id, part.Engine, StringComparison.Ordinal));

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
