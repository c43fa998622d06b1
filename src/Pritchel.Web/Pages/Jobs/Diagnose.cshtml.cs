using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>Diagnose: the next test, the line, the suspects.</summary>
[ChangedBy(MemberRole.Helper, But = ["Verdict", "MeasureOn"])]
public sealed class DiagnoseModel(JobDesk desk) : JobPageModel(desk)
{
    /// <summary>Reading as typed; kept when refused.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>Whether the symptom was there.</summary>
    [BindProperty]
    public SymptomNow Symptom { get; set; }

    /// <summary>Condition of the test answered.</summary>
    [BindProperty]
    public int? Condition { get; set; }

    /// <summary>Address under the red probe.</summary>
    [BindProperty]
    public string Red { get; set; } = "";

    /// <summary>Address under the black probe.</summary>
    [BindProperty]
    public string Black { get; set; } = "";

    /// <summary>A test asked for instead, "condition;red;black".</summary>
    [BindProperty(SupportsGet = true, Name = "test")]
    public string? Wanted { get; set; }

    /// <summary>What to move, warm or wet instead, "place;how" or "place;how;repair".</summary>
    [BindProperty(SupportsGet = true, Name = "stir")]
    public string? WantedWiggle { get; set; }

    /// <summary>What was moved, warmed or wetted, told in the same way.</summary>
    [BindProperty]
    public string? Stirring { get; set; }

    /// <summary>Which line to draw: a part id.</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public string? LineThrough { get; set; }

    /// <summary>The test and what stands about it.</summary>
    public TestShown Shown { get; private set; } = null!;

    /// <summary>Shows the job.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (await LoadToldAsync() is { } elsewhere)
        {
            return elsewhere;
        }

        Show();
        return Page();
    }

    /// <summary>Enters a reading.</summary>
    public Task<IActionResult> OnPostReadingAsync() =>
        AnswerAsync(at =>
        {
            if (ObservableCatalogue.Named(at.Condition.Observable)!.Read(Typed, out var error) is not { } figure)
            {
                Error = "Reading: " + error;
                return null;
            }

            return new ReadingTaken(at, Typed!.Trim(), figure.Value, Symptom);
        });

    /// <summary>The figure would not stand still.</summary>
    public Task<IActionResult> OnPostJumpsAsync() => AnswerAsync(at => new ReadingTaken(at, "jumps", null, Symptom));

    /// <summary>The place cannot be reached.</summary>
    public Task<IActionResult> OnPostCannotReachAsync(string place) =>
        AnswerAsync(at => new TestPassedOver(at, new PlaceId(place ?? ""), PassedOver.CannotReach));

    /// <summary>The reading cannot be trusted.</summary>
    public Task<IActionResult> OnPostNotSureAsync() =>
        AnswerAsync(at => new TestPassedOver(at, null, PassedOver.NotSure));

    /// <summary>Something was moved, warmed or wetted.</summary>
    public Task<IActionResult> OnPostStirredAsync(bool? changed) =>
        ActAsync(() =>
        {
            if (WiggleWords.Read(Open.Kit.WiggleTests, Stirring) is not { } stirred || changed is null)
            {
                Error = "What was stirred: choose a place of this machine, how, and whether anything changed.";
                return null;
            }

            var watched = AskedPair();
            return new Wiggled(
                stirred.Reach.Place.Id,
                stirred.Reach.Alone?.Id,
                stirred.By,
                changed.Value,
                watched is { } at ? Open.Kit.Told(at) : null
            );
        });

    /// <summary>A place to be stirred cannot be reached.</summary>
    public Task<IActionResult> OnPostCannotStirAsync(string place) =>
        ActAsync(() =>
        {
            if (Open.Kit.WiggleTests.Find(new PlaceId(place ?? ""), null) is null)
            {
                Error = "Place: not one of this machine's.";
                return null;
            }

            var ground = Open.Kit.Points.Grounds[0].Node;
            return new TestPassedOver(
                Open.Kit.Told(AskedPair() ?? new ProbePair(0, ground, ground)),
                new PlaceId(place!),
                PassedOver.CannotReach
            );
        });

    /// <summary>A helper came or went.</summary>
    public Task<IActionResult> OnPostHelpAsync(bool alone) => ActAsync(() => new HelpChanged(alone));

    /// <summary>Takes the last entry back.</summary>
    public Task<IActionResult> OnPostUndoAsync() =>
        ActAsync(() => Open.State.Undoable is { } last ? new Undone(last.Sequence) : null);

    /// <summary>Accepts the verdict.</summary>
    public async Task<IActionResult> OnPostVerdictAsync()
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        if (JobVerdict.Standing(Open) is { } taken && await AppendAsync(taken))
        {
            return Redirect($"/jobs/{Open.Job.Tag}/repair");
        }

        Show();
        return Page();
    }

    /// <summary>Sets an accepted verdict aside.</summary>
    public Task<IActionResult> OnPostMeasureOnAsync() => ActAsync(() => new MeasuredOn());

    private async Task<IActionResult> AnswerAsync(Func<ProbedAt, JobEvent?> answer)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        if (AskedPair() is not { } pair)
        {
            Error = "The test answered is not one of this machine's; the one asked now is below.";
        }
        else if (ModelState[nameof(Symptom)] is { Errors.Count: > 0 } || !Enum.IsDefined(Symptom))
        {
            Error = "Symptom there: choose yes, no, or nobody tried.";
        }
        else
        {
            var told = Open.Kit.Told(pair) with { Red = PointId.Of(Red), Black = PointId.Of(Black) };
            Wanted = Answered?.ToString();
            if (answer(told) is { } happened && await AppendAsync(happened))
            {
                return Redirect($"/jobs/{Open.Job.Tag}");
            }
        }

        Show();
        return Page();
    }

    private async Task<IActionResult> ActAsync(Func<JobEvent?> act)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        var happened = act();
        if (happened is null ? Error is null : await AppendAsync(happened))
        {
            return Redirect($"/jobs/{Open.Job.Tag}");
        }

        Show();
        return Page();
    }

    private void Show() => Shown = new TestShown(Open, Asked?.PlannedIn(Open), WiggleAsked(), LineThrough);

    /// <inheritdoc/>
    protected override int? AsksCondition => Asked?.Condition;

    private TestAsked? Asked => TestAsked.Parse(Wanted);

    /// <summary>The test that a form answers; null where it names none.</summary>
    private TestAsked? Answered =>
        Condition is { } condition ? new TestAsked(condition, PointId.Of(Red ?? ""), PointId.Of(Black ?? "")) : null;

    /// <summary>The two points sent with a form; null where nothing is read between them here.</summary>
    private ProbePair? AskedPair() => Answered?.PairIn(Open);

    /// <summary>What the page was asked to have stirred, or what was sent and refused; null for none.</summary>
    private PlannedWiggle? WiggleAsked() =>
        WiggleWords.Read(Open.Kit.WiggleTests, WantedWiggle ?? Stirring) is { } asked
            ? Open.Kit.WiggleTests.Plan(Open.Diagnosis.Beliefs, Open.Diagnosis.Situation, asked.Reach, asked.By)
            : null;
}
