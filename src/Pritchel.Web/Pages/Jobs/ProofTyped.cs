using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What a form of the proof answers, as typed.</summary>
[ValidateNever]
public sealed class ProofTyped
{
    private const int MostNote = 300;

    /// <summary>Check answered.</summary>
    public string? Check { get; set; }

    /// <summary>Reading as typed.</summary>
    public string? Typed { get; set; }

    /// <summary>Closing remark.</summary>
    public string? Note { get; set; }

    /// <summary>What a reading that is repeated reads.</summary>
    public static Observable? Reads(ReadingCheck check) => ObservableCatalogue.Named(check.Condition.Observable);

    /// <summary>A check that passed or failed by eye.</summary>
    public Entered Seen(OpenJob open, bool passed, bool better) =>
        Given(
            open,
            check =>
                Entered.Yes(
                    new ProofGiven(check.Id, passed && !better, null) { IsBetter = better && check.Id is RepeatsCheck }
                )
        );

    /// <summary>A failed reading taken again.</summary>
    public Entered Reading(OpenJob open) =>
        Given(
            open,
            check =>
                check.Id is not ReadingCheck reading || JobProof.PairOf(open.Kit, reading) is not { } at
                    ? Entered.No("Reading: what was read is not asked for any more; say by eye whether it is right.")
                : Reads(reading)!.Read(Typed, out var error) is not { } figure ? Entered.No("Reading: " + error)
                : Entered.Yes(
                    new ProofGiven(
                        check.Id,
                        JobProof.Passes(
                            open.Diagnosis.Beliefs,
                            at,
                            JobDiagnosis.Scaled(open.Kit, open.Meter, at, figure.Value)!.Value
                        ),
                        Typed!.Trim(),
                        JobProof.AtOf(reading)
                    )
                )
        );

    /// <summary>The job closed, proved or openly not.</summary>
    public Entered Closed(OpenJob open)
    {
        var note = (Note ?? "").ReplaceLineEndings(" ").Trim();
        return note.Length > MostNote
            ? Entered.No($"Remark: {note.Length} characters; at most {MostNote}.")
            : Entered.Yes(new JobClosed(JobProof.Of(open.Diagnosis).Proved, note));
    }

    private Entered Given(OpenJob open, Func<ProofCheck, Entered> give) =>
        JobProof.Of(open.Diagnosis).Checks.FirstOrDefault(c => c.Check.Id.Text == Check) is { } standing
            ? give(standing.Check)
            : Entered.No("That check is not one of this job's; the ones that are stand below.");
}
