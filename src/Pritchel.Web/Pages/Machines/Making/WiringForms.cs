using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>A wire as typed.</summary>
public sealed class WireForm : IDraftForm
{
    /// <summary>Number it had, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>Number on the wire list.</summary>
    public string? Number { get; set; }

    /// <summary>Terminal of the first end.</summary>
    public string? From { get; set; }

    /// <summary>Joint of the first end.</summary>
    public string? FromJoint { get; set; }

    /// <summary>Whether the first end's joint is a repair of its own.</summary>
    public bool FromAlone { get; set; }

    /// <summary>Terminal of the second end.</summary>
    public string? To { get; set; }

    /// <summary>Joint of the second end.</summary>
    public string? ToJoint { get; set; }

    /// <summary>Whether the second end's joint is a repair of its own.</summary>
    public bool ToAlone { get; set; }

    /// <summary>Conductor.</summary>
    public string? Gauge { get; set; }

    /// <summary>Length in metres.</summary>
    public string? Length { get; set; }

    /// <summary>Base colour.</summary>
    public string? Colour { get; set; }

    /// <summary>Tracer, or nothing.</summary>
    public string? Tracer { get; set; }

    /// <summary>Zone it runs through.</summary>
    public string? Zone { get; set; }

    /// <summary>Whether it is a cable.</summary>
    public bool Cable { get; set; }

    /// <summary>Chosen where a wire would chafe on nothing; no part's id.</summary>
    internal const string NoMetal = "-";

    /// <summary>Body it would touch.</summary>
    public string? ChafesOn { get; set; }

    internal static WireForm Of(Machine machine, Wire? wire) =>
        wire is null
            ? new WireForm
            {
                Number = NextNumber(machine),
                FromJoint = "push-on",
                ToJoint = "push-on",
                Gauge = "1.5 mm2",
                Length = "1",
                Zone = machine.Places.Count > 0 ? machine.Places[0].Zone : "",
            }
            : new WireForm
            {
                Old = wire.Id.Text,
                Number = wire.Id.Text,
                From = wire.From.At.Text,
                FromJoint = wire.From.Joint,
                FromAlone = wire.From.RepairAlone == true,
                To = wire.To.At.Text,
                ToJoint = wire.To.Joint,
                ToAlone = wire.To.RepairAlone == true,
                Gauge = wire.Gauge,
                Length = Typed.Write(wire.LengthM),
                Colour = wire.Colours[0],
                Tracer = wire.Colours.Count > 1 ? wire.Colours[1] : "",
                Zone = wire.Zone,
                Cable = wire.Cable == true,
                ChafesOn = wire.NoMetal == true ? NoMetal : wire.ChafesOn?.Text,
            };

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) => WireChange.Put(machine, Read(), Typed.IdOrNull<WireId>(Old));

    private Wire Read() =>
        new()
        {
            Id = Typed.Id<WireId>(Number),
            From = new WireEnd(Typed.Id<TerminalAddress>(From), Typed.Text(FromJoint), FromAlone ? true : null),
            To = new WireEnd(Typed.Id<TerminalAddress>(To), Typed.Text(ToJoint), ToAlone ? true : null),
            Gauge = Typed.Text(Gauge).Replace("mm²", "mm2", StringComparison.Ordinal),
            LengthM = Typed.Figure(Length, "lengthM"),
            Colours = string.IsNullOrEmpty(Tracer) ? [Typed.Text(Colour)] : [Typed.Text(Colour), Tracer],
            Zone = Typed.Text(Zone),
            Cable = Cable ? true : null,
            ChafesOn = ChafesOn == NoMetal ? null : Typed.IdOrNull<PartId>(ChafesOn),
            NoMetal = ChafesOn == NoMetal ? true : null,
        };

    private static string NextNumber(Machine machine)
    {
        var n = 1;
        while (machine.Index.Wire(new WireId(Typed.Write(n))) is not null)
        {
            n++;
        }

        return Typed.Write(n);
    }
}

