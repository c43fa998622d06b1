using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>What was heard when the machine was asked to do its duty.</summary>
public enum Heard
{
    /// <summary>Not said.</summary>
    NotSaid,

    /// <summary>Nothing at all.</summary>
    Nothing,

    /// <summary>One click, then nothing.</summary>
    OneClick,

    /// <summary>Rapid clicking.</summary>
    Chatter,

    /// <summary>Turns, but slowly.</summary>
    Slow,

    /// <summary>Does what it should.</summary>
    Works,

    /// <summary>The engine turns over and will not start; nobody has looked at this circuit by itself yet.</summary>
    WillNotStart,

    /// <summary>More than it should: the battery is overcharged.</summary>
    TooMuch,
}

/// <summary>How a lamp looked.</summary>
public enum LampLook
{
    /// <summary>Nobody looked.</summary>
    NotSeen,

    /// <summary>As bright as ever.</summary>
    Bright,

    /// <summary>Dim.</summary>
    Dim,

    /// <summary>Dark.</summary>
    Out,
}

/// <summary>When it fails sooner or oftener, as its owner tells it.</summary>
public enum WorseWhen
{
    /// <summary>Hot: after it has run, in the sun.</summary>
    Hot,

    /// <summary>Wet: in rain, after washing, over water.</summary>
    Wet,

    /// <summary>Shaken: over bumps, as it is steered, leant or moved.</summary>
    Shaken,
}

/// <summary>How a lamp looked in one setting.</summary>
/// <param name="Lamp">The lamp.</param>
/// <param name="Setting">Position of every control when it was looked at.</param>
/// <param name="Speed">How fast the engine turned then.</param>
/// <param name="Look">How it looked.</param>
public sealed record LampSeen(PartId Lamp, NamedSetting Setting, DutySpeed Speed, LampLook Look);

/// <summary>What was found of another duty of the same machine.</summary>
/// <param name="Duty">The other duty.</param>
/// <param name="Works">Whether that is done as it should be.</param>
public sealed record AlsoTold(DutyId Duty, bool Works);

/// <summary>What renewing or mending something did for a complaint.</summary>
public enum CureEffect
{
    /// <summary>Nothing: it fails as before.</summary>
    None,

    /// <summary>It fails less, or less often.</summary>
    Partly,

    /// <summary>It was cured, and came back.</summary>
    ForAWhile,
}

/// <summary>A cure tried before the job began.</summary>
/// <param name="Repair">What was renewed or mended.</param>
/// <param name="Effect">What that did.</param>
public sealed record CureTried(RepairId Repair, CureEffect Effect);

/// <summary>What the owner says is wrong.</summary>
public sealed record Complaint
{
    /// <summary>Duty of the machine that fails.</summary>
    public required DutyId Duty { get; init; }

    /// <summary>What is heard when it is tried.</summary>
    public Heard Heard { get; init; }

    /// <summary>Lamps looked at.</summary>
    public IReadOnlyList<LampSeen> Lamps { get; init; } = [];

    /// <summary>How many of the tries failed.</summary>
    public int Failed { get; init; } = 1;

    /// <summary>How many times it was tried.</summary>
    public int Tried { get; init; } = 1;

    /// <summary>What someone bridged, left apart or took off before; solved as found.</summary>
    public IReadOnlyList<AlterationId> Bridged { get; init; } = [];

    /// <summary>Positions the controls stood in when it happened; null for the duty's own.</summary>
    public NamedSetting? Setting { get; init; }

    /// <summary>How fast the engine turned when it happened; null for the duty's own speed.</summary>
    public DutySpeed? Speed { get; init; }

    /// <summary>What else was tried, and how that went.</summary>
    public IReadOnlyList<AlsoTold> Also { get; init; } = [];

    /// <summary>Whether it did it on jump leads from a good battery; null when nobody tried.</summary>
    public bool? JumpStarted { get; init; }

    /// <summary>Codes stored or blinked; none of them when it was read and showed none, null when nobody read it.</summary>
    public IReadOnlyList<string>? Codes { get; init; }

    /// <summary>When it fails sooner or oftener; none when nobody said.</summary>
    public IReadOnlyList<WorseWhen> WorseWhen { get; init; } = [];

    /// <summary>What was renewed or mended before, and what that did.</summary>
    public IReadOnlyList<CureTried> Cures { get; init; } = [];

    /// <summary>How its batteries stand, those of which something was said.</summary>
    public IReadOnlyList<BatteryAsFound> Batteries { get; init; } = [];

    /// <summary>What was read besides what its tests ask for; gathered from the job's readings.</summary>
    public IReadOnlyList<BroughtReading> Brought { get; init; } = [];

    /// <summary>The machine's life so far.</summary>
    public Circumstances Circumstances { get; init; } = Circumstances.Usual;

    /// <summary>In the owner's words.</summary>
    public string Words { get; init; } = "";
}
