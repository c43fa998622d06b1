using System.Collections.Concurrent;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Simulation;

/// <summary>
/// A machine compiled to arrays: nodes, parameters, branches, sources and states, with its faults. Immutable and
/// shared between threads; <see cref="CircuitState"/> holds one case being solved on it.
/// </summary>
public sealed class Circuit
{
    private readonly Declaration declaration;
    private readonly int[] compact;
    private readonly Dictionary<string, int> declaredNodes;
    private readonly Branch[] branches;
    private readonly Source[] sources;
    private readonly ConcurrentDictionary<(int Red, int Black), Network> probed = new();

    private readonly List<int> varying = [];
    private readonly List<int> slowStates = [];
    private readonly Lazy<HashSet<int>> ignited;
    private readonly ILookup<string, ParameterId>? laidThrough;
    private readonly ConcurrentDictionary<string, Circuit> altered = new(StringComparer.Ordinal);

    private Circuit(Machine machine)
    {
        Machine = machine;
        Engines = machine.Engines ?? [];
        Devices = [.. MachineDevices.Of(machine)];
        declaration = new Declaration(machine);
        Declare(Devices);
        compact = declaration.CompactNodes(out var nodeCount);
        declaredNodes = declaration
            .NodeNames.Select((name, n) => (name, n))
            .ToDictionary(x => x.name, x => compact[x.n], StringComparer.Ordinal);
        var addresses = declaration.NodeNames.ToLookup(name => declaredNodes[name]);
        NodeAddresses = [.. Enumerable.Range(0, nodeCount).Select(n => (IReadOnlyList<string>)[.. addresses[n]])];
        Parameters = declaration.Parameters;
        BranchNames = declaration.BranchNames;
        SourceNames = declaration.SourceNames;
        StateNames = declaration.States;
        Memories = declaration.Memories;
        branches = [.. declaration.Branches.Select(Compacted)];
        sources = [.. declaration.Sources.Select(s => new Source(compact[s.From], compact[s.To]))];
        Reference = NodeOf(MachineWords.ReferenceOf(machine));
        Network = new Network(nodeCount, branches, sources, Reference, varying);
        ActiveDevices = [.. Devices.Where(d => d.IsActive)];
        FastDevices = [.. ActiveDevices.Where(d => d.IsFast)];
        SlowDevices = [.. ActiveDevices.Where(d => !d.IsFast)];
        RotatingDevices = [.. Devices.Where(d => d.IsRotating)];
        IgnitionDevices = [.. Devices.OfType<IIgnition>()];
        Device[] alone = [.. Devices.Where(d => d is IPassedAlone)];
        Passings = alone.Length > 1 ? alone : new Device?[] { null };
        Cranking = [.. Devices.Where(d => d is ICranks)];
        Regulators = [.. Devices.OfType<IRegulator>()];
        Carried = [.. Devices.OfType<IChargeWinding>().SelectMany(w => w.Carried)];
        WaveEngine = Devices.OfType<IChargeWinding>().Select(w => w.Engine).FirstOrDefault(-1);
        Diodes = [.. declaration.Diodes.Select(d => (compact[d.Nodes.From], compact[d.Nodes.To], d))];
        KillLeads = [.. Devices.OfType<IKillable>().Select(k => k.Terminal(this))];
        ignited = new Lazy<HashSet<int>>(() => MetalOf(KillLeads.Select(k => k.Kill)));
        Faults = [.. Devices.SelectMany(d => d.Faults()).Select(Compacted), .. MachineFaults.Of(machine, this)];
    }

