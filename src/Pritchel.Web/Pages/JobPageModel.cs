using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Jobs;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Web.Pages.Jobs;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages;

/// <summary>A page of one job. Forms carry the sequence their author saw, so a stale tab changes nothing unasked.</summary>
public abstract class JobPageModel(JobDesk desk) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Tag from the address: T-0147.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last event the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>The job.</summary>
    public OpenJob Open { get; private set; } = null!;

    /// <summary>What was wrong with what was sent, or null.</summary>
    public string? Error { get; protected set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(Open is not null);
    }

    /// <summary>What was typed, short enough to be said back.</summary>
    /// <summary>Condition that the page is asked to show a test of, whatever the best one is; null for none.</summary>
    protected virtual int? AsksCondition => null;

    /// <summary>Lays the job out; false when there is none of that tag.</summary>
    protected async Task<bool> LoadAsync()
    {
        if (
            JobStore.NumberOf(Tag) is not { } number
            || await desk.OpenAsync(number, AsksCondition, HttpContext.RequestAborted) is not { } open
        )
        {
            return false;
        }

        Open = open;
        ViewData["JobTag"] = open.Job.Tag;
        ViewData["Title"] = $"{open.Job.Tag} {open.Machine.Name}";
        ViewData["Area"] = "Diagnose";

        // Asked for when a page is drawn: what answers with a redirect need not weigh anything.
        ViewData["Battery"] = () => BatteryWords(open);
        return true;
    }

    private static string? BatteryWords(OpenJob open) =>
        !open.Machine.Parts.Any(p => open.Circuit.Is(p.Id, PartTraits.StoresCharge))
            ? null
            : open.Stage switch
            {
                Stage.Measure
                    when (open.Diagnosis.WiggleFirst is { } stir ? stir.Watch : open.Diagnosis.Next) is { } next
                        && next.Condition.Observable.WantsDeadCircuit => "Battery off first",
                Stage.Measure or Stage.Verdict or Stage.Prove => "Battery live",
                Stage.Repair => "Battery off first",
                _ => "Battery unknown",
            };

    /// <summary>Works out what the page shows; where there is nothing to show, the page of the job to go to instead.</summary>
    protected virtual string? Prepare() => null;

    /// <summary>Shows the page.</summary>
    protected async Task<IActionResult> ShowAsync() => await LoadAsync() ? Shown() : NotFound();

    /// <summary>Enters what a form tells and goes on, or shows the page again with what was wrong.</summary>
    /// <param name="enter">What it comes to.</param>
    /// <param name="next">Page of the job that follows.</param>
    protected async Task<IActionResult> EnterAsync(Func<Entered> enter, string next = "")
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        (var happened, Error) = enter();
        return (happened is null ? Error is null : await AppendAsync(happened))
            ? Redirect($"/jobs/{Open.Job.Tag}{next}")
            : Shown();
    }

    private IActionResult Shown() => Prepare() is { } elsewhere ? Redirect($"/jobs/{Open.Job.Tag}{elsewhere}") : Page();

    /// <summary>Lays the job out where its complaint has been told; otherwise where to go instead.</summary>
    protected async Task<IActionResult?> LoadToldAsync() =>
        !await LoadAsync() ? NotFound()
        : Open.State.ComplaintTold ? null
        : Redirect($"/jobs/{Open.Job.Tag}/complaint");

    /// <summary>Adds events; when that may not be, or another tab has been quicker, says so and adds nothing.</summary>
    protected async Task<bool> AppendAsync(params JobEvent[] events)
    {
        var added = await desk.AppendAsync(Open, After, events, HttpContext.RequestAborted);
        Error = added.Why ?? Error;
        if (added.MovedOn)
        {
            await LoadAsync();
        }

        return added.Kept;
    }
}
