using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>Which form is for which thing of a machine that is being drawn.</summary>
internal static class DraftForms
{
    /// <summary>The form about a thing as it is; null for none.</summary>
    /// <param name="machine">The machine as it is now.</param>
    /// <param name="on">Kind of thing.</param>
    /// <param name="item">Which; nothing for a new one.</param>
    /// <param name="kind">Kind of a new part, or null.</param>
    public static IDraftForm? For(Machine machine, string? on, string? item, string? kind) =>
        on switch
        {
            "machine" => MachineForm.Of(machine),
            "wire" => WireForm.Of(machine, machine.Index.Wire(Typed.Id<WireId>(item))),
            "part" => PartForm.Of(machine.Index.Part(Typed.Id<PartId>(item)), kind),
            "place" => PlaceForm.Of(machine.Index.Place(Typed.Id<PlaceId>(item))),
            "control" => ControlForm.Of(machine.Index.Control(Typed.Id<ControlId>(item))),
            "engine" => EngineForm.Of(machine.Index.Engine(Typed.Id<EngineId>(item))),
            "mount" => MountForm.Of(machine.Index.Mount(Typed.Id<MountId>(item))),
            "duty" => DutyForm.Of(machine.Index.Duty(Typed.Id<DutyId>(item))),
            "coupling" => new CouplingForm { SideA = "one side", SideB = "other side" },
            "interlock" => new InterlockForm { Wire = item },
            _ => null,
        };

    /// <summary>A form to be filled with what was typed; null where it is about nothing.</summary>
    public static IDraftForm? Blank(string? on) =>
        on switch
        {
            "machine" => new MachineForm(),
            "wire" => new WireForm(),
            "part" => new PartForm(),
            "place" => new PlaceForm(),
            "control" => new ControlForm(),
            "engine" => new EngineForm(),
            "mount" => new MountForm(),
            "duty" => new DutyForm(),
            "coupling" => new CouplingForm(),
            "interlock" => new InterlockForm(),
            _ => null,
        };

    /// <summary>The machine without a thing.</summary>
    /// <exception cref="ChangeRefusedException">It cannot be taken out.</exception>
    public static MachineChange TakenOut(Machine machine, string on, string item) =>
        on switch
        {
            "wire" => WireChange.TakeOut(machine, new WireId(item)),
            "part" => PartChange.TakeOut(machine, new PartId(item)),
            "place" => FrameChange.TakeOutPlace(machine, new PlaceId(item)),
            "control" => FrameChange.TakeOutControl(machine, new ControlId(item)),
            "engine" => FrameChange.TakeOutEngine(machine, new EngineId(item)),
            "mount" => FrameChange.TakeOutMount(machine, new MountId(item)),
            "duty" => FrameChange.TakeOutDuty(machine, new DutyId(item)),
            _ => throw new ChangeRefusedException("", "That cannot be taken out."),
        };

    /// <summary>Whether the form goes on showing the item after a change.</summary>
    public static bool Remains(Machine machine, string on, string? item) =>
        on == "machine" || DraftProblem.IdsOf(machine, on).Contains(item, StringComparer.Ordinal);
}
