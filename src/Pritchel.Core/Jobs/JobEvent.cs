using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Proving;

namespace Pritchel.Core.Jobs;

/// <summary>
/// Something that happened on a job. Events are only ever added; what a job stands at is worked out from them, and
/// undoing is itself an event. How they are kept is the record's own matter.
/// </summary>
public abstract record JobEvent;

/// <summary>The complaint was written down or amended.</summary>
/// <param name="Complaint">As it now stands.</param>
public sealed record ComplaintMade(Complaint Complaint) : JobEvent;

/// <summary>Where probes were, told so that it outlives a change of numbering.</summary>
/// <param name="Condition">What was done for it and how things stood.</param>
/// <param name="Red">Under the red probe.</param>
/// <param name="Black">Under the black probe.</param>
public sealed record ProbedAt(ConditionKey Condition, PointId Red, PointId Black);

/// <summary>A reading was entered.</summary>
/// <param name="At">Where.</param>
/// <param name="Typed">As typed.</param>
/// <param name="Figure">As understood, in the unit of what was read; infinite for an open circuit, null when it jumped about.</param>
/// <param name="Symptom">Whether the symptom was there.</param>
/// <param name="Besides">Whether no test of the complaint asks for it: it is predicted for its own sake.</param>
public sealed record ReadingTaken(ProbedAt At, string Typed, double? Figure, SymptomNow Symptom, bool Besides = false)
    : JobEvent;

/// <summary>Why a test was passed over.</summary>
public enum PassedOver
{
    /// <summary>Cannot get there: nothing at that place is asked again.</summary>
    CannotReach,

    /// <summary>Not sure of the reading: this one test is not asked again.</summary>
    NotSure,
}

/// <summary>A test was passed over.</summary>
/// <param name="At">Which.</param>
/// <param name="Place">Place that cannot be reached, when that is why.</param>
/// <param name="Why">Why.</param>
public sealed record TestPassedOver(ProbedAt At, PlaceId? Place, PassedOver Why) : JobEvent;

/// <summary>A place was looked at and touched.</summary>
/// <param name="Repair">The repair whose place it is.</param>
/// <param name="Found">What was found.</param>
public sealed record LookedAt(RepairId Repair, LookFound Found) : JobEvent;

/// <summary>A place was moved, warmed or wetted while something was watched.</summary>
/// <param name="Place">The place.</param>
/// <param name="Repair">The one repair there that was stirred; null for everything at the place.</param>
/// <param name="By">How.</param>
/// <param name="Changed">Whether what was watched changed with it.</param>
/// <param name="Watched">Reading that was watched; null for the duty itself.</param>
public sealed record Wiggled(PlaceId Place, RepairId? Repair, WiggledBy By, bool Changed, ProbedAt? Watched) : JobEvent;

/// <summary>A part was tested by itself, on a sheet of its own.</summary>
/// <param name="Part">The part.</param>
/// <param name="Good">Whether its sheet found it good; false where it found it bad.</param>
/// <param name="Words">The sheet's verdict, in words.</param>
/// <param name="Sheet">Tag of the part test.</param>
/// <param name="Unseen">The part's faults that its sheet does not speak of: those it cannot show, and of a bad part those it does not convict.</param>
public sealed record PartTested(PartId Part, bool Good, string Words, string Sheet, IReadOnlyList<FaultId> Unseen)
    : JobEvent;

/// <summary>A helper came or went.</summary>
/// <param name="Alone">Whether the person now works alone.</param>
public sealed record HelpChanged(bool Alone) : JobEvent;

/// <summary>An earlier event was taken back.</summary>
/// <param name="Sequence">Which.</param>
public sealed record Undone(int Sequence) : JobEvent;

/// <summary>A verdict was accepted.</summary>
/// <param name="On">What was decided on.</param>
/// <param name="Words">In words, as shown then.</param>
/// <param name="Share">Share it stood at.</param>
public sealed record VerdictTaken(SuspectId On, string Words, double Share) : JobEvent;

/// <summary>The verdict was set aside and measuring goes on.</summary>
public sealed record MeasuredOn : JobEvent;

/// <summary>Parts, waiting and the machine were priced.</summary>
/// <param name="Prices">Price of a repair's part, by the repair.</param>
/// <param name="Terms">What work and waiting cost.</param>
/// <param name="WorthMended">What the machine is worth when mended; null when not said.</param>
/// <param name="WorthInParts">What it is worth as it stands, for its parts; null when not said.</param>
public sealed record PartsPriced(
    IReadOnlyDictionary<RepairId, Money> Prices,
    OrderTerms Terms,
    Money? WorthMended,
    Money? WorthInParts
) : JobEvent;

/// <summary>A clip lead was put over the place that the verdict names, and the duty tried.</summary>
/// <param name="From">Its first end.</param>
/// <param name="To">Its other end.</param>
/// <param name="Worked">Whether the duty was done.</param>
public sealed record LeadPut(PointId From, PointId To, bool Worked) : JobEvent
{
    /// <summary>Its entry in the register of bypasses.</summary>
    public BypassId Bypass => BypassId.Lead(From, To);
}

/// <summary>That clip lead was taken off again, and the duty tried.</summary>
/// <param name="FailsAgain">Whether the duty failed as before.</param>
public sealed record LeadOff(bool FailsAgain) : JobEvent;

/// <summary>A repair was done.</summary>
/// <param name="Done">What was done.</param>
/// <param name="Parts">Parts used, in words; may be empty.</param>
/// <param name="Minutes">Minutes it took.</param>
public sealed record RepairDone(string Done, string Parts, double Minutes) : JobEvent;

/// <summary>One check of the proof was made.</summary>
/// <param name="Check">Which.</param>
/// <param name="Passed">Whether it passed.</param>
/// <param name="Typed">Figure typed, when the check is a reading.</param>
/// <param name="At">Where it was read, when the check is a reading.</param>
public sealed record ProofGiven(CheckId Check, bool Passed, string? Typed, ProbedAt? At = null) : JobEvent
{
    /// <summary>Whether it was better than before and not right yet.</summary>
    public bool IsBetter { get; init; }
}

/// <summary>A bypass in the register was taken out, or another alteration undone.</summary>
/// <param name="Bypass">Which, as the register has it.</param>
public sealed record BypassRemoved(BypassId Bypass) : JobEvent;

/// <summary>The job was closed.</summary>
/// <param name="Proved">Whether every check had passed and no bypass was left.</param>
/// <param name="Note">Closing remark; may be empty.</param>
public sealed record JobClosed(bool Proved, string Note) : JobEvent;

/// <summary>Something happened that the record holds and this program cannot read: nothing is added to such a job.</summary>
/// <param name="Why">Why not, to follow "because".</param>
public sealed record UnreadableEvent(string Why) : JobEvent;

/// <summary>An event with its place in the job's history.</summary>
/// <param name="Sequence">1 for the first.</param>
/// <param name="At">When, in UTC.</param>
/// <param name="Event">What.</param>
/// <param name="By">Who entered it; null where nobody was asked who they are.</param>
public sealed record RecordedEvent(int Sequence, DateTimeOffset At, JobEvent Event, string? By = null);
