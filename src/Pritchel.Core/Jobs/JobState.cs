using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Proving;

namespace Pritchel.Core.Jobs;

/// <summary>A repair after which it was not right yet.</summary>
/// <param name="Sequence">The event of its mending.</param>
/// <param name="Repair">What was mended.</param>
/// <param name="IsBetter">Whether it was better for it.</param>
public sealed record MendedBefore(int Sequence, RepairId Repair, bool IsBetter);

/// <summary>How far a job is.</summary>
public enum Stage
{
    /// <summary>What is wrong is being written down.</summary>
    Complaint,

    /// <summary>Places are looked at and touched; open as long as the job is measured.</summary>
    Look,

    /// <summary>Readings are being taken.</summary>
    Measure,

    /// <summary>Something stands clear and waits to be accepted.</summary>
    Verdict,

    /// <summary>It is being repaired.</summary>
    Repair,

    /// <summary>The repair is being proved.</summary>
    Prove,

    /// <summary>Done.</summary>
    Closed,
}

/// <summary>What a job stands at, worked out from its events. The same events always give the same state.</summary>
public sealed class JobState
{
    private readonly HashSet<int> undone;

    private JobState(IReadOnlyList<RecordedEvent> history)
    {
        History = history;
        undone = [.. history.Select(e => e.Event).OfType<Undone>().Select(u => u.Sequence)];
    }

    /// <summary>Everything that happened, first to last.</summary>
    public IReadOnlyList<RecordedEvent> History { get; }

    /// <summary>Events that the record holds and that cannot be read.</summary>
    public IReadOnlyList<(int Sequence, string Why)> Unreadable =>
        [.. History.Where(e => e.Event is UnreadableEvent).Select(e => (e.Sequence, ((UnreadableEvent)e.Event).Why))];

    /// <summary>Whether nothing may be added, since what was recorded is not all known.</summary>
    public bool IsReadOnly => History.Any(e => e.Event is UnreadableEvent);

    /// <summary>Sequence of the last event; 0 when there is none.</summary>
    public int Sequence => History.Count == 0 ? 0 : History[^1].Sequence;

    /// <summary>What stands: everything not undone.</summary>
    public IEnumerable<RecordedEvent> Standing =>
        History.Where(e => e.Event is not Undone && !undone.Contains(e.Sequence));

    /// <summary>The complaint as it now stands, or null.</summary>
    public Complaint? Complaint =>
        Last<ComplaintMade>()?.Complaint is { } told ? told with { Brought = Brought } : null;

    private IReadOnlyList<BroughtReading> Brought =>
        [
            .. Standing
                .Select(e => e.Event)
                .OfType<ReadingTaken>()
                .Where(r => r.Besides)
                .Select(r => new BroughtReading(
                    r.At.Condition.Observable,
                    r.At.Condition.Setting,
                    r.At.Condition.Speed,
                    r.At.Condition.Off,
                    r.At.Red,
                    r.At.Black,
                    r.At.Condition.Joined?.Kind.ToString()
                ))
                .DistinctBy(b => b.Text),
        ];

    /// <summary>Whether the complaint has been told in full, rather than only opened.</summary>
    public bool ComplaintTold => Complaint is { Heard: not Heard.NotSaid };

    /// <summary>Readings that stand.</summary>
    public IReadOnlyList<(int Sequence, ReadingTaken Reading)> Readings =>
        [.. Standing.Where(e => e.Event is ReadingTaken).Select(e => (e.Sequence, (ReadingTaken)e.Event))];

    /// <summary>Looks that stand.</summary>
    public IReadOnlyList<LookedAt> Looks => [.. Standing.Select(e => e.Event).OfType<LookedAt>()];

    /// <summary>Places moved, warmed or wetted, those entries that stand.</summary>
    public IReadOnlyList<Wiggled> Wiggles => [.. Standing.Select(e => e.Event).OfType<Wiggled>()];

    /// <summary>Parts tested by themselves, the last test of each.</summary>
    public IReadOnlyList<PartTested> PartTests =>
        [.. Standing.Select(e => e.Event).OfType<PartTested>().GroupBy(t => t.Part).Select(g => g.Last())];