/// <summary>A contact as typed.</summary>
public sealed class ContactForm
{
    /// <summary>One terminal.</summary>
    public string? A { get; set; }

    /// <summary>The other.</summary>
    public string? B { get; set; }

    /// <summary>Control that works it.</summary>
    public string? Control { get; set; }

    /// <summary>Positions in which it is closed, with commas.</summary>
    public string? ClosedIn { get; set; }
}

/// <summary>A part as typed.</summary>
public sealed class PartForm : IDraftForm
{
    /// <summary>Id it has, or null for a new one.</summary>
    public string? Old { get; set; }

    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Kind.</summary>
    public string? Kind { get; set; }

    /// <summary>Place it sits at.</summary>
    public string? Place { get; set; }

    /// <summary>Terminals, or a coupling's cavities, with commas.</summary>
    public string? Terminals { get; set; }

    /// <summary>Figures that differ from the kind's own.</summary>
    public Dictionary<string, string?> Values { get; set; } = new(StringComparer.Ordinal);

    /// <summary>Contacts of a switch.</summary>
    public List<ContactForm> Contacts { get; set; } = [];

    /// <summary>A coupling's first side.</summary>
    public string? SideA { get; set; }

    /// <summary>A coupling's second side.</summary>
    public string? SideB { get; set; }

    /// <summary>"yes", "no" or nothing.</summary>
    public string? Bought { get; set; }

    /// <summary>Engine that turns it.</summary>
    public string? Engine { get; set; }

    /// <summary>Remark.</summary>
    public string? Remark { get; set; }

    /// <summary>Where the legend puts it.</summary>
    public string? Legend { get; set; }

    /// <summary>Where the diagram draws it.</summary>
    public string? DrawnAt { get; set; }

    internal static PartForm Of(Part? part, string? kind)
    {
        if (part is null)
        {
            return new PartForm
            {
                Kind = kind,
                Terminals = kind is null ? "" : string.Join(", ", DeviceKinds.Named(kind)?.Terminals ?? []),
                Contacts = [new ContactForm()],
            };
        }

        return new PartForm
        {
            Old = part.Id.Text,
            Name = part.Name,
            Kind = part.Kind,
            Place = part.Place.Text,
            Terminals = string.Join(
                ", ",
                part.Kind == PartKinds.Coupling
                    ? Cavity.Of(part).Select(c => c.Name)
                    : part.Terminals.Select(t => t.Text)
            ),
            Values = (part.Values ?? new Dictionary<string, double>(StringComparer.Ordinal)).ToDictionary(
                v => v.Key,
                v => (string?)Typed.Write(v.Value),
                StringComparer.Ordinal
            ),
            Contacts =
            [
                .. (part.Contacts ?? []).Select(c => new ContactForm
                {
                    A = c.Between[0].Text,
                    B = c.Between[1].Text,
                    Control = c.Control.Text,
                    ClosedIn = string.Join(", ", c.ClosedIn),
                }),
                new ContactForm(),
            ],
            SideA = part.Sides?[0],
            SideB = part.Sides?[1],
            Bought = part.CanBeBought switch
            {
                true => "yes",
                false => "no",
                null => "",
            },
            Engine = part.Engine?.Text,
            Remark = part.Remark,
            Legend = part.Legend,
            DrawnAt = part.DrawnAt,
        };
    }

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) => PartChange.Put(machine, Read(machine), Typed.IdOrNull<PartId>(Old));

    private Part Read(Machine machine)
    {
        var coupling = Kind == PartKinds.Coupling;
        var values = Values
            .Where(v => !string.IsNullOrWhiteSpace(v.Value))
            .ToDictionary(v => v.Key, v => Typed.Figure(v.Value, "values/" + v.Key), StringComparer.Ordinal);
        return new Part
        {
            Id = Typed.IdOrNull<PartId>(Old) ?? PartChange.IdFor(machine, Typed.Text(Name)),
            Name = Typed.Text(Name),
            Kind = Typed.Text(Kind),
            Place = Typed.Id<PlaceId>(Place),
            Terminals = coupling
                ? [.. Typed.List(Terminals).SelectMany(Cavity.Terminals)]
                : Typed.List<TerminalId>(Terminals),
            Values = values.Count == 0 ? null : values,
            Contacts = Kind == PartKinds.Switch ? ReadContacts() : null,
            Sides = coupling && Typed.OrNull(SideA) is { } a && Typed.OrNull(SideB) is { } b ? [a, b] : null,
            CanBeBought = Bought switch
            {
                "yes" => true,
                "no" => false,
                _ => null,
            },
            Engine = Typed.IdOrNull<EngineId>(Engine),
            Remark = Typed.OrNull(Remark),
            Legend = Typed.OrNull(Legend),
            DrawnAt = Typed.OrNull(DrawnAt),
        };
    }

    private List<Contact> ReadContacts()
    {
        var read = new List<Contact>();
        foreach (var contact in Contacts.Where(c => !string.IsNullOrWhiteSpace(c.A) || !string.IsNullOrWhiteSpace(c.B)))
        {
            var (a, b) = (Typed.Text(contact.A), Typed.Text(contact.B));
            var id = $"{a}-{b}";
            read.Add(
                new Contact(
                    new ContactId(read.Exists(c => c.Id.Text == id) ? $"{id}-{read.Count + 1}" : id),
                    [new TerminalId(a), new TerminalId(b)],
                    Typed.Id<ControlId>(contact.Control),
                    Typed.List<PositionId>(contact.ClosedIn)
                )
            );
        }

        return read;
    }
}

