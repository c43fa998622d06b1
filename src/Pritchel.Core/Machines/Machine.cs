using System.Text.Json.Serialization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Machines;

/// <summary>
/// One machine as its file describes it: parts, wires, joints, controls and how to reach them.
/// Immutable; <see cref="MachineFile"/> reads and writes it, <see cref="MachineValidator"/> checks it.
/// </summary>
public sealed record Machine
{
    /// <summary>Version of the file format this program writes.</summary>
    public const int CurrentFormat = 1;

    /// <summary>Where the JSON Schema is, for editors; kept so that a round trip is exact.</summary>
    [JsonPropertyName("$schema")]
    public string? Schema { get; init; }

    /// <summary>File format version.</summary>
    public required int Format { get; init; }

    /// <summary>Short name used in addresses: small letters, digits and hyphens.</summary>
    public required string Id { get; init; }

    /// <summary>What the workshop calls it.</summary>
    public required string Name { get; init; }

    /// <summary>Family, such as "ride-on tractor".</summary>
    public required string Kind { get; init; }

    /// <summary>Which one it is: type, serial number, diagram; or null when it stands for its kind.</summary>
    public Identity? Identity { get; init; }

    /// <summary>What is in it, in a sentence.</summary>
    public required string Summary { get; init; }

    /// <summary>How the real machine may differ, and that the maker's diagram comes first.</summary>
    public required string MayDiffer { get; init; }

    /// <summary>How to stop the engine by hand when nothing electrical does.</summary>
    public required string StopByHand { get; init; }

    /// <summary>Whether petrol vapour may gather where its circuits are: then nothing is ever bridged for a test.</summary>
    public bool? PetrolVapour { get; init; }

    /// <summary>Cautions shown before any test that may turn this machine's engine.</summary>
    public required IReadOnlyList<string> TurningCautions { get; init; }

    /// <summary>Places on the machine, with what it takes to reach them.</summary>
    public required IReadOnlyList<Place> Places { get; init; }

    /// <summary>What the operator moves.</summary>
    public required IReadOnlyList<Control> Controls { get; init; }

    /// <summary>Electrical parts, couplings, splices and ground bodies.</summary>
    public required IReadOnlyList<Part> Parts { get; init; }

    /// <summary>Wires and cables.</summary>
    public required IReadOnlyList<Wire> Wires { get; init; }

    /// <summary>Parts grounded through their own bolted metal.</summary>
    public required IReadOnlyList<Mount> Mounts { get; init; }

    /// <summary>Engines, or null on a machine whose engine turns nothing electrical.</summary>
    public IReadOnlyList<Engine>? Engines { get; init; }

    /// <summary>What the machine should do, and the setting in which it should do it.</summary>
    public required IReadOnlyList<Duty> Duties { get; init; }
}

/// <summary>
/// Which machine, or which engine, this is. A repowered machine has two: its own and its engine's, each with a diagram.
/// </summary>
/// <param name="Type">Type or model as on its plate.</param>
/// <param name="Serial">Its own serial number.</param>
/// <param name="SerialFrom">First serial number that the diagram is for, as printed.</param>
/// <param name="SerialTo">Last serial number that the diagram is for, as printed.</param>
/// <param name="Diagram">Which diagram applies: sheet, edition, where it is kept.</param>
public sealed record Identity(
    string? Type = null,
    string? Serial = null,
    string? SerialFrom = null,
    string? SerialTo = null,
    string? Diagram = null
);

/// <summary>An engine, as far as it turns electrical parts.</summary>
/// <param name="Id">Short name.</param>
/// <param name="Name">In words: "port engine".</param>
/// <param name="CrankRpm">Revolutions a minute while a sound starter cranks it.</param>
/// <param name="IdleRpm">At idle.</param>
/// <param name="WorkRpm">At work.</param>
/// <param name="PolePairs">Pole pairs of its flywheel's charge windings, or of its generator.</param>
/// <param name="Identity">Its own plate and diagram, apart from the machine's.</param>
public sealed record Engine(
    string Id,
    string Name,
    double CrankRpm,
    double IdleRpm,
    double WorkRpm,
    int PolePairs,
    Identity? Identity = null
);

/// <summary>A place on the machine and what it costs to get there.</summary>
/// <param name="Id">Short name, referred to by parts and wire ends.</param>
/// <param name="Name">In words: "left fender, behind the battery".</param>
/// <param name="Zone">Part of the machine, for grouping.</param>
/// <param name="Minutes">Minutes to reach it the first time.</param>
/// <param name="EngineMayTurn">Whether the engine may turn while someone tests here.</param>
/// <param name="Opens">What must come off, or null when nothing.</param>
public sealed record Place(
    string Id,
    string Name,
    string Zone,
    double Minutes,
    bool EngineMayTurn,
    string? Opens = null
);

/// <summary>Something the operator moves: key, pedal, lever, seat.</summary>
/// <param name="Id">Short name.</param>
/// <param name="Name">In words.</param>
/// <param name="Positions">Positions by name, at least two.</param>
/// <param name="Rest">Position it is left in; one of <paramref name="Positions"/>.</param>
/// <param name="Held">Positions that spring back and must be held by hand or weight.</param>
/// <param name="Says">How a position is worded on a job: "brake down", by position name; missing means "control POSITION".</param>
public sealed record Control(
    string Id,
    string Name,
    IReadOnlyList<string> Positions,
    string Rest,
    IReadOnlyList<string> Held,
    IReadOnlyDictionary<string, string>? Says = null
);