    /// <summary>Whether measuring goes on although something stood clear: said after the complaint as it now stands.</summary>
    public bool GoesOn =>
        Standing.LastOrDefault(e => e.Event is ComplaintMade or VerdictTaken or MeasuredOn)?.Event is MeasuredOn;

    /// <summary>Whether the person works alone.</summary>
    public bool Alone => Last<HelpChanged>()?.Alone ?? false;

    /// <summary>Accepted verdict, unless measuring went on after it.</summary>
    public VerdictTaken? Verdict =>
        Standing.LastOrDefault(e => e.Event is VerdictTaken or MeasuredOn)?.Event as VerdictTaken;

    /// <summary>Repair done under the present verdict, or null.</summary>
    public RepairDone? Repair => After(Verdict).OfType<RepairDone>().LastOrDefault();

    /// <summary>
    /// Repairs done after which it failed still and measuring went on: what was mended, and the event of its mending.
    /// </summary>
    public IReadOnlyList<MendedBefore> Mended
    {
        get
        {
            var mended = new List<MendedBefore>();
            (RepairId? On, RecordedEvent? Done, bool IsBetter) standing = default;
            foreach (var happened in Standing)
            {
                standing = happened.Event switch
                {
                    VerdictTaken verdict => (verdict.On.Repair, null, false),
                    RepairDone => (standing.On, happened, false),
                    ProofGiven { Check: RepeatsCheck } proof => standing with { IsBetter = proof.IsBetter },
                    _ => standing,
                };
                if (happened.Event is MeasuredOn && standing is { On: { } repair, Done: { } done })
                {
                    mended.Add(new MendedBefore(done.Sequence, repair, standing.IsBetter));
                    standing = default;
                }
            }

            return mended;
        }
    }

    /// <summary>Checks made after the present repair.</summary>
    public IReadOnlyList<ProofGiven> Proofs => [.. After(Repair).OfType<ProofGiven>()];

    /// <summary>Closing, or null.</summary>
    public JobClosed? Closed => Last<JobClosed>();

    /// <summary>Prices as last told, or null.</summary>
    public PartsPriced? Priced => Last<PartsPriced>();

    /// <summary>The clip lead tried over the present verdict's place, or null.</summary>
    public LeadPut? Lead => After(Verdict).OfType<LeadPut>().LastOrDefault();

    /// <summary>What became of it when it was taken off, or null while it is on.</summary>
    public LeadOff? LeadOff => After(Lead).OfType<LeadOff>().FirstOrDefault();

    /// <summary>Bypasses and other alterations found or made and not yet undone.</summary>
    public IReadOnlyList<BypassId> OpenBypasses
    {
        get
        {
            var open = new List<BypassId>((Complaint?.Bridged ?? []).Select(b => (BypassId)b));
            foreach (var happened in Standing.Select(e => e.Event))
            {
                switch (happened)
                {
                    case LeadPut put:
                        open.Add(put.Bypass);
                        break;
                    case Jobs.LeadOff:
                        open.RemoveAll(b => b.Found is null);
                        break;
                    case BypassRemoved removed:
                        open.Remove(removed.Bypass);
                        break;
                }
            }

            return open;
        }
    }

    /// <summary>How far it is, short of a verdict waiting: only beliefs know that one.</summary>
    public Stage Stage =>
        Closed is not null ? Stage.Closed
        : Repair is not null ? Stage.Prove
        : Verdict is not null ? Stage.Repair
        : ComplaintTold ? Stage.Measure
        : Stage.Complaint;

    /// <summary>The last event that can be taken back, or null.</summary>
    public RecordedEvent? Undoable =>
        Standing.LastOrDefault(e =>
            e.Event is not ComplaintMade and not JobClosed and not UnreadableEvent
            || (e.Event is ComplaintMade && ComplaintCount > 1)
        );

    private int ComplaintCount => Standing.Count(e => e.Event is ComplaintMade);

    /// <summary>Works out the state of a job.</summary>
    public static JobState Of(IReadOnlyList<RecordedEvent> history) => new(history);

    private T? Last<T>()
        where T : JobEvent => Standing.Select(e => e.Event).OfType<T>().LastOrDefault();

    private IEnumerable<JobEvent> After(JobEvent? mark) =>
        mark is null ? [] : Standing.Select(e => e.Event).SkipWhile(e => !ReferenceEquals(e, mark)).Skip(1);
}
