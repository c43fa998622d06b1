using System.Collections.Concurrent;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>
/// A machine compiled to arrays: nodes, parameters, branches, sources and states, with its faults. Immutable and
/// shared between threads; <see cref="CircuitState"/> holds one case being solved on it.
/// </summary>
public sealed partial class Circuit
{
    private readonly Declaration declaration;
    private readonly int[] compact;
    private readonly Dictionary<PointId, int> nodes;
    private readonly Branch[] branches;
    private readonly Source[] sources;
    private readonly ConcurrentDictionary<(int Red, int Black), Network> probed = new();
    private readonly Dictionary<PartId, Device> devices;
    private readonly List<int> varying = [];
    private readonly List<int> slowStates = [];
    private readonly ILookup<PartId, ParameterId>? laidThrough;
    private readonly ILookup<FaultId, ParameterId>? laidBy;
    private readonly ConcurrentDictionary<string, Circuit> altered = new(StringComparer.Ordinal);

    private Circuit(Machine machine)
    {
        Machine = machine;
        Engines = machine.Engines ?? [];
        Devices = [.. MachineDevices.Of(machine)];
        devices = Devices.Where(d => d.PartId is not null).ToDictionary(d => d.PartId!.Value);
        declaration = new Declaration(machine);
        Declare(Devices);
        compact = declaration.CompactNodes(out var nodeCount);
        nodes = declaration.Points.Select((point, n) => (point, n)).ToDictionary(x => x.point, x => compact[x.n]);
        var points = declaration.Points.ToLookup(point => nodes[point]);
        NodePoints = [.. Enumerable.Range(0, nodeCount).Select(n => (IReadOnlyList<PointId>)[.. points[n]])];
        Parameters = declaration.Parameters;
        BranchKeys = declaration.BranchKeys;
        SourceKeys = declaration.SourceKeys;
        States = declaration.States;
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
        Guesses = [.. Devices.OfType<ISettlesOnMeans>().SelectMany(d => d.Guesses)];
        WaveEngine = Devices.OfType<IChargeWinding>().Select(w => w.Engine).FirstOrDefault(-1);
        Diodes = [.. declaration.Diodes.Select(d => (compact[d.Nodes.From], compact[d.Nodes.To], d))];
        KillLeads = [.. Devices.OfType<IKillable>().Select(k => k.Terminal(this))];
        Opening = new Opening(this);
        Topology = new Topology(this);
        Faults =
        [
            .. Devices.SelectMany(d => d.Faults()).Where(f => MachineFaults.CanBe(machine, f)).Select(Placed),
            .. MachineFaults.Of(machine, this),
        ];
        FaultTexts = new FaultTexts(Faults);
    }

    /// <summary>A circuit with paths laid between nodes it has: only what they touch is worked out anew.</summary>
    private Circuit(Circuit bare, IReadOnlyList<AddedPath> paths)
    {
        (Machine, Engines, Memories, devices) = (bare.Machine, bare.Engines, bare.Memories, bare.devices);
        (compact, nodes, NodePoints) = (bare.compact, bare.nodes, bare.NodePoints);
        (sources, SourceKeys, Reference) = (bare.sources, bare.SourceKeys, bare.Reference);
        (RotatingDevices, IgnitionDevices, Passings) = (bare.RotatingDevices, bare.IgnitionDevices, bare.Passings);
        (Cranking, Regulators, WaveEngine) = (bare.Cranking, bare.Regulators, bare.WaveEngine);
        (Carried, Guesses) = (bare.Carried, bare.Guesses);
        (KillLeads, Topology, Opening, Diodes) = (bare.KillLeads, bare.Topology, bare.Opening, bare.Diodes);
        (Faults, FaultTexts) = ([], bare.FaultTexts);
        Devices = [.. bare.Devices, .. paths];
        declaration = new Declaration(bare.declaration);
        varying.AddRange(bare.varying);
        slowStates.AddRange(bare.slowStates);
        Declare(paths);
        Parameters = declaration.Parameters;
        BranchKeys = declaration.BranchKeys;
        States = declaration.States;
        branches = [.. bare.branches, .. declaration.Branches.Skip(bare.branches.Length).Select(Compacted)];
        Network = new Network(bare.Network.NodeCount, branches, sources, Reference, varying);
        ActiveDevices = [.. bare.ActiveDevices, .. paths.Where(p => p.IsActive)];
        FastDevices = [.. bare.FastDevices, .. paths.Where(p => p is { IsActive: true, IsFast: true })];
        SlowDevices = [.. bare.SlowDevices, .. paths.Where(p => p is { IsActive: true, IsFast: false })];
        laidThrough = paths.Where(p => p.Through is not null).ToLookup(p => p.Through!.Value, p => p.Ohms);
        laidBy = paths.Where(p => p.TakesSeverity).ToLookup(p => p.Fault, p => p.Ohms);
    }

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