    /// <summary>A circuit with paths laid between nodes it has: only what they touch is worked out anew.</summary>
    private Circuit(Circuit bare, IReadOnlyList<AddedPath> paths)
    {
        (Machine, Engines, Memories) = (bare.Machine, bare.Engines, bare.Memories);
        (compact, declaredNodes, NodeAddresses) = (bare.compact, bare.declaredNodes, bare.NodeAddresses);
        (sources, SourceNames, Reference) = (bare.sources, bare.SourceNames, bare.Reference);
        (RotatingDevices, IgnitionDevices, Passings) = (bare.RotatingDevices, bare.IgnitionDevices, bare.Passings);
        (Cranking, Regulators, Carried, WaveEngine) = (bare.Cranking, bare.Regulators, bare.Carried, bare.WaveEngine);
        (KillLeads, ignited, Diodes, Faults) = (bare.KillLeads, bare.ignited, bare.Diodes, []);
        Devices = [.. bare.Devices, .. paths];
        declaration = new Declaration(bare.declaration);
        varying.AddRange(bare.varying);
        slowStates.AddRange(bare.slowStates);
        Declare(paths);
        Parameters = declaration.Parameters;
        BranchNames = declaration.BranchNames;
        StateNames = declaration.States;
        branches = [.. bare.branches, .. declaration.Branches.Skip(bare.branches.Length).Select(Compacted)];
        Network = new Network(bare.Network.NodeCount, branches, sources, Reference, varying);
        ActiveDevices = [.. bare.ActiveDevices, .. paths.Where(p => p.IsActive)];
        FastDevices = [.. bare.FastDevices, .. paths.Where(p => p is { IsActive: true, IsFast: true })];
        SlowDevices = [.. bare.SlowDevices, .. paths.Where(p => p is { IsActive: true, IsFast: false })];
        laidThrough = paths.Where(p => p.Through is not null).ToLookup(p => p.Through!, p => p.Ohms);
    }

    /// <summary>Resistances of paths that a fault lays between the halves of a coupling.</summary>
    internal IEnumerable<ParameterId> LaidThrough(string coupling) => laidThrough?[coupling] ?? [];

    /// <summary>Whether a fault lays paths between the halves of some coupling.</summary>
    internal bool LaysThrough => laidThrough is { Count: > 0 };

    private void Declare(IEnumerable<Device> devices)
    {
        foreach (var device in devices)
        {
            var first = declaration.Branches.Count;
            var firstState = declaration.States.Count;
            device.Declare(declaration);
            if (!device.IsFast)
            {
                slowStates.AddRange(Enumerable.Range(firstState, declaration.States.Count - firstState));
            }

            if (device.IsActive || device.IsRotating)
            {
                varying.AddRange(Enumerable.Range(first, declaration.Branches.Count - first));
            }
        }
    }

    /// <summary>
    /// States, by index, that stand still while a wave runs: those of what is too slow to follow it. Diodes and breakdowns
    /// switch within every turn.
    /// </summary>
    internal IReadOnlyList<int> SlowStates => slowStates;

    /// <summary>The machine this was compiled from.</summary>
    public Machine Machine { get; }

    /// <summary>Network of the bare circuit, without a meter.</summary>
    public Network Network { get; }

    /// <summary>Node volts are measured from: the first battery's negative post, or the first body without a battery.</summary>
    public int Reference { get; }

    /// <summary>Parameters by index.</summary>
    public IReadOnlyList<Parameter> Parameters { get; }

    /// <summary>Every single fault the machine can have.</summary>
    public IReadOnlyList<Fault> Faults { get; }

    /// <summary>Addresses tied to each node, first declared first.</summary>
    public IReadOnlyList<IReadOnlyList<string>> NodeAddresses { get; }

    internal Device[] Devices { get; }

    /// <summary>Kill terminals of every coil that is stopped by grounding one.</summary>
    internal IReadOnlyList<KillTerminal> KillLeads { get; }

    /// <summary>Every diode, those inside parts too, with its nodes.</summary>
    internal IReadOnlyList<(int Anode, int Cathode, DiodeArm Arm)> Diodes { get; }

    /// <summary>Engines, by the index that speeds are given by.</summary>
    public IReadOnlyList<Engine> Engines { get; }

    internal Device[] ActiveDevices { get; }

    internal Device[] FastDevices { get; }

    internal Device[] SlowDevices { get; }

    internal Device[] RotatingDevices { get; }

    internal IIgnition[] IgnitionDevices { get; }

    /// <summary>Magnetos in the order the magnet passes them; one null where nothing needs telling apart.</summary>
    internal Device?[] Passings { get; }

