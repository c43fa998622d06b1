using System.Text.Json.Serialization;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>
/// One machine as its file describes it: parts, wires, joints, controls and how to reach them.
/// Immutable; the machine file is how it is kept.
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
    public required MachineId Id { get; init; }

    /// <summary>Machine that its file was written as a difference from; or null. Nothing is looked up there any more.</summary>
    public MachineId? VariantOf { get; init; }

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

    /// <summary>What stops its engine when all is well, in a sentence; or null.</summary>
    public string? StoppedBy { get; init; }

    /// <summary>What a machine of its kind has and this drawing leaves out; or null.</summary>
    public string? NotDrawn { get; init; }

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

    /// <summary>Its things by what they are known by.</summary>
    [JsonIgnore]
    public MachineIndex Index => MachineIndex.Of(this);
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
