using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>What happened on a job, each event in a few words.</summary>
internal static class HistoryWords
{
    /// <summary>One event in words.</summary>
    /// <param name="open">The job.</param>
    /// <param name="happened">The event, with its place.</param>
    public static string Of(OpenJob open, RecordedEvent happened) =>
        happened.Event switch
        {
            ComplaintMade when happened.Sequence == 1 => "opened the job",
            ComplaintMade => "wrote the complaint down",
            ReadingTaken r => $"read {r.Typed}: {TestWords.Title(r.At, open.Kit)}",
            TestPassedOver { Why: PassedOver.CannotReach } t => $"could not reach {TestWords.Title(t.At, open.Kit)}",
            TestPassedOver t => $"was not sure of {TestWords.Title(t.At, open.Kit)}",
            LookedAt l => $"looked at {Repair(open, l.Repair)}: {LookWords.Of(l.Found)}",
            Wiggled w => $"moved, warmed or wetted a place: {WiggleWords.Came(w.Changed)}",
            PartTested p => $"tested {open.Machine.Index.Part(p.Part)?.Name ?? p.Part.Text} ({p.Sheet}): {p.Words}",
            HelpChanged h => h.Alone ? "works alone" : "has a helper",
            Undone u => $"took entry {u.Sequence} back",
            VerdictTaken v => $"took the verdict: {v.Words}",
            MeasuredOn => "set the verdict aside and measured on",
            PartsPriced => "priced the parts",
            LeadPut p => $"put a clip lead over the place: {(p.Worked ? "it worked" : "no better")}",
            LeadOff o => $"took the clip lead off: {(o.FailsAgain ? "fails as before" : "works all the same")}",
            RepairDone d => $"repaired: {d.Done}",
            ProofGiven p =>
                $"a check of the proof {(p.Passed ? "passed" : p.IsBetter ? "was better, not right" : "failed")}",
            BypassRemoved => "took a bypass out",
            JobClosed c => c.Proved ? "closed it, proved" : "closed it, not proved",
            UnreadableEvent u => $"cannot be read, because {u.Why}",
            _ => "something else",
        };

    private static string Repair(OpenJob open, RepairId repair) =>
        open.Circuit.Faults.FirstOrDefault(f => f.Repair.Id == repair)?.Repair.Name ?? repair.Text;
}
