using System.Text.Json.Serialization;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

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
    DutyId Id,
    string Name,
    IReadOnlyDictionary<ControlId, PositionId> Setting,
    PartId Load,
    PartId? Control = null
)
{
    /// <summary>Speed at which it is done; not in the file, since the machine tells it.</summary>
    [JsonIgnore]
    public DutySpeed Speed { get; init; }

    /// <summary>
    /// How the controls stood just before, where it is done only after a move: what a timer does at key-off. Null where the
    /// setting alone tells.
    /// </summary>
    [JsonIgnore]
    public IReadOnlyDictionary<ControlId, PositionId>? From { get; init; }

    /// <summary>What was read besides what its tests ask for, to be predicted too.</summary>
    [JsonIgnore]
    public IReadOnlyList<BroughtReading> Brought { get; init; } = [];

    /// <summary>Whether it is a warning that must be silent there: what it tells may be true.</summary>
    [JsonIgnore]
    public bool Warns { get; init; }

    /// <summary>
    /// Duties that its complaint says were done: a fuse that blows at LIGHTS and not before held at ON; an engine that misses at
    /// speed had started.
    /// </summary>
    [JsonIgnore]
    public IReadOnlyList<DutyId> OnTheWay { get; init; } = [];

    /// <summary>How its failing is said: "Does not crank"; null for the file's own, which are said by their names.</summary>
    [JsonIgnore]
    public string? Complaint { get; init; }

    /// <summary>
    /// Whether it runs already and must go on: an engine goes out there or it does not. A weak spark is no answer, it would be weak
    /// elsewhere too.
    /// </summary>
    [JsonIgnore]
    public bool GoesOn { get; init; }

    /// <summary>Whether the part must let go to do it: a stop solenoid that is fed to stop pulls in where the engine should run.</summary>
    [JsonIgnore]
    public bool LetsGo { get; init; }

    /// <summary>Whether the part must not do it there: a kill, an interlock, a battery that must not drain.</summary>
    [JsonIgnore]
    public bool Refuses { get; init; }
}
