using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>A machine's own particulars as typed.</summary>
public sealed class MachineForm : IDraftForm
{
    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Family.</summary>
    public string? Kind { get; set; }

    /// <summary>What is in it.</summary>
    public string? Summary { get; set; }

    /// <summary>How the real one may differ.</summary>
    public string? MayDiffer { get; set; }

    /// <summary>What stops it when all is well.</summary>
    public string? StoppedBy { get; set; }

    /// <summary>What is left out.</summary>
    public string? NotDrawn { get; set; }

    /// <summary>How to stop it by hand.</summary>
    public string? StopByHand { get; set; }

    /// <summary>Cautions, one on a line.</summary>
    public string? Cautions { get; set; }

    /// <summary>Which one it is.</summary>
    public IdentityForm Identity { get; set; } = new();

    internal static MachineForm Of(Machine machine) =>
        new()
        {
            Name = machine.Name,
            Kind = machine.Kind,
            Summary = machine.Summary,
            MayDiffer = machine.MayDiffer,
            StoppedBy = machine.StoppedBy,
            NotDrawn = machine.NotDrawn,
            StopByHand = machine.StopByHand,
            Cautions = string.Join('\n', machine.TurningCautions),
            Identity = IdentityForm.Of(machine.Identity),
        };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) => FrameChange.Describe(machine, Read(machine));

    private Machine Read(Machine machine) =>
        machine with
        {
            Name = Typed.Text(Name),
            Kind = Typed.Text(Kind),
            Summary = Typed.Text(Summary),
            MayDiffer = Typed.Text(MayDiffer),
            StoppedBy = Typed.OrNull(StoppedBy),
            NotDrawn = Typed.OrNull(NotDrawn),
            StopByHand = Typed.Text(StopByHand),
            TurningCautions = (Cautions ?? "").Split(
                '\n',
                StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries
            ),
            Identity = Identity.Read(),
        };
}

/// <summary>A place as typed.</summary>
public sealed class PlaceForm : IDraftForm
{
    /// <summary>Id it has, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Zone.</summary>
    public string? Zone { get; set; }

    /// <summary>Minutes to reach it.</summary>
    public string? Minutes { get; set; }

    /// <summary>What must come off.</summary>
    public string? Opens { get; set; }

    /// <summary>Whether the engine may turn while someone tests there.</summary>
    public bool EngineMayTurn { get; set; }

    internal static PlaceForm Of(Place? place) =>
        place is null
            ? new PlaceForm { Minutes = "1" }
            : new PlaceForm
            {
                Old = place.Id.Text,
                Name = place.Name,
                Zone = place.Zone,
                Minutes = Typed.Write(place.Minutes),
                Opens = place.Opens,
                EngineMayTurn = place.EngineMayTurn,
            };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        FrameChange.Put(machine, Read(machine), Typed.IdOrNull<PlaceId>(Old));

    private Place Read(Machine machine) =>
        new(
            Typed.IdFor(Old, Name, machine.Places.Select(p => p.Id)),
            Typed.Text(Name),
            Typed.Text(Zone),
            Typed.Figure(Minutes, "minutes"),
            EngineMayTurn,
            Typed.OrNull(Opens)
        );
}

/// <summary>A control as typed.</summary>
public sealed class ControlForm : IDraftForm
{
    /// <summary>Id it has, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Positions, with commas.</summary>
    public string? Positions { get; set; }

    /// <summary>Position it rests in.</summary>
    public string? Rest { get; set; }

    /// <summary>Positions that spring back, with commas.</summary>
    public string? Held { get; set; }

    /// <summary>How positions are said on a job.</summary>
    public Dictionary<string, string?> Says { get; set; } = new(StringComparer.Ordinal);

    internal static ControlForm Of(Control? control) =>
        control is null
            ? new ControlForm()
            : new ControlForm
            {
                Old = control.Id.Text,
                Name = control.Name,
                Positions = string.Join(", ", control.Positions),
                Rest = control.Rest.Text,
                Held = string.Join(", ", control.Held),
                Says = control.Positions.ToDictionary(
                    p => p.Text,
                    p => control.Says?.TryGetValue(p, out var said) == true ? said : null,
                    StringComparer.Ordinal
                ),
            };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        FrameChange.Put(machine, Read(machine), Typed.IdOrNull<ControlId>(Old));

