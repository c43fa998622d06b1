using System.Runtime.CompilerServices;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>The things of one machine by what they are known by: built once, one look-up for each kind.</summary>
public sealed class MachineIndex
{
    private static readonly ConditionalWeakTable<Machine, MachineIndex> Known = [];

    private readonly Dictionary<PartId, Part> parts = [];
    private readonly Dictionary<WireId, Wire> wires = [];
    private readonly Dictionary<PlaceId, Place> places = [];
    private readonly Dictionary<ControlId, int> controls = [];
    private readonly Dictionary<EngineId, int> engines = [];
    private readonly Dictionary<DutyId, Duty> duties = [];
    private readonly Dictionary<MountId, Mount> mounts = [];
    private readonly ILookup<TerminalAddress, (WireEndId Name, Wire Wire)> ends;
    private readonly Machine machine;

    private MachineIndex(Machine machine)
    {
        this.machine = machine;
        // A machine that is only being checked may have two things of one name; the first stands for both.
        Fill(parts, machine.Parts, p => p.Id);
        Fill(wires, machine.Wires, w => w.Id);
        Fill(places, machine.Places, p => p.Id);
        Fill(duties, machine.Duties, d => d.Id);
        Fill(mounts, machine.Mounts, m => m.Id);
        Number(controls, machine.Controls.Select(c => c.Id));
        Number(engines, (machine.Engines ?? []).Select(e => e.Id));
        ends = machine
            .Wires.SelectMany(w => w.Ends, (w, e) => (Wire: w, e.Name, e.At))
            .ToLookup(e => e.At, e => (e.Name, e.Wire));
    }

    /// <summary>The index of a machine; kept as long as the machine is.</summary>
    public static MachineIndex Of(Machine machine) => Known.GetValue(machine, m => new MachineIndex(m));

    /// <summary>A part, or null.</summary>
    public Part? Part(PartId id) => parts.GetValueOrDefault(id);

    /// <summary>The part that a terminal is on, or null.</summary>
    public Part? PartAt(TerminalAddress address) => Part(address.Part);

    /// <summary>A wire, or null.</summary>
    public Wire? Wire(WireId id) => wires.GetValueOrDefault(id);

    /// <summary>A place, or null.</summary>
    public Place? Place(PlaceId id) => places.GetValueOrDefault(id);

    /// <summary>A mount, or null.</summary>
    public Mount? Mount(MountId id) => mounts.GetValueOrDefault(id);

    /// <summary>A duty of the machine's own, or null.</summary>
    public Duty? Duty(DutyId id) => duties.GetValueOrDefault(id);

    /// <summary>A control, or null.</summary>
    public Control? Control(ControlId id) => controls.TryGetValue(id, out var c) ? machine.Controls[c] : null;

    /// <summary>Number of a control in the file, from 0; −1 when there is none.</summary>
    public int ControlNumber(ControlId id) => controls.GetValueOrDefault(id, -1);

    /// <summary>An engine, or null.</summary>
    public Engine? Engine(EngineId id) => engines.TryGetValue(id, out var e) ? machine.Engines![e] : null;

    /// <summary>Number of an engine in the file, from 0; −1 when there is none.</summary>
    public int EngineNumber(EngineId id) => engines.GetValueOrDefault(id, -1);

    /// <summary>Ends of wires on a terminal, with their wires, in the order of the file.</summary>
    public IEnumerable<(WireEndId Name, Wire Wire)> EndsAt(TerminalAddress address) => ends[address];

    /// <summary>The terminal that a wire's end belongs on; null when there is no such wire.</summary>
    public TerminalAddress? TerminalOf(WireEndId end) => Wire(end.Wire)?.End(end.Side).At;

    private static void Fill<TId, T>(Dictionary<TId, T> index, IEnumerable<T> things, Func<T, TId> idOf)
        where TId : notnull
    {
        foreach (var thing in things)
        {
            index.TryAdd(idOf(thing), thing);
        }
    }

    private static void Number<TId>(Dictionary<TId, int> index, IEnumerable<TId> ids)
        where TId : notnull
    {
        foreach (var (id, number) in ids.Select((id, n) => (id, n)))
        {
            index.TryAdd(id, number);
        }
    }
}
