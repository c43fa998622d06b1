using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Jobs;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Diagnose: the next test, the line, the suspects.</summary>
[ChangedBy(MemberRole.Helper, But = ["Verdict", "MeasureOn"])]
public sealed class DiagnoseModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>What was sent.</summary>
    [BindProperty]
    public TestAnswer Answer { get; set; } = new();

    /// <summary>A test asked for instead, "condition;red;black".</summary>
    [BindProperty(SupportsGet = true, Name = "test")]
    public string? Wanted { get; set; }

    /// <summary>What to move, warm or wet instead, "place;how" or "place;how;repair".</summary>
    [BindProperty(SupportsGet = true, Name = "stir")]
    public string? WantedWiggle { get; set; }

    /// <summary>Which line to draw: a part id.</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public string? LineThrough { get; set; }

    /// <summary>The test and what stands about it.</summary>
    public TestShown Shown { get; private set; } = null!;

    /// <summary>Shows the job.</summary>
    public Task<IActionResult> OnGetAsync() => ShowAsync();

    /// <summary>Enters a reading.</summary>
    public Task<IActionResult> OnPostReadingAsync() => EnterAsync(() => Answer.Reading(Open));

    /// <summary>The figure would not stand still.</summary>
    public Task<IActionResult> OnPostJumpsAsync() => EnterAsync(() => Answer.Jumps(Open));

    /// <summary>The place cannot be reached.</summary>
    public Task<IActionResult> OnPostCannotReachAsync(string place) =>
        EnterAsync(() => Answer.PassedBy(Open, place ?? ""));

    /// <summary>The reading cannot be trusted.</summary>
    public Task<IActionResult> OnPostNotSureAsync() => EnterAsync(() => Answer.PassedBy(Open, null));

    /// <summary>Something was moved, warmed or wetted.</summary>
    public Task<IActionResult> OnPostStirredAsync(bool? changed) => EnterAsync(() => Answer.Stirred(Open, changed));

    /// <summary>A place to be stirred cannot be reached.</summary>
    public Task<IActionResult> OnPostCannotStirAsync(string place) => EnterAsync(() => Answer.CannotStir(Open, place));

    /// <summary>A helper came or went.</summary>
    public Task<IActionResult> OnPostHelpAsync(bool alone) => EnterAsync(() => Entered.Yes(new HelpChanged(alone)));

    /// <summary>Takes the last entry back.</summary>
    public Task<IActionResult> OnPostUndoAsync() =>
        EnterAsync(() => Open.State.Undoable is { } last ? Entered.Yes(new Undone(last.Sequence)) : Entered.Nothing);

    /// <summary>Accepts the verdict.</summary>
    public Task<IActionResult> OnPostVerdictAsync() =>
        EnterAsync(() => new Entered(JobVerdict.Standing(Open)), "/repair");

    /// <summary>Takes it that what it warns of was found.</summary>
    public Task<IActionResult> OnPostTrueAsync() => EnterAsync(() => new Entered(JobVerdict.Truth(Open)), "/repair");

    /// <summary>Sets an accepted verdict aside.</summary>
    public Task<IActionResult> OnPostMeasureOnAsync() => EnterAsync(() => Entered.Yes(new MeasuredOn()));

    /// <inheritdoc/>
    protected override int? AsksCondition => TestAsked.Parse(Wanted)?.Condition;

    /// <inheritdoc/>
    protected override string? Prepare()
    {
        if (!Open.State.ComplaintTold)
        {
            return "/complaint";
        }

        var wanted = (Answer.Test ?? TestAsked.Parse(Wanted))?.PlannedIn(Open);
        Shown = new TestShown(Open, wanted, Answer.Stir(Open, WantedWiggle), LineThrough);
        return null;
    }
}
