using System.Text;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.PartTests;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>A part test's sheet: readings, the part with the probes on it, and what the figures come to.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class SheetModel(PartTestDesk desk, JobDesk jobs) : StepPageModel<OpenPartTest>
{
    /// <summary>Reading that is asked for; the most telling one when null.</summary>
    [BindProperty(SupportsGet = true)]
    public string? At { get; set; }

    /// <summary>Figure as typed.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>Temperature as typed.</summary>
    [BindProperty]
    public string? Celsius { get; set; }

    /// <summary>Whether it is new.</summary>
    [BindProperty]
    public bool IsNew { get; set; }

    /// <summary>What was seen.</summary>
    [BindProperty]
    public string? Seen { get; set; }

    /// <inheritdoc/>
    protected override string Area => "Part tests";

    /// <inheritdoc/>
    protected override string Title => $"{Open.Entry.Tag} {Open.Entry.Name}";

    /// <inheritdoc/>
    protected override string Address => $"/part-tests/{Open.Entry.Tag}";

    /// <summary>Number of the reading on the card; −1 when none is left.</summary>
    public int Current { get; private set; }

    /// <summary>Readings as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync() =>
        await LoadAsync()
            ? File(Encoding.UTF8.GetBytes(PartTestLists.Csv(Open)), "text/csv", $"{Open.Entry.Tag}.csv")
            : NotFound();

    /// <summary>Enters a figure.</summary>
    public Task<IActionResult> OnPostReadAsync() => ActAsync(() => desk.ReadAsync(Open, After, At, Typed, Cancel));

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() => ActAsync(() => desk.UndoAsync(Open, After, Cancel));

    /// <summary>Whether its result can be taken over into its job now.</summary>
    public bool CanBeSaved => SheetEvidence.IsReady(Open);

    /// <summary>Takes the result over into its job, as evidence there.</summary>
    public async Task<IActionResult> OnPostSaveAsync()
    {
        if (!await LoadAsync() || !CanBeSaved || JobStore.NumberOf(Open.Entry.Job!) is not { } number)
        {
            return NotFound();
        }

        if (await jobs.OpenAsync(number, cancel: Cancel) is not { } job)
        {
            return NotFound();
        }

        var added = await jobs.AppendAsync(job, job.State.Sequence, [SheetEvidence.Of(Open)], Cancel);
        Error = added.Why;
        return added.Kept ? Redirect($"/jobs/{Open.Entry.Job}") : Page();
    }

    /// <summary>Tells whether something looked for was there: the look's id and "+" or "-".</summary>
    public Task<IActionResult> OnPostLookAsync(string? look) =>
        ActAsync(() =>
            desk.LookAsync(
                Open,
                After,
                look is { Length: > 1 } ? look[..^1] : look,
                look?.EndsWith('+') == true,
                Cancel
            )
        );

    /// <summary>Tells how the part stands.</summary>
    public Task<IActionResult> OnPostTellAsync() =>
        ActAsync(() =>
            TypedNumber.Read(Celsius, signed: true) is { } celsius
                ? desk.TellAsync(Open, After, celsius, IsNew, Seen, Cancel)
                : Task.FromResult<string?>("Temperature: type degrees Celsius, such as 20.")
        );

    /// <inheritdoc/>
    protected override async Task<OpenPartTest?> OpenAsync() =>
        PartTestStore.NumberOf(Tag) is { } number ? await desk.OpenAsync(number, Cancel) : null;

    /// <inheritdoc/>
    protected override async Task<bool> LoadAsync()
    {
        if (!await base.LoadAsync())
        {
            return false;
        }

        Current = At is { } asked ? SheetBeliefs.IndexOf(Open.Table, asked) : Open.Verdict.Next;
        return true;
    }
}
