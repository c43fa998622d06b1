using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Drawings;
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

    /// <summary>Test shown, or null when none is left.</summary>
    public PlannedTest? Test { get; private set; }

    /// <summary>What is to be moved, warmed or wetted while that test is watched; null where the test is the card itself.</summary>
    public PlannedWiggle? Stir { get; private set; }

    /// <summary>What its results would point to.</summary>
    public Outlook? Outlook { get; private set; }

    /// <summary>The place most worth a look now, when it tells more in a minute than the test would.</summary>
    public PlaceToLook? LookFirst { get; private set; }

    /// <summary>Line drawn; null for the loom, where no line leads through what is complained of.</summary>
    public LineDrawing? Line { get; private set; }

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

    /// <summary>Place to give up on when the test cannot be reached: the harder of the two.</summary>
    public string HarderPlace =>
        Open.Kit.Plan.Places(Test!.At)
            .OrderBy(p => Open.Diagnosis.Situation.Opened.Contains(p.Id))
            .ThenByDescending(p => p.Minutes)
            .FirstOrDefault()
            ?.Id.Text
        ?? "";

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
            Wanted = string.Create(CultureInfo.InvariantCulture, $"{Condition};{Red};{Black}");
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

    private void Show()
    {
        var wanted = WantedTest();
        Stir = wanted is null ? WiggleAsked() ?? Open.Diagnosis.WiggleFirst : null;
        Test = Stir is null ? wanted ?? Open.Diagnosis.Next : Stir.Watch;
        Outlook = Test is null ? null : Outlook.Of(Open.Diagnosis.Beliefs, Test.At);
        LookFirst = Looking
            .Places(Open.Diagnosis.Beliefs, Open.Diagnosis.Situation, 1)
            .FirstOrDefault(p => p.Finds > 0.02);
        var view = new OpenJobView(Open.Machine, Open.Diagnosis);
        var lines = Open.Kit.Lines.Select(l => LineDrawing.Of(view, l)).ToList();
        Line = lines.Find(l => l.Path.Part?.Text == LineThrough) ?? lines.MaxBy(l => l.Suspicions().Sum(s => s.Share));
        if (LineThrough == "loom")
        {
            Line = null;
        }
    }

    /// <inheritdoc/>
    protected override int? AsksCondition =>
        Wanted?.Split(';') is [var condition, _, _]
        && int.TryParse(condition, NumberStyles.None, CultureInfo.InvariantCulture, out var c)
            ? c
            : null;

    /// <summary>What the page was asked to have stirred, or what was sent and refused; null for none.</summary>
    private PlannedWiggle? WiggleAsked() =>
        WiggleWords.Read(Open.Kit.WiggleTests, WantedWiggle ?? Stirring) is { } asked
            ? Open.Kit.WiggleTests.Plan(Open.Diagnosis.Beliefs, Open.Diagnosis.Situation, asked.Reach, asked.By)
            : null;

    /// <summary>The two points sent with a form; null where nothing is read between them here.</summary>
    private ProbePair? AskedPair() => Condition is { } condition ? PairOf(condition, Red, Black) : null;

    private PlannedTest? WantedTest() =>
        AsksCondition is { } c && Wanted?.Split(';') is [_, var red, var black] && PairOf(c, red, black) is { } at
            ? Open.Diagnosis.Tests.FirstOrDefault(t => t.At == at)
                ?? Open.Kit.Plan.Plan(at, Open.Diagnosis.Situation, 0)
            : null;

    private ProbePair? PairOf(int condition, string? red, string? black)
    {
        var (from, to) = (PointId.Of(red ?? ""), PointId.Of(black ?? ""));
        if (
            condition < 0
            || condition >= Open.Kit.Table.Conditions.Count
            || !Open.Circuit.HasNode(from)
            || !Open.Circuit.HasNode(to)
        )
        {
            return null;
        }

        var at = new ProbePair(condition, Open.Circuit.NodeOf(from), Open.Circuit.NodeOf(to));
        return Open.Kit.Reads(at) ? at : null;
    }
}