    internal IRegulator[] Regulators { get; }

    internal Device[] Cranking { get; }

    /// <summary>What charge windings carry from step to step.</summary>
    internal MemoryId[] Carried { get; }

    /// <summary>Engine whose charge windings' waves are followed, or −1.</summary>
    internal int WaveEngine { get; }

    /// <summary>Names of the network's branches, by index: "key/B-A", "relay/coil".</summary>
    public IReadOnlyList<string> BranchNames { get; }

    /// <summary>Names of the network's sources, by index.</summary>
    public IReadOnlyList<string> SourceNames { get; }

    internal IReadOnlyList<string> StateNames { get; }

    internal IReadOnlyList<double> Memories { get; }

    /// <summary>Compiles a machine that <see cref="MachineValidator"/> found no problem with.</summary>
    public static Circuit Compile(Machine machine) => new(machine);

    /// <summary>
    /// This circuit with paths that faults lay where the machine has none: chafes, shorts, swapped wires. Numbers of
    /// nodes and parameters stay as they are; those of the added paths follow. Kept for the next who asks.
    /// </summary>
    /// <param name="faults">Faults present; those that lay no path are passed over.</param>
    public Circuit With(IEnumerable<Fault> faults)
    {
        var laying = faults.Where(f => f.Paths.Count > 0).ToList();
        if (laying.Count == 0)
        {
            return this;
        }

        const int MostKept = 64;
        if (altered.Count > MostKept)
        {
            altered.Clear();
        }

        return altered.GetOrAdd(
            string.Join('|', laying.Select(f => f.Id)),
            _ => new Circuit(this, [.. laying.SelectMany(f => f.Paths.Select(p => new AddedPath(f.Id, p)))])
        );
    }

    /// <summary>Applies a fault to parameters of this circuit, the paths it lays in it included.</summary>
    /// <param name="fault">A fault of the machine; if it lays paths, this is the circuit that has them.</param>
    /// <param name="severity">From <see cref="Severity.At"/>.</param>
    /// <param name="values">Parameters by index; changed in place.</param>
    public void Plant(Fault fault, double severity, Span<double> values)
    {
        fault.Apply(values, severity);
        if (fault.Paths.All(p => p.FixedOhms is not null))
        {
            return;
        }

        var laid = fault.Id + "/path/ohms";
        for (var p = values.Length - 1; p >= 0; p--)
        {
            if (string.Equals(Parameters[p].Name, laid, StringComparison.Ordinal) && double.IsInfinity(values[p]))
            {
                values[p] = severity;
            }
        }
    }

    /// <summary>Whether the circuit has a node of that address.</summary>
    public bool HasNode(string address) => declaredNodes.ContainsKey(address);

    /// <summary>Node at an address, "part.terminal" or "wire@from".</summary>
    public int NodeOf(string address) => declaredNodes[address];

    /// <summary>Healthy parameters at their nominal values.</summary>
    public double[] NominalParameters() => [.. Parameters.Select(p => p.Nominal)];

    /// <summary>Fills parameters from an index on with their nominal values: those of laid paths, after a machine's own.</summary>
    internal void NominalTail(int from, Span<double> values)
    {
        for (var p = from; p < values.Length; p++)
        {
            values[p] = Parameters[p].Nominal;
        }
    }

    /// <summary>The device that a part is.</summary>
    public Device DeviceOf(string partId) =>
        Devices.First(d => string.Equals(d.PartId, partId, StringComparison.Ordinal));

    /// <summary>Parameters of those names.</summary>
    public IEnumerable<ParameterId> ParametersNamed(params IReadOnlyList<string> names) =>
        Parameters
            .Select((p, i) => (p.Name, Id: new ParameterId(i)))
            .Where(p => names.Contains(p.Name, StringComparer.Ordinal))
            .Select(p => p.Id);

    /// <summary>
    /// Whether wires, couplings and splices alone lead from an address to a terminal that ignition's hundreds of volts
    /// stand on.
    /// </summary>
    public bool CarriesIgnition(string address) => ignited.Value.Contains(NodeOf(address));