/// <summary>A coupling to be put into wires.</summary>
public sealed class CouplingForm : IDraftForm
{
    /// <summary>Name.</summary>
    public string? Name { get; set; }

    /// <summary>Place it sits at.</summary>
    public string? Place { get; set; }

    /// <summary>First side.</summary>
    public string? SideA { get; set; }

    /// <summary>Second side.</summary>
    public string? SideB { get; set; }

    /// <summary>Numbers of the wires, with commas, in the order of the cavities.</summary>
    public string? Wires { get; set; }

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        PartChange.PutInCoupling(
            machine,
            Typed.Text(Name),
            Typed.Id<PlaceId>(Place),
            [Typed.Text(SideA), Typed.Text(SideB)],
            Typed.List<WireId>(Wires)
        );
}

/// <summary>An interlock to be put into a wire.</summary>
public sealed class InterlockForm : IDraftForm
{
    /// <summary>Name of the switch.</summary>
    public string? Name { get; set; }

    /// <summary>Place it sits at.</summary>
    public string? Place { get; set; }

    /// <summary>Number of the wire.</summary>
    public string? Wire { get; set; }

    /// <summary>Control that works it; nothing for a new one.</summary>
    public string? Control { get; set; }

    /// <summary>Name of the new control.</summary>
    public string? NewName { get; set; }

    /// <summary>Positions of the new control, with commas; the first is where it rests.</summary>
    public string? NewPositions { get; set; }

    /// <summary>Positions in which it is closed, with commas.</summary>
    public string? ClosedIn { get; set; }

    /// <inheritdoc/>
    public MachineChange Change(Machine machine) =>
        PartChange.PutInSwitch(
            machine,
            Typed.Text(Name),
            Typed.Id<PlaceId>(Place),
            Typed.Id<WireId>(Wire),
            ControlOf(machine),
            Typed.List<PositionId>(ClosedIn)
        );

    private Control ControlOf(Machine machine)
    {
        if (machine.Index.Control(Typed.Id<ControlId>(Control)) is { } known)
        {
            return known;
        }

        var positions = Typed.List<PositionId>(NewPositions);
        if (positions.Count < 2 || string.IsNullOrWhiteSpace(NewName))
        {
            throw new ChangeRefusedException(
                "control",
                "Choose what works it, or name a new control with at least two positions: “up, down”."
            );
        }

        return new Control(
            Typed.IdFor(null, NewName, machine.Controls.Select(c => c.Id)),
            NewName.Trim(),
            positions,
            positions[0],
            []
        );
    }
}