    /// <summary>Those faults by the text they are known by outside.</summary>
    public FaultTexts FaultTexts { get; }

    /// <summary>Points tied to each node, first declared first.</summary>
    public IReadOnlyList<IReadOnlyList<PointId>> NodePoints { get; }

    /// <summary>Engines, by the index that speeds are given by.</summary>
    public IReadOnlyList<Engine> Engines { get; }

    /// <summary>What the network's branches are, by index.</summary>
    public IReadOnlyList<BranchKey> BranchKeys { get; }

    /// <summary>What the network's sources are, by index.</summary>
    public IReadOnlyList<Element> SourceKeys { get; }

    /// <summary>What leads where: metal, kill lines.</summary>
    public Topology Topology { get; }

    /// <summary>
    /// States, by index, that stand still while a wave runs: those of what is too slow to follow it. Diodes and breakdowns
    /// switch within every turn.
    /// </summary>
    internal IReadOnlyList<int> SlowStates => slowStates;

    /// <summary>Devices in the order of the file.</summary>
    internal Device[] Devices { get; }

    /// <summary>Kill terminals of every coil that is stopped by grounding one.</summary>
    internal IReadOnlyList<KillTerminal> KillLeads { get; }

    /// <summary>Parts that are stopped by grounding a terminal: that terminal's node, and the metal it must find.</summary>
    public IEnumerable<(Part Part, int Kill, int Ground)> Kills =>
        from part in Machine.Parts
        where HasDevice(part.Id)
        let killed = DeviceOf(part.Id) as IKillable
        where killed is not null
        let terminal = killed.Terminal(this)
        select (part, terminal.Kill, terminal.Ground);

    /// <summary>Every diode, those inside parts too, with its nodes.</summary>
    internal IReadOnlyList<(int Anode, int Cathode, DiodeArm Arm)> Diodes { get; }

    /// <summary>What opens when something is taken off.</summary>
    internal Opening Opening { get; }

    internal Device[] ActiveDevices { get; }

    internal Device[] FastDevices { get; }

    internal Device[] SlowDevices { get; }

    internal Device[] RotatingDevices { get; }

    internal IIgnition[] IgnitionDevices { get; }

    /// <summary>Whether it makes sparks: a diesel does not.</summary>
    public bool HasIgnition => IgnitionDevices.Length > 0;

    /// <summary>Magnetos in the order the magnet passes them; one null where nothing needs telling apart.</summary>
    internal Device?[] Passings { get; }

    internal IRegulator[] Regulators { get; }

    internal Device[] Cranking { get; }

    /// <summary>What charge windings carry from step to step.</summary>
    internal MemoryId[] Carried { get; }

    /// <summary>What comes to rest on the means of waves begins from these.</summary>
    internal MemoryId[] Guesses { get; }

    /// <summary>Engine whose charge windings' waves are followed, or −1.</summary>
    internal int WaveEngine { get; }