/// <summary>An electrical part, coupling, splice or ground body.</summary>
public sealed record Part
{
    /// <summary>Short name, the first half of a terminal's address "part.terminal".</summary>
    public required string Id { get; init; }

    /// <summary>In words.</summary>
    public required string Name { get; init; }

    /// <summary>Device kind; <see cref="Simulation.DeviceKinds"/> lists them.</summary>
    public required string Kind { get; init; }

    /// <summary>Where it sits.</summary>
    public required string Place { get; init; }

    /// <summary>Terminals by the letters on the part. A coupling has "1a", "1b" for each cavity's two sides.</summary>
    public required IReadOnlyList<string> Terminals { get; init; }

    /// <summary>Figures by name, in the unit the name ends with; missing ones take the kind's own.</summary>
    public IReadOnlyDictionary<string, double>? Values { get; init; }

    /// <summary>Contacts of a switch, closed by control positions.</summary>
    public IReadOnlyList<Contact>? Contacts { get; init; }

    /// <summary>Names of a coupling's two sides, a then b.</summary>
    public IReadOnlyList<string>? Sides { get; init; }

    /// <summary>Whether a replacement can be bought.</summary>
    public bool? CanBeBought { get; init; }

    /// <summary>Engine that turns it, by id; the machine's first when null.</summary>
    public string? Engine { get; init; }

    /// <summary>Remark for whoever stands in front of it.</summary>
    public string? Remark { get; init; }

    /// <summary>Where the diagram's legend puts it: sheet, number, grid square.</summary>
    public string? Legend { get; init; }

    /// <summary>Where the diagram draws it, when that is not where the metal is: <see cref="Place"/> is the metal's.</summary>
    public string? DrawnAt { get; init; }
}

/// <summary>One pair of terminals joined in certain positions of one control.</summary>
/// <param name="Id">Short name, such as "B-S".</param>
/// <param name="Between">Two terminals of the part.</param>
/// <param name="Control">Control that works it.</param>
/// <param name="ClosedIn">Positions of that control in which it is closed.</param>
public sealed record Contact(string Id, IReadOnlyList<string> Between, string Control, IReadOnlyList<string> ClosedIn);

/// <summary>A wire or cable.</summary>
public sealed record Wire
{
    /// <summary>Short name, as on the wire list.</summary>
    public required string Id { get; init; }

    /// <summary>First end.</summary>
    public required WireEnd From { get; init; }

    /// <summary>Second end.</summary>
    public required WireEnd To { get; init; }

    /// <summary>Conductor, such as "2.5 mm2" or "14 AWG".</summary>
    public required string Gauge { get; init; }

    /// <summary>Length in metres, one way.</summary>
    public required double LengthM { get; init; }

    /// <summary>Base colour, then tracer if any.</summary>
    public required IReadOnlyList<string> Colours { get; init; }

    /// <summary>Part of the machine it runs through.</summary>
    public required string Zone { get; init; }

    /// <summary>A starting or ground cable, rather than loom wire.</summary>
    public bool? Cable { get; init; }

    /// <summary>Body it touches when its insulation is gone, a part's id; the machine's first body when null.</summary>
    public string? ChafesOn { get; init; }
}

/// <summary>One end of a wire.</summary>
/// <param name="At">Terminal it is joined to, "part.terminal".</param>
/// <param name="Joint">How: push-on, ring, cavity, splice, screw.</param>
/// <param name="RepairAlone">Whether cleaning this joint is a repair of its own, rather than part of renewing the wire with its ends.</param>
public sealed record WireEnd(string At, string Joint, bool? RepairAlone = null);

/// <summary>Metal of a part bolted to a ground body.</summary>
/// <param name="Id">Short name.</param>
/// <param name="Terminal">The part's own metal, "part.terminal".</param>
/// <param name="On">The body's terminal, "body.bolt".</param>
/// <param name="Name">In words: "solenoid foot on the fender".</param>
public sealed record Mount(string Id, string Terminal, string On, string Name);

/// <summary>Speed at which a duty is done, as an engine gives it.</summary>
public enum DutySpeed
{
    /// <summary>Engine standing, or turned by its own starter.</summary>
    Rest,

    /// <summary>Pulled or cranked.</summary>
    Crank,

    /// <summary>Idle.</summary>
    Idle,

    /// <summary>Work.</summary>
    Work,
}

/// <summary>Something the machine should do, in the setting in which it should.</summary>
/// <param name="Id">Short name: "cranks".</param>
/// <param name="Name">In words.</param>
/// <param name="Setting">Position of each control that matters; the rest are at rest.</param>
/// <param name="Load">Part that does it.</param>
/// <param name="Control">Part through whose coil it is commanded, or null.</param>
public sealed record Duty(
    string Id,
    string Name,
    IReadOnlyDictionary<string, string> Setting,
    string Load,
    string? Control = null
)
{
    /// <summary>Speed at which it is done; not in the file, since the machine tells it.</summary>
    [JsonIgnore]
    public DutySpeed Speed { get; init; }

    /// <summary>How its failing is said: "Does not crank"; null for the file's own, which are said by their names.</summary>
    [JsonIgnore]
    public string? Complaint { get; init; }

    /// <summary>Whether the part must not do it there: a kill, an interlock, a battery that must not drain.</summary>
    [JsonIgnore]
    public bool Refuses { get; init; }
}