    private Control Read(Machine machine)
    {
        var positions = Typed.List<PositionId>(Positions);
        var says = Says.Where(s => !string.IsNullOrWhiteSpace(s.Value) && positions.Contains(new PositionId(s.Key)))
            .ToDictionary(s => new PositionId(s.Key), s => s.Value!.Trim());
        return new Control(
            Typed.IdFor(Old, Name, machine.Controls.Select(c => c.Id)),
            Typed.Text(Name),
            positions,
            Typed.IdOrNull<PositionId>(Rest) ?? (positions.Count > 0 ? positions[0] : new PositionId("")),
            Typed.List<PositionId>(Held),
            says.Count == 0 ? null : says
        );
    }
}

/// <summary>An engine as typed.</summary>
public sealed class EngineForm : IDraftForm
{
    /// <summary>Id it has, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Cranking speed.</summary>
    public string? CrankRpm { get; set; }

    /// <summary>Idle speed.</summary>
    public string? IdleRpm { get; set; }

    /// <summary>Working speed.</summary>
    public string? WorkRpm { get; set; }

    /// <summary>Pole pairs.</summary>
    public string? PolePairs { get; set; }

    /// <summary>Which engine it is.</summary>
    public IdentityForm Identity { get; set; } = new();

    internal static EngineForm Of(Engine? engine) =>
        engine is null
            ? new EngineForm
            {
                Name = "engine",
                CrankRpm = "350",
                IdleRpm = "1500",
                WorkRpm = "3200",
                PolePairs = "6",
            }
            : new EngineForm
            {
                Old = engine.Id.Text,
                Name = engine.Name,
                CrankRpm = Typed.Write(engine.CrankRpm),
                IdleRpm = Typed.Write(engine.IdleRpm),
                WorkRpm = Typed.Write(engine.WorkRpm),
                PolePairs = Typed.Write(engine.PolePairs),
                Identity = IdentityForm.Of(engine.Identity),
            };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        FrameChange.Put(machine, Read(machine), Typed.IdOrNull<EngineId>(Old));

    private Engine Read(Machine machine) =>
        new(
            Typed.IdFor(Old, Name, (machine.Engines ?? []).Select(e => e.Id)),
            Typed.Text(Name),
            Typed.Figure(CrankRpm, "crankRpm"),
            Typed.Figure(IdleRpm, "idleRpm"),
            Typed.Figure(WorkRpm, "workRpm"),
            Typed.Whole(PolePairs, "polePairs"),
            Identity.Read()
        );
}

/// <summary>A part's own metal on a ground body, as typed.</summary>
public sealed class MountForm : IDraftForm
{
    /// <summary>Id it has, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>The part's own metal.</summary>
    public string? Terminal { get; set; }

    /// <summary>Bolt of a body.</summary>
    public string? On { get; set; }

    /// <summary>Name.</summary>
    public string? Name { get; set; }

    internal static MountForm Of(Mount? mount) =>
        mount is null
            ? new MountForm()
            : new MountForm
            {
                Old = mount.Id.Text,
                Terminal = mount.Terminal.Text,
                On = mount.On.Text,
                Name = mount.Name,
            };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        FrameChange.Put(machine, Read(machine), Typed.IdOrNull<MountId>(Old));

    private Mount Read(Machine machine) =>
        new(
            Typed.IdFor(Old, Name, machine.Mounts.Select(m => m.Id)),
            Typed.Id<TerminalAddress>(Terminal),
            Typed.Id<TerminalAddress>(On),
            Typed.Text(Name)
        );
}

/// <summary>A duty as typed.</summary>
public sealed class DutyForm : IDraftForm
{
    /// <summary>Id it has, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Part that does it.</summary>
    public string? Load { get; set; }

    /// <summary>Part through whose coil it is commanded.</summary>
    public string? Through { get; set; }

    /// <summary>Positions by control; nothing where it rests.</summary>
    public Dictionary<string, string?> Setting { get; set; } = new(StringComparer.Ordinal);

    internal static DutyForm Of(Duty? duty) =>
        duty is null
            ? new DutyForm()
            : new DutyForm
            {
                Old = duty.Id.Text,
                Name = duty.Name,
                Load = duty.Load.Text,
                Through = duty.Control?.Text,
                Setting = duty.Setting.ToDictionary(
                    s => s.Key.Text,
                    s => (string?)s.Value.Text,
                    StringComparer.Ordinal
                ),
            };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        FrameChange.Put(machine, Read(machine), Typed.IdOrNull<DutyId>(Old));

    private Duty Read(Machine machine) =>
        new(
            Typed.IdFor(Old, Name, machine.Duties.Select(d => d.Id)),
            Typed.Text(Name),
            Setting
                .Where(s => !string.IsNullOrEmpty(s.Value))
                .ToDictionary(s => new ControlId(s.Key), s => new PositionId(s.Value!)),
            Typed.Id<PartId>(Load),
            Typed.IdOrNull<PartId>(Through)
        );
}
