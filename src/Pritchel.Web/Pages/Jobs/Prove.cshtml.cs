using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Proving;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>The proof: failed readings again, starts running, refusals, kill paths; then closing.</summary>
[ChangedBy(MemberRole.Helper, But = ["Unbridge", "Close"])]
public sealed class ProveModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>What was sent.</summary>
    [BindProperty]
    public ProofTyped Answer { get; set; } = new();

    /// <summary>What must be shown, and how far it is.</summary>
    public JobProof Proof { get; private set; } = null!;

    /// <summary>Checks.</summary>
    public IReadOnlyList<StandingCheck> Checks => Proof.Checks;

    /// <summary>Whether everything passed and no bypass is left.</summary>
    public bool Proved => Proof.Proved;

    /// <summary>Shows the proof.</summary>
    public Task<IActionResult> OnGetAsync() => ShowAsync();

    /// <summary>A check passed or failed by eye.</summary>
    public Task<IActionResult> OnPostSeenAsync(bool passed, bool better = false) =>
        EnterAsync(() => Answer.Seen(Open, passed, better), "/prove");

    /// <summary>A failed reading taken again.</summary>
    public Task<IActionResult> OnPostReadingAsync() => EnterAsync(() => Answer.Reading(Open), "/prove");

    /// <summary>A bypass was taken out.</summary>
    public Task<IActionResult> OnPostUnbridgeAsync(string contact) =>
        EnterAsync(() => Entered.Yes(new BypassRemoved(BypassId.Of(contact ?? ""))), "/prove");

    /// <summary>Closes the job, proved or openly not.</summary>
    public Task<IActionResult> OnPostCloseAsync() => EnterAsync(() => Answer.Closed(Open), "/sheet");

    /// <inheritdoc/>
    protected override string? Prepare()
    {
        Proof = JobProof.Of(Open.Diagnosis);
        return Open.State.Repair is null && Error is null ? "/repair" : null;
    }
}
