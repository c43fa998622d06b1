using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

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

/// <summary>How a lamp looked in one setting.</summary>
/// <param name="Lamp">Part id.</param>
/// <param name="Condition">Index of the condition, see <see cref="Conditions"/>.</param>
/// <param name="Look">How it looked.</param>
public sealed record LampSeen(string Lamp, int Condition, LampLook Look);

/// <summary>What was found of another duty of the same machine.</summary>
/// <param name="Duty">The other duty.</param>
/// <param name="Works">Whether that is done as it should be.</param>
public sealed record AlsoTold(string Duty, bool Works);

/// <summary>What the owner says is wrong.</summary>
public sealed record Complaint
{
    /// <summary>Duty of the machine that fails.</summary>
    public required string Duty { get; init; }

    /// <summary>What is heard when it is tried.</summary>
    public Heard Heard { get; init; }

    /// <summary>Lamps looked at.</summary>
    public IReadOnlyList<LampSeen> Lamps { get; init; } = [];

    /// <summary>How many of the tries failed.</summary>
    public int Failed { get; init; } = 1;

    /// <summary>How many times it was tried.</summary>
    public int Tried { get; init; } = 1;

    /// <summary>What someone bridged, left apart or took off before, by <see cref="Alteration.Id"/>; solved as found.</summary>
    public IReadOnlyList<string> Bridged { get; init; } = [];

    /// <summary>Positions the controls stood in when it happened, by id; null for the duty's own.</summary>
    public IReadOnlyDictionary<string, string>? Setting { get; init; }

    /// <summary>How fast the engine turned when it happened; null for the duty's own speed.</summary>
    public DutySpeed? Speed { get; init; }

    /// <summary>What else was tried, and how that went.</summary>
    public IReadOnlyList<AlsoTold> Also { get; init; } = [];

    /// <summary>Codes stored or blinked; none of them when it was read and showed none, null when nobody read it.</summary>
    public IReadOnlyList<string>? Codes { get; init; }

    /// <summary>The machine's life so far.</summary>
    public Circumstances Circumstances { get; init; } = Circumstances.Usual;

    /// <summary>In the owner's words.</summary>
    public string Words { get; init; } = "";
}

/// <summary>Whether the symptom was there while a reading was taken.</summary>
public enum SymptomNow
{
    /// <summary>It was, or the setting cannot show it.</summary>
    Present,

    /// <summary>It was not: the machine worked just then.</summary>
    Absent,

    /// <summary>Nobody tried.</summary>
    NotWatched,
}

/// <summary>A place for the two probes in one condition.</summary>
/// <param name="Condition">Index of the condition.</param>
/// <param name="Red">Node under the red probe.</param>
/// <param name="Black">Node under the black probe.</param>
public readonly record struct ProbePair(int Condition, int Red, int Black);

/// <summary>Evidence gathered after the complaint.</summary>
/// <param name="At">Where the probes were.</param>
/// <param name="Volts">What was read, on <see cref="Scale"/>; null when the figure jumped about.</param>
/// <param name="Symptom">Whether the symptom was there.</param>
public sealed record Reading(ProbePair At, double? Volts, SymptomNow Symptom);
