using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.PartTests;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>A part test's sheet: readings, the part with the probes on it, and what the figures come to.</summary>
public sealed class SheetModel(PartTestDesk desk, JobDesk jobs) : PageModel
{
    /// <summary>Tag from the address: P-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Reading that is asked for; the most telling one when null.</summary>
    [BindProperty(SupportsGet = true)]
    public string? At { get; set; }

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

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

    /// <summary>The test.</summary>
    public OpenPartTest Open { get; private set; } = null!;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Number of the reading on the card; −1 when none is left.</summary>
    public int Current { get; private set; }

    /// <summary>Shows the sheet.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>Readings as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync() =>
        await LoadAsync()
            ? File(Encoding.UTF8.GetBytes(PartTestLists.Csv(Open)), "text/csv", $"{Open.Entry.Tag}.csv")
            : NotFound();

    /// <summary>Enters a figure.</summary>
    public Task<IActionResult> OnPostReadAsync() =>
        ActAsync(() => desk.ReadAsync(Open, After, At, Typed, HttpContext.RequestAborted));

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() =>
        ActAsync(() => desk.UndoAsync(Open, After, HttpContext.RequestAborted));

    /// <summary>Whether its result can be taken over into its job now.</summary>
    public bool CanBeSaved =>
        Open.Entry is { Job: not null, PartId: not null }
        && (
            Open.NothingSeen
            || Open.Verdict.Outcome == SheetOutcome.Good
            || (Open.Verdict.Outcome == SheetOutcome.Bad && Open.IsItself)
        );

    /// <summary>Takes the result over into its job, as evidence there.</summary>
    public async Task<IActionResult> OnPostSaveAsync()
    {
        if (!await LoadAsync() || !CanBeSaved || JobStore.NumberOf(Open.Entry.Job!) is not { } number)
        {
            return NotFound();
        }

        if (await jobs.OpenAsync(number, cancel: HttpContext.RequestAborted) is not { } job)
        {
            return NotFound();
        }

        var tested = new PartTested(
            new PartId(Open.Entry.PartId!),
            Open.Verdict.Outcome != SheetOutcome.Bad,
            SheetWords.Title(Open),
            Open.Entry.Tag,
            [
                .. Open
                    .Table.Hidden.Concat(Open.NothingSeen ? Open.Verdict.Among : [])
                    .SelectMany(h => h.Faults)
                    .Select(f => f.Id)
                    .Distinct(),
            ]
        );
        var added = await jobs.AppendAsync(job, job.State.Sequence, [tested], HttpContext.RequestAborted);
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
                HttpContext.RequestAborted
            )
        );

    /// <summary>Tells how the part stands.</summary>
    public Task<IActionResult> OnPostTellAsync() =>
        ActAsync(() =>
            double.TryParse(
                (Celsius ?? "").Trim().Replace(',', '.'),
                NumberStyles.Float,
                CultureInfo.InvariantCulture,
                out var celsius
            )
                ? desk.TellAsync(Open, After, celsius, IsNew, Seen, HttpContext.RequestAborted)
                : Task.FromResult<string?>("Temperature: type degrees Celsius, such as 20.")
        );

    private async Task<IActionResult> ActAsync(Func<Task<string?>> act)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Error = await act();
        if (Error is null)
        {
            return Redirect($"/part-tests/{Open.Entry.Tag}");
        }

        await LoadAsync();
        return Page();
    }

    private async Task<bool> LoadAsync()
    {
        if (
            PartTestStore.NumberOf(Tag) is not { } number
            || await desk.OpenAsync(number, HttpContext.RequestAborted) is not { } open
        )
        {
            return false;
        }

        Open = open;
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = $"{open.Entry.Tag} {open.Entry.Name}";
        Current = At is { } asked ? SheetBeliefs.IndexOf(open.Table, asked) : open.Verdict.Next;
        return true;
    }
}
