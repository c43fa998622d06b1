using System.Text.Json.Serialization;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>An electrical part, coupling, splice or ground body.</summary>
public sealed record Part
{
    /// <summary>Short name, the first half of a terminal's address "part.terminal".</summary>
    public required PartId Id { get; init; }

    /// <summary>In words.</summary>
    public required string Name { get; init; }

    /// <summary>Device kind, as the file names it.</summary>
    public required string Kind { get; init; }

    /// <summary>Where it sits.</summary>
    public required PlaceId Place { get; init; }

    /// <summary>Terminals by the letters on the part. A coupling has "1a", "1b" for each cavity's two sides.</summary>
    public required IReadOnlyList<TerminalId> Terminals { get; init; }

    /// <summary>Figures by name, in the unit the name ends with; missing ones take the kind's own.</summary>
    public IReadOnlyDictionary<string, double>? Values { get; init; }

    /// <summary>Contacts of a switch, closed by control positions.</summary>
    public IReadOnlyList<Contact>? Contacts { get; init; }

    /// <summary>Names of a coupling's two sides, a then b.</summary>
    public IReadOnlyList<string>? Sides { get; init; }

    /// <summary>Whether a replacement can be bought.</summary>
    public bool? CanBeBought { get; init; }

    /// <summary>Engine that turns it, by id; the machine's first when null.</summary>
    public EngineId? Engine { get; init; }

    /// <summary>Remark for whoever stands in front of it.</summary>
    public string? Remark { get; init; }

    /// <summary>Where the diagram's legend puts it: sheet, number, grid square.</summary>
    public string? Legend { get; init; }

    /// <summary>Where the diagram draws it, when that is not where the metal is: <see cref="Place"/> is the metal's.</summary>
    public string? DrawnAt { get; init; }

    /// <summary>
    /// Whether nobody has seen it: it stands in, with its kind's usual figures, for whatever a lead goes to. Null for a part that is
    /// drawn as it is.
    /// </summary>
    public bool? StandsIn { get; init; }

    /// <summary>A terminal of it, by the letters on the part.</summary>
    public TerminalAddress At(TerminalId terminal) => Id.At(terminal);

    /// <inheritdoc cref="At(TerminalId)"/>
    public TerminalAddress At(string terminal) => Id.At(terminal);

    /// <summary>Addresses of its terminals, in the order of the file.</summary>
    [JsonIgnore]
    public IEnumerable<TerminalAddress> Addresses => Terminals.Select(At);

    /// <summary>Something electrical within it; the whole when nothing is named.</summary>
    public Element Element(string name = "") => Owner.Of(Id).Element(name);

    /// <summary>A fault of it as a whole, or of what is named within it.</summary>
    public FaultId Fault(string role) => new(Element(), role);
}

/// <summary>One pair of terminals joined in certain positions of one control.</summary>
/// <param name="Id">Short name, such as "B-S".</param>
/// <param name="Between">Two terminals of the part.</param>
/// <param name="Control">Control that works it.</param>
/// <param name="ClosedIn">Positions of that control in which it is closed.</param>
public sealed record Contact(
    ContactId Id,
    IReadOnlyList<TerminalId> Between,
    ControlId Control,
    IReadOnlyList<PositionId> ClosedIn
);

/// <summary>Metal of a part bolted to a ground body.</summary>
/// <param name="Id">Short name.</param>
/// <param name="Terminal">The part's own metal, "part.terminal".</param>
/// <param name="On">The body's terminal, "body.bolt".</param>
/// <param name="Name">In words: "solenoid foot on the fender".</param>
public sealed record Mount(MountId Id, TerminalAddress Terminal, TerminalAddress On, string Name);