    /// <summary>Terminals that wires, couplings, splices and diodes join to a kill terminal, as nodes.</summary>
    internal IEnumerable<int> KillMetal()
    {
        var metal = ignited.Value.ToHashSet();
        var diodes = KillDiodes().ToList();
        for (var before = -1; before != metal.Count; )
        {
            before = metal.Count;
            metal.UnionWith(MetalOf(diodes.Where(d => d.Exists(metal.Contains)).SelectMany(d => d)));
        }

        return metal.Where(n => NodeAddresses[n].Any(a => a.Contains('.', StringComparison.Ordinal))).Order();
    }

    /// <summary>Terminals of each diode that parts coils' kill leads from one another.</summary>
    internal IEnumerable<List<int>> KillDiodes() =>
        Machine
            .Parts.Where(p => p.Kind == PartKinds.Diode)
            .Select(p => p.Terminals.Select(t => NodeOf($"{p.Id}.{t}")).ToList())
            .Where(d => d.Exists(ignited.Value.Contains));

    /// <summary>Whether a device stands for a part; plain metal has none.</summary>
    public bool HasDevice(string partId) => Devices.Any(d => string.Equals(d.PartId, partId, StringComparison.Ordinal));

    /// <summary>State index by its device's id.</summary>
    public int StateOf(string name) =>
        StateNames.ToList().FindIndex(s => string.Equals(s, name, StringComparison.Ordinal));

    /// <summary>Positions of all controls, given some by id and position name; the rest at rest.</summary>
    /// <exception cref="ArgumentException">A position that its control has not.</exception>
    public ControlSetting Setting(IReadOnlyDictionary<string, string>? given)
    {
        var positions = new int[Machine.Controls.Count];
        for (var c = 0; c < positions.Length; c++)
        {
            var control = Machine.Controls[c];
            var wanted = given is not null && given.TryGetValue(control.Id, out var name) ? name : control.Rest;
            positions[c] = control
                .Positions.ToList()
                .FindIndex(p => string.Equals(p, wanted, StringComparison.Ordinal));
            if (positions[c] < 0)
            {
                throw new ArgumentException($"{control.Id} has no position {wanted}.", nameof(given));
            }
        }

        return new ControlSetting(positions);
    }

    /// <summary>Every combination of control positions.</summary>
    public IEnumerable<ControlSetting> AllSettings()
    {
        var counts = Machine.Controls.Select(c => c.Positions.Count).ToArray();
        for (var i = 0; i < counts.Aggregate(1, (a, b) => a * b); i++)
        {
            var (positions, left) = (new int[counts.Length], i);
            for (var c = 0; c < counts.Length; c++)
            {
                positions[c] = left % counts[c];
                left /= counts[c];
            }

            yield return new ControlSetting(positions);
        }
    }

    /// <summary>The network with one more branch and source between two nodes, for a meter; ordered once and kept.</summary>
    internal Network WithMeter(int red, int black)
    {
        const int MostKept = 2048;
        if (probed.Count > MostKept)
        {
            probed.Clear();
        }

        return probed.GetOrAdd(
            (red, black),
            at => new Network(
                Network.NodeCount,
                branches,
                [.. sources, new Source(at.Red, at.Black)],
                Reference,
                varying
            )
        );
    }

    /// <summary>Nodes that the loom itself joins to some, through no part but couplings and splices.</summary>
    internal HashSet<int> MetalOf(IEnumerable<int> from)
    {
        var links = Machine
            .Wires.SelectMany(w =>
                (string[][])
                    [
                        [w.From.At, w.Id + "@from"],
                        [w.Id + "@from", w.Id + "@to"],
                        [w.Id + "@to", w.To.At],
                    ]
            )
            .Concat(
                Machine
                    .Parts.Where(p => string.Equals(p.Kind, PartKinds.Coupling, StringComparison.Ordinal))
                    .SelectMany(p =>
                        p.Terminals.Where(t => t.EndsWith('a'))
                            .Select(t => (string[])[$"{p.Id}.{t}", $"{p.Id}.{t[..^1]}b"])
                    )
            )
            .Select(pair => (A: NodeOf(pair[0]), B: NodeOf(pair[1])))
            .ToList();
        var reached = from.ToHashSet();
        for (var before = -1; before != reached.Count; )
        {
            before = reached.Count;
            foreach (var (a, b) in links)
            {
                if (reached.Contains(a) != reached.Contains(b))
                {
                    reached.Add(a);
                    reached.Add(b);
                }
            }
        }

        return reached;
    }

