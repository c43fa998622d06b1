using Microsoft.AspNetCore.Mvc;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>A ground survey: points in the order of the least walking, and which way home has ohms too many.</summary>
[ChangedBy(MemberRole.Helper)]
public sealed class GroundsModel(GroundDesk desk, JobDesk jobs) : StepPageModel<OpenSurvey>
{
    /// <summary>Point that is entered.</summary>
    [BindProperty]
    public string? Point { get; set; }

    /// <summary>Millivolts as typed.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <inheritdoc/>
    protected override string Area => "Part tests";

    /// <inheritdoc/>
    protected override string Title => $"{Open.Entry.Tag} Grounds of {Open.Machine.Machine.Name}";

    /// <inheritdoc/>
    protected override string Address => $"/part-tests/{Open.Entry.Tag}/grounds";

    /// <summary>Keeps a figure.</summary>
    public Task<IActionResult> OnPostAsync() => ActAsync(() => desk.ReadAsync(Open, After, Point, Typed, Cancel));

    /// <summary>Takes the last figure back.</summary>
    public Task<IActionResult> OnPostUndoAsync() => ActAsync(() => desk.UndoAsync(Open, After, Cancel));

    /// <summary>Takes its figures over into its job, as readings there.</summary>
    public async Task<IActionResult> OnPostSaveAsync()
    {
        if (
            !await LoadAsync()
            || JobStore.NumberOf(Open.Entry.Job ?? "") is not { } number
            || await jobs.OpenAsync(number, cancel: Cancel) is not { } job
        )
        {
            return NotFound();
        }

        var readings = SurveyEvidence.Of(Open, job, out var error);
        Error = error;
        if (readings.Count > 0)
        {
            var added = await jobs.AppendAsync(job, job.State.Sequence, [.. readings], Cancel);
            Error = added.Why;
            if (added.Kept)
            {
                return Redirect($"/jobs/{Open.Entry.Job}");
            }
        }

        return Page();
    }

    /// <inheritdoc/>
    protected override async Task<OpenSurvey?> OpenAsync() =>
        PartTestStore.NumberOf(Tag) is { } number ? await desk.OpenAsync(number, Cancel) : null;
}
