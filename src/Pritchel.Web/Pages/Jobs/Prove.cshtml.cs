using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The proof: failed readings again, starts running, refusals, kill paths; then closing.</summary>
[ChangedBy(MemberRole.Helper, But = ["Unbridge", "Close"])]
public sealed class ProveModel(JobDesk desk) : JobPageModel(desk)
{
    private const int MostNote = 300;

    /// <summary>Check answered.</summary>
    [BindProperty]
    public string Check { get; set; } = "";

    /// <summary>Reading as typed.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>Closing remark.</summary>
    [BindProperty]
    public string? Note { get; set; }

    /// <summary>What must be shown, and how far it is.</summary>
    public JobProof Proof { get; private set; } = null!;

    /// <summary>Checks.</summary>
    public IReadOnlyList<StandingCheck> Checks => Proof.Checks;

    /// <summary>Whether everything passed and no bypass is left.</summary>
    public bool Proved => Proof.Proved;

    /// <summary>What a reading that is repeated reads.</summary>
    public Observable? Reads(ReadingCheck check) => ObservableCatalogue.Named(check.Condition.Observable);

    /// <summary>Shows the proof.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        !await PrepareAsync() ? NotFound()
        : Open.State.Repair is null ? Redirect($"/jobs/{Open.Job.Tag}/repair")
        : Page();

    /// <summary>A check passed or failed by eye.</summary>
    public async Task<IActionResult> OnPostSeenAsync(bool passed) =>
        await GiveAsync(check => new ProofGiven(check.Id, passed, null));

    /// <summary>A failed reading taken again.</summary>
    public async Task<IActionResult> OnPostReadingAsync() =>
        await GiveAsync(check =>
        {
            if (check.Id is not ReadingCheck reading || JobProof.PairOf(Open.Kit, reading) is not { } at)
            {
                Error = "Reading: what was read is not asked for any more; say by eye whether it is right.";
                return null;
            }

            if (Reads(reading)!.Read(Typed, out var error) is not { } figure)
            {
                Error = "Reading: " + error;
                return null;
            }

            return new ProofGiven(
                check.Id,
                Staircase.Agrees(
                    Open.Diagnosis.Beliefs,
                    at,
                    JobDiagnosis.Scaled(Open.Kit, Open.Meter, at, figure.Value)!.Value
                ),
                Typed!.Trim(),
                JobProof.AtOf(reading)
            );
        });

    /// <summary>A bypass was taken out.</summary>
    public async Task<IActionResult> OnPostUnbridgeAsync(string contact) =>
        !await PrepareAsync() ? NotFound()
        : await AppendAsync(new BypassRemoved(BypassId.Of(contact ?? ""))) ? Redirect($"/jobs/{Open.Job.Tag}/prove")
        : Page();

    /// <summary>Closes the job, proved or openly not.</summary>
    public async Task<IActionResult> OnPostCloseAsync()
    {
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        var note = (Note ?? "").ReplaceLineEndings(" ").Trim();
        if (note.Length > MostNote)
        {
            Error = $"Remark: {note.Length} characters; at most {MostNote}.";
            return Page();
        }

        return await AppendAsync(new JobClosed(Proved, note)) ? Redirect($"/jobs/{Open.Job.Tag}/sheet") : Page();
    }

    private async Task<IActionResult> GiveAsync(Func<ProofCheck, ProofGiven?> give)
    {
        if (!await PrepareAsync())
        {
            return NotFound();
        }

        if (Checks.FirstOrDefault(c => c.Check.Id.Text == Check) is not { } standing)
        {
            Error = "That check is not one of this job's; the ones that are stand below.";
            return Page();
        }

        return give(standing.Check) is { } given && await AppendAsync(given)
            ? Redirect($"/jobs/{Open.Job.Tag}/prove")
            : Page();
    }

    private async Task<bool> PrepareAsync()
    {
        if (!await LoadAsync())
        {
            return false;
        }

        Proof = JobProof.Of(Open.Diagnosis);
        return true;
    }
}