    private Branch Compacted(Branch branch) => new(compact[branch.From], compact[branch.To]);

    private Fault Compacted(Fault fault) => fault with { Nodes = (compact[fault.Nodes.From], compact[fault.Nodes.To]) };
}

/// <summary>A coil's kill terminal.</summary>
/// <param name="Kill">Node of the terminal.</param>
/// <param name="Ground">Node of the metal it must find to stop.</param>
/// <param name="Unwound">Fault that takes the coil's own winding away, so that only what is outside is seen.</param>
internal sealed record KillTerminal(int Kill, int Ground, Fault Unwound);

/// <summary>Implemented by ignition that is stopped by grounding a terminal.</summary>
internal interface IKillable
{
    /// <summary>Its kill terminal, in a compiled circuit.</summary>
    KillTerminal Terminal(Circuit circuit);
}

/// <summary>Position of every control of a machine, by index.</summary>
public sealed class ControlSetting(int[] positions) : IEquatable<ControlSetting>
{
    private readonly int[] positions = positions;

    /// <summary>Position index of a control.</summary>
    public int this[int control] => positions[control];

    /// <summary>Number of controls.</summary>
    public int Count => positions.Length;

    /// <summary>The same with one control in another position.</summary>
    public ControlSetting With(int control, int position)
    {
        var other = (int[])positions.Clone();
        other[control] = position;
        return new ControlSetting(other);
    }

    /// <summary>Positions by name of the controls that are not at rest, by control id.</summary>
    public IReadOnlyDictionary<string, string> Moved(Machine machine) =>
        machine
            .Controls.Select((c, i) => (Control: c, Position: c.Positions[positions[i]]))
            .Where(x => x.Position != x.Control.Rest)
            .ToDictionary(x => x.Control.Id, x => x.Position, StringComparer.Ordinal);

    /// <summary>In words, naming only what is not at rest.</summary>
    public string Words(Machine machine) =>
        string.Join(" · ", Differences(machine).DefaultIfEmpty("everything at rest"));

    /// <summary>In words, every control named: for settings in which what is at rest matters too.</summary>
    public string AllWords(Machine machine) =>
        string.Join(" · ", machine.Controls.Select((c, i) => Said(c, c.Positions[positions[i]])));

    /// <summary>By control id and position name.</summary>
    public IReadOnlyDictionary<string, string> Named(Machine machine) =>
        machine
            .Controls.Select((c, i) => (c.Id, Position: c.Positions[positions[i]]))
            .ToDictionary(x => x.Id, x => x.Position, StringComparer.Ordinal);

    /// <summary>Controls that must be held against a spring or a weight in this setting.</summary>
    public IEnumerable<Control> Held(Machine machine) =>
        machine.Controls.Where((c, i) => c.Held.Contains(c.Positions[positions[i]], StringComparer.Ordinal));

    /// <inheritdoc/>
    public bool Equals(ControlSetting? other) => other is not null && positions.AsSpan().SequenceEqual(other.positions);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as ControlSetting);

    /// <inheritdoc/>
    public override int GetHashCode() => positions.Aggregate(17, (hash, p) => (hash * 31) + p);

    private IEnumerable<string> Differences(Machine machine)
    {
        for (var c = 0; c < positions.Length; c++)
        {
            var control = machine.Controls[c];
            var position = control.Positions[positions[c]];
            if (!string.Equals(position, control.Rest, StringComparison.Ordinal))
            {
                yield return Said(control, position);
            }
        }
    }

    private static string Said(Control control, string position) =>
        control.Says is { } says && says.TryGetValue(position, out var words)
            ? words
            : $"{control.Name.ToLowerInvariant()} {position}";
}
