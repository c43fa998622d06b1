using System.Text.Json.Serialization;

namespace Pritchel.Data.Events;

// The record's own format of events, version 2. It is apart from the program's types, so that these may change: values of
// enumerations are kept by the names in Names, things of a machine by what they are, figures with their unit. A field once
// used keeps its name and meaning; what is added is optional, what must change is a new version with a reader for this one.

/// <summary>An event as kept.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(StoredComplaint), "complaint")]
[JsonDerivedType(typeof(StoredReading), "reading")]
[JsonDerivedType(typeof(StoredPassedOver), "passed-over")]
[JsonDerivedType(typeof(StoredLook), "look")]
[JsonDerivedType(typeof(StoredWiggle), "wiggled")]
[JsonDerivedType(typeof(StoredPartTested), "part-tested")]
[JsonDerivedType(typeof(StoredHelp), "help")]
[JsonDerivedType(typeof(StoredUndo), "undo")]
[JsonDerivedType(typeof(StoredVerdict), "verdict")]
[JsonDerivedType(typeof(StoredMeasureOn), "measure-on")]
[JsonDerivedType(typeof(StoredPrices), "prices")]
[JsonDerivedType(typeof(StoredLeadPut), "lead-put")]
[JsonDerivedType(typeof(StoredLeadOff), "lead-off")]
[JsonDerivedType(typeof(StoredRepairDone), "repair")]
[JsonDerivedType(typeof(StoredProof), "proof")]
[JsonDerivedType(typeof(StoredBypassRemoved), "bypass-removed")]
[JsonDerivedType(typeof(StoredClosed), "closed")]
internal abstract record StoredEvent
{
    /// <summary>Version of the format.</summary>
    public int V { get; init; } = EventFormat.Version;
}

internal sealed record StoredComplaint(
    string Duty,
    string Heard,
    IReadOnlyList<StoredLamp> Lamps,
    int Failed,
    int Tried,
    IReadOnlyList<StoredAlteration> Altered,
    SortedDictionary<string, string>? Setting,
    string? Speed,
    IReadOnlyList<StoredAlso> Also,
    IReadOnlyList<string>? Codes,
    StoredCircumstances Circumstances,
    string Words,
    IReadOnlyList<string>? WorseWhen = null,
    IReadOnlyList<StoredCure>? Cures = null,
    IReadOnlyList<StoredBattery>? Batteries = null,
    bool? JumpStarted = null
) : StoredEvent;

internal sealed record StoredReading(
    StoredProbes At,
    string Typed,
    StoredFigure? Figure,
    string Symptom,
    bool? Besides = null
) : StoredEvent;

internal sealed record StoredPassedOver(StoredProbes At, string? Place, string Why) : StoredEvent;

internal sealed record StoredLook(StoredRepair Repair, string Found) : StoredEvent;

internal sealed record StoredWiggle(string Place, StoredRepair? Repair, string By, bool Changed, StoredProbes? Watched)
    : StoredEvent;

internal sealed record StoredPartTested(
    string Part,
    bool Good,
    string Words,
    string Sheet,
    IReadOnlyList<StoredFault> Unseen
) : StoredEvent;

/// <summary>A fault of a part: the element that it sits in, empty for the part itself, and its role.</summary>
internal sealed record StoredFault(string Element, string Role);

internal sealed record StoredHelp(bool Alone) : StoredEvent;

internal sealed record StoredUndo(int Sequence) : StoredEvent;

internal sealed record StoredVerdict(string On, StoredRepair? Repair, string Words, double Share) : StoredEvent;

internal sealed record StoredMeasureOn : StoredEvent;

internal sealed record StoredPrices(
    IReadOnlyList<StoredPrice> Prices,
    double Hour,
    double Trip,
    double Days,
    double Day,
    double? WorthMended,
    double? WorthInParts
) : StoredEvent;

internal sealed record StoredLeadPut(StoredPoint From, StoredPoint To, bool Worked) : StoredEvent;

internal sealed record StoredLeadOff(bool FailsAgain) : StoredEvent;

internal sealed record StoredRepairDone(string Done, string Parts, double Minutes) : StoredEvent;

internal sealed record StoredProof(StoredCheck Check, bool Passed, string? Typed, StoredProbes? At, bool? Better = null)
    : StoredEvent;

internal sealed record StoredBypassRemoved(StoredBypass Bypass) : StoredEvent;

internal sealed record StoredClosed(bool Proved, string Note) : StoredEvent;

internal sealed record StoredLamp(string Lamp, SortedDictionary<string, string> Setting, string Speed, string Look);

/// <summary>How a battery stands: its charge as a share, its temperature in °C; what nobody said is left out.</summary>
internal sealed record StoredBattery(string Battery, string? Type, double? Charge, double? Celsius);

internal sealed record StoredCure(StoredRepair Repair, string Effect);

internal sealed record StoredAlso(string Duty, bool Works);

internal sealed record StoredCircumstances(
    double Years,
    bool Salt,
    bool Damp,
    bool Vibration,
    bool Rodents,
    bool RecentWork,
    bool? Stored = null,
    bool? NewWiring = null
);

/// <summary>A part's terminal, or a wire's end.</summary>
internal sealed record StoredPoint(string? Part, string? Terminal, string? Wire, string? End);

/// <summary>A coupling apart, or a wire's end off.</summary>
internal sealed record StoredOff(string? Coupling, string? Wire, string? End);

internal sealed record StoredRepair(string Target, string Name);

internal sealed record StoredAlteration(string By, string? Part, string? Contact, string? Wire);

/// <summary>A found alteration, or a clip lead between two points.</summary>
internal sealed record StoredBypass(StoredAlteration? Found, StoredPoint? From, StoredPoint? To);

internal sealed record StoredJoined(StoredPoint From, StoredPoint To, string By);

internal sealed record StoredCondition(
    string Reads,
    SortedDictionary<string, string> Setting,
    string Speed,
    IReadOnlyList<StoredOff> Off,
    StoredJoined? Joined,
    string Tester
);

internal sealed record StoredProbes(StoredCondition Condition, StoredPoint Red, StoredPoint Black);

/// <summary>A figure with its unit; an open circuit has no figure.</summary>
internal sealed record StoredFigure(double? Value, string Unit, bool OpenCircuit);

internal sealed record StoredPrice(StoredRepair Repair, double Price);

/// <summary>A check of a proof by what it is.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "check")]
[JsonDerivedType(typeof(StoredReadingCheck), "reading")]
[JsonDerivedType(typeof(StoredWiggleCheck), "wiggle")]
[JsonDerivedType(typeof(StoredRepeatsCheck), "repeats")]
[JsonDerivedType(typeof(StoredRefusalCheck), "refusal")]
[JsonDerivedType(typeof(StoredStopCheck), "stop")]
internal abstract record StoredCheck;

internal sealed record StoredReadingCheck(StoredProbes At) : StoredCheck;

internal sealed record StoredWiggleCheck(string Place, StoredRepair? Repair, string By) : StoredCheck;

internal sealed record StoredRepeatsCheck : StoredCheck;

internal sealed record StoredRefusalCheck(SortedDictionary<string, string> Setting, string Speed) : StoredCheck;

internal sealed record StoredStopCheck(SortedDictionary<string, string> Setting) : StoredCheck;
