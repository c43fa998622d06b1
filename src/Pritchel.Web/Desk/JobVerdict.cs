using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>The verdict that waits to be taken, with the words it is taken in.</summary>
public static class JobVerdict
{
    /// <summary>The verdict that stands clear, or null.</summary>
    public static VerdictTaken? Standing(OpenJob open) =>
        open.WorksAsDesigned
            ? new VerdictTaken(
                SuspectId.AsDesigned,
                $"{DesignWords.Verdict(open.Design!)} {DesignWords.Of(open.Design!)}",
                1
            )
        : open.Diagnosis.Verdict.Suspect is { } suspect
            ? new VerdictTaken(suspect.Id, VerdictWords.Of(suspect), open.Diagnosis.Certainty.Stated(suspect.Share))
        : null;

    /// <summary>That a lamp or an alarm tells the truth, as whoever checked it found; null for what warns of nothing.</summary>
    public static VerdictTaken? Truth(OpenJob open) =>
        open.Kit.Table.Duty.Warns
            ? new VerdictTaken(SuspectId.AsDesigned, "It tells the truth. What it warns of was looked at and found.", 1)
            : null;
}
