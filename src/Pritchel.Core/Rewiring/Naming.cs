using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>Names of both sides in one machine: the host keeps its own, what comes in and would clash is marked.</summary>
internal sealed class Naming
{
    private const string Mark = "in-";

    private readonly HashSet<string> host = [];
    private readonly HashSet<string> taken = [];
    private readonly Dictionary<string, string> renamed = new(StringComparer.Ordinal);

    public Naming(RewirePlan plan)
    {
        host.UnionWith(TextsOf(plan.Host.Machine));
        taken.UnionWith(host);
        foreach (var text in plan.Donor is null ? [] : TextsOf(plan.Donor.Machine).Distinct(StringComparer.Ordinal))
        {
            var name = text;
            while (!taken.Add(name))
            {
                name = Mark + name;
            }

            renamed[text] = name;
        }
    }

    /// <summary>A name that nothing has; taken from now on.</summary>
    public string Free(string wanted)
    {
        while (!taken.Add(wanted))
        {
            wanted += "'";
        }

        return wanted;
    }

    public PartId Part(SideKey side, PartId id) => new(Name(side, id.Text));

    public WireId Wire(SideKey side, WireId id) => new(Name(side, id.Text));

    public MountId Mount(SideKey side, MountId id) => new(Name(side, id.Text));

    public PlaceId Place(SideKey side, PlaceId id) => new(Name(side, id.Text));

    public ControlId Control(SideKey side, ControlId id) => new(Name(side, id.Text));

    public EngineId Engine(SideKey side, EngineId id) => new(Name(side, id.Text));

    public TerminalAddress At(SideKey side, TerminalAddress at) => Part(side, at.Part).At(at.Terminal);

    public Part Of(RewireSide side, Part part)
    {
        var turned = DeviceKinds.Named(part.Kind)?.NeedsEngine == true || part.Engine is not null;
        var engine = part.Engine ?? (turned ? side.Machine.Engines?.FirstOrDefault()?.Id : null);
        return part with
        {
            Id = Part(side.Key, part.Id),
            Place = Place(side.Key, part.Place),
            Engine = engine is { } by ? Engine(side.Key, by) : null,
            Contacts = part.Contacts is null
                ? null
                : [.. part.Contacts.Select(c => c with { Control = Control(side.Key, c.Control) })],
        };
    }

    public Duty Of(RewireSide side, Duty duty) =>
        duty with
        {
            Id = new DutyId(Name(side.Key, duty.Id.Text)),
            Load = Part(side.Key, duty.Load),
            Control = duty.Control is { } by ? Part(side.Key, by) : null,
            Setting = duty.Setting.ToDictionary(s => Control(side.Key, s.Key), s => s.Value),
        };

    private string Name(SideKey side, string text) =>
        side == SideKey.Donor && renamed.TryGetValue(text, out var name) ? name : text;

    private static IEnumerable<string> TextsOf(Machine machine) =>
        machine
            .Parts.Select(p => p.Id.Text)
            .Concat(machine.Wires.Select(w => w.Id.Text))
            .Concat(machine.Mounts.Select(m => m.Id.Text))
            .Concat(machine.Places.Select(p => p.Id.Text))
            .Concat(machine.Controls.Select(c => c.Id.Text))
            .Concat((machine.Engines ?? []).Select(e => e.Id.Text))
            .Concat(machine.Duties.Select(d => d.Id.Text));
}
