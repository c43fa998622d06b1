using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines.Making;

/// <summary>Changes to what carries the wiring: names, places, controls, engines, mounts, duties.</summary>
public static class FrameChange
{
    /// <summary>A machine with nothing on it but one place to put things.</summary>
    /// <param name="id">Short name.</param>
    /// <param name="name">What the workshop calls it.</param>
    /// <param name="kind">Family.</param>
    /// <param name="stopByHand">How to stop its engine by hand.</param>
    public static Machine Empty(MachineId id, string name, string kind, string stopByHand) =>
        new()
        {
            Format = Machine.CurrentFormat,
            Id = id,
            Name = name,
            Kind = kind,
            Summary = $"{name}, drawn here.",
            MayDiffer = "Drawn from the machine in front of us; the maker's diagram comes first.",
            StopByHand = stopByHand,
            TurningCautions =
            [
                "The engine may turn: plug lead off and clipped to the block, drive out, hands and leads clear of belts.",
            ],
            Places = [new Place(new PlaceId("frame"), "on the frame", "frame", 1, EngineMayTurn: true)],
            Controls = [],
            Parts = [],
            Wires = [],
            Mounts = [],
            Duties = [],
        };

    /// <summary>A machine's own particulars: names, words and identity.</summary>
    public static MachineChange Describe(Machine machine, Machine described) =>
        MachineChange.Told(
            machine,
            machine with
            {
                Name = described.Name,
                Kind = described.Kind,
                Summary = described.Summary,
                MayDiffer = described.MayDiffer,
                StoppedBy = described.StoppedBy,
                NotDrawn = described.NotDrawn,
                StopByHand = described.StopByHand,
                TurningCautions = described.TurningCautions,
                Identity = described.Identity,
            }
        );

    /// <summary>Puts a place in.</summary>
    public static MachineChange Put(Machine machine, Place place, PlaceId? old) =>
        MachineChange.Told(machine, machine with { Places = Lists.Put(machine.Places, place, old, p => p.Id) });

    /// <summary>Puts a control in.</summary>
    public static MachineChange Put(Machine machine, Control control, ControlId? old) =>
        MachineChange.Told(machine, machine with { Controls = Lists.Put(machine.Controls, control, old, c => c.Id) });

    /// <summary>Puts an engine in.</summary>
    public static MachineChange Put(Machine machine, Engine engine, EngineId? old) =>
        MachineChange.Told(
            machine,
            machine with
            {
                Engines = Lists.Put(machine.Engines ?? [], engine, old, e => e.Id),
            }
        );

    /// <summary>Puts a mount in.</summary>
    public static MachineChange Put(Machine machine, Mount mount, MountId? old) =>
        MachineChange.Told(machine, machine with { Mounts = Lists.Put(machine.Mounts, mount, old, m => m.Id) });

    /// <summary>Puts a duty in.</summary>
    public static MachineChange Put(Machine machine, Duty duty, DutyId? old) =>
        MachineChange.Told(machine, machine with { Duties = Lists.Put(machine.Duties, duty, old, d => d.Id) });

    /// <summary>Takes a place out.</summary>
    /// <exception cref="ChangeRefusedException">Something sits there.</exception>
    public static MachineChange TakeOutPlace(Machine machine, PlaceId id)
    {
        var sitting = machine.Parts.Where(p => p.Place == id).Select(p => p.Name).ToList();
        return sitting.Count == 0
            ? MachineChange.Told(machine, machine with { Places = Lists.Without(machine.Places, id, p => p.Id) })
            : throw new ChangeRefusedException("", $"Move what sits there first: {string.Join(", ", sitting)}.");
    }

    /// <summary>Takes a control out.</summary>
    /// <exception cref="ChangeRefusedException">A switch or a duty is worked by it.</exception>
    public static MachineChange TakeOutControl(Machine machine, ControlId id)
    {
        var worked = machine
            .Parts.Where(p => p.Contacts?.Any(c => c.Control == id) == true)
            .Select(p => p.Name)
            .Concat(machine.Duties.Where(d => d.Setting.ContainsKey(id)).Select(d => $"duty “{d.Name}”"))
            .ToList();
        return worked.Count == 0
            ? MachineChange.Told(machine, machine with { Controls = Lists.Without(machine.Controls, id, c => c.Id) })
            : throw new ChangeRefusedException("", $"It still works {string.Join(", ", worked)}.");
    }

    /// <summary>Takes an engine out.</summary>
    public static MachineChange TakeOutEngine(Machine machine, EngineId id)
    {
        var left = Lists.Without(machine.Engines ?? [], id, e => e.Id);
        return MachineChange.Told(machine, machine with { Engines = left.Count == 0 ? null : left });
    }

    /// <summary>Takes a mount out.</summary>
    public static MachineChange TakeOutMount(Machine machine, MountId id) =>
        MachineChange.Told(machine, machine with { Mounts = Lists.Without(machine.Mounts, id, m => m.Id) });

    /// <summary>Takes a duty out.</summary>
    public static MachineChange TakeOutDuty(Machine machine, DutyId id) =>
        MachineChange.Told(machine, machine with { Duties = Lists.Without(machine.Duties, id, d => d.Id) });

    /// <summary>A short name for a machine, a place, a control, a mount or a duty, made of its name and not yet taken.</summary>
    public static string IdFor(string name, IEnumerable<string> taken) =>
        Lists.Free(Lists.IdOf(name, "item"), taken, letters: false);
}
