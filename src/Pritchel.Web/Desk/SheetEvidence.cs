using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.PartTests;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>What a part test has to say in the job that it belongs to.</summary>
public static class SheetEvidence
{
    /// <summary>Whether a part test's result can be taken over into its job now.</summary>
    public static bool IsReady(OpenPartTest open) =>
        open.Entry is { Job: not null, PartId: not null }
        && (
            open.NothingSeen
            || open.Verdict.Outcome == SheetOutcome.Good
            || (open.Verdict.Outcome == SheetOutcome.Bad && open.IsItself)
        );

    /// <summary>
    /// A part test's result: what its sheet cannot show is left as it was believed, and of a bad one only what may be wrong with it
    /// is convicted.
    /// </summary>
    public static PartTested Of(OpenPartTest open) =>
        new(
            new PartId(open.Entry.PartId!),
            open.Verdict.Outcome != SheetOutcome.Bad,
            SheetWords.Title(open),
            open.Entry.Tag,
            [.. (
                    open.Verdict.Outcome == SheetOutcome.Bad ? open.Table.States.Except(open.Verdict.Among)
                    : open.NothingSeen ? open.Table.Hidden.Concat(open.Verdict.Among)
                    : open.Table.Hidden
                ).SelectMany(h => h.Faults).Where(f => f.Id.Of.Owner.Part?.Text == open.Entry.PartId).Select(f => f.Id).Distinct()]
        );
}