    /// <summary>What the discrete states are of, by index.</summary>
    internal IReadOnlyList<Element> States { get; }

    internal IReadOnlyList<double> Memories { get; }

    /// <summary>Whether a fault lays paths between the halves of some coupling.</summary>
    internal bool LaysThrough => laidThrough is { Count: > 0 };

    /// <summary>Compiles a machine that the validator found no problem with.</summary>
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

        // Each is a circuit of its own, a sixth of a megabyte; a job's few suspects ask again and again.
        const int MostKept = 12;
        if (altered.Count > MostKept)
        {
            altered.Clear();
        }

        return altered.GetOrAdd(
            string.Join('|', laying.Select(f => $"{f.Id.Of.Owner.Kind} {f.Id}")),
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
        foreach (var laid in laidBy?[fault.Id] ?? [])
        {
            values[laid.Index] = severity;
        }
    }

    /// <summary>Whether the circuit has a node at a point.</summary>
    public bool HasNode(PointId point) => nodes.ContainsKey(point);

    /// <summary>Node at a point.</summary>
    public int NodeOf(PointId point) => nodes[point];

    /// <summary>Terminals tied to a node, first declared first; none where only wire ends meet.</summary>
    public IEnumerable<TerminalAddress> TerminalsAt(int node) =>
        NodePoints[node].Where(p => p.Terminal is not null).Select(p => p.Terminal!.Value);

    /// <summary>Whether a node lies at a terminal of some part, where a probe finds bright metal.</summary>
    public bool IsTerminal(int node) => TerminalsAt(node).Any();

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

    /// <summary>Resistances of paths that a fault lays between the halves of a coupling.</summary>
    internal IEnumerable<ParameterId> LaidThrough(PartId coupling) => laidThrough?[coupling] ?? [];

    /// <summary>The device that a part is.</summary>
    public Device DeviceOf(PartId part) => devices[part];

    /// <summary>The device of a wire.</summary>
    internal Device? DeviceOf(WireId wire) => Devices.FirstOrDefault(d => d is Conductor c && c.Wire.Id == wire);

    /// <summary>Whether a device stands for a part.</summary>
    public bool HasDevice(PartId part) => devices.ContainsKey(part);

    /// <summary>What a part is to whoever tests around it; nothing in particular for one that the machine has not.</summary>
    public PartTraits TraitsOf(PartId part) =>
        Machine.Index.Part(part) is { } its && DeviceKinds.Named(its.Kind) is { } kind ? kind.Traits : PartTraits.None;

    /// <summary>Whether a part has a trait, or one of several.</summary>
    public bool Is(PartId part, PartTraits any) => (TraitsOf(part) & any) != PartTraits.None;

    /// <summary>Parts that have a trait, in the order of the file.</summary>
    public IEnumerable<Part> PartsThat(PartTraits any) => Machine.Parts.Where(p => Is(p.Id, any));

    /// <summary>Index of the state of an element; −1 when it has none.</summary>
    public int StateOf(Element of) => States.ToList().IndexOf(of);

    /// <summary>The network with one more branch and source between two nodes, for a meter; ordered once and kept.</summary>
    internal Network WithMeter(int red, int black)
    {
        const int MostKept = 512;
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

    private void Declare(IEnumerable<Device> declaring)
    {
        foreach (var device in declaring)
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

    private Branch Compacted(Branch branch) => new(compact[branch.From], compact[branch.To]);

    /// <summary>A device's fault where it lies in this circuit, as often as it comes there.</summary>
    private Fault Placed(Fault fault)
    {
        var (from, to) = (compact[fault.Nodes.From], compact[fault.Nodes.To]);
        var kills = Topology.KillWiring;
        var times = kills.Contains(from) || kills.Contains(to) ? fault.TimesAtIgnition : 1;
        return fault with { Nodes = (from, to), Rate = fault.Rate * times };
    }
}
