using Pritchel.Core.Jobs;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Grounds;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>Part tests over the API: list, begin, read, undo, export.</summary>
internal static class PartTestApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var tests = api.MapGroup("/part-tests").WithTags("Part tests").ChangedBy(MemberRole.Helper);
        tests
            .MapGet("", (PartTestStore store, CancellationToken cancel) => store.ListAsync(cancel))
            .WithSummary("List part tests");
        tests
            .MapPost("", BeginAsync)
            .WithSummary("Begin a part test, of a machine's part or of a loose one")
            .Accepts<PartTestRequest>("application/json")
            .ProducesValidationProblem();
        tests.MapGet("/{tag}", GetAsync).WithSummary("A part test with its verdict");
        tests
            .MapPost("/{tag}/readings", ReadAsync)
            .WithSummary("Enter a figure")
            .Accepts<PartReadingRequest>("application/json")
            .ProducesValidationProblem();
        tests
            .MapPost("/{tag}/looks", LookAsync)
            .WithSummary("Tell whether something looked for was there")
            .Accepts<PartLookRequest>("application/json")
            .ProducesValidationProblem();
        tests.MapGet("/{tag}/grounds", GroundsAsync).WithSummary("A ground survey with what explains its figures");
        tests
            .MapPost("/{tag}/grounds", ReadGroundAsync)
            .WithSummary("Enter a point of a ground survey, in millivolts")
            .Accepts<PartReadingRequest>("application/json")
            .ProducesValidationProblem();
        tests
            .MapPost("/{tag}/undo", UndoAsync)
            .WithSummary("Take the last step back")
            .Accepts<UndoPartTestRequest>("application/json");
        tests
            .MapPost("/{tag}/save", SaveAsync)
            .WithSummary("Take a part test's verdict, or a survey's figures, over into its job");
        tests
            .MapGet("/{tag}/readings.csv", CsvAsync)
            .WithSummary("Readings as CSV")
            .Produces<string>(contentType: "text/csv");
    }

    private static async Task<IResult> BeginAsync(
        HttpRequest request,
        PartTestDesk desk,
        GroundDesk grounds,
        CancellationToken cancel
    )
    {
        var wanted = await RequestBody.ReadAsync<PartTestRequest>(request);
        if (wanted is { Sheet: GroundSheet.Key, Machine: { } surveyed })
        {
            var survey =
                await grounds.BeginAsync(surveyed, wanted.Job, cancel)
                ?? throw new RefusedException("machine", "There is no such machine, or it has no battery.");
            return Results.Created(
                $"/api/v1/part-tests/{PartTestStore.TagOf(survey)}/grounds",
                View((await grounds.OpenAsync(survey, cancel))!)
            );
        }

        var number = wanted switch
        {
            { Machine: { } machine, Part: { } part } => await desk.BeginAsync(
                machine,
                part,
                wanted.Job,
                wanted.Sheet,
                wanted.Suspected,
                cancel
            ) ?? throw new RefusedException("part", "There is no such part on that machine, or no sheet for it."),
            { Kind: { } kind } when Refused(kind, wanted) is { } refused => throw refused,
            { Kind: { } kind } => await desk.BeginLooseAsync(
                kind,
                wanted.Name ?? SheetWords.Kind(kind),
                wanted.Figures,
                wanted.Sheet,
                cancel
            ) ?? throw new RefusedException("kind", "No sheet is for that kind of part."),
            _ => throw new RefusedException("", "Give \"machine\" and \"part\", or \"kind\"."),
        };
        var open = await desk.OpenAsync(number, cancel);
        return Results.Created($"/api/v1/part-tests/{PartTestStore.TagOf(number)}", View(open!));
    }

    private static RefusedException? Refused(string kind, PartTestRequest wanted)
    {
        if (DeviceKinds.Named(kind) is not { } known)
        {
            return new RefusedException("kind", $"“{kind}” is not a kind of part.");
        }

        if (FigureRules.OfName(wanted.Name ?? SheetWords.Kind(kind)) is { } name)
        {
            return new RefusedException("name", name);
        }

        return (wanted.Figures ?? [])
            .Select(f => (f.Key, Why: FigureRules.OfFigure(known, f.Key, f.Value)))
            .Where(f => f.Why is not null)
            .Select(f => new RefusedException($"figures.{f.Key}", f.Why!))
            .FirstOrDefault();
    }

    private static async Task<IResult> GetAsync(string tag, PartTestDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open ? Results.Ok(View(open)) : NotThere(tag);

    private static async Task<IResult> CsvAsync(string tag, PartTestDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open
            ? Results.Text(PartTestLists.Csv(open), "text/csv")
            : NotThere(tag);

    private static Task<IResult> ReadAsync(
        string tag,
        HttpRequest request,
        PartTestDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<PartReadingRequest>(
            tag,
            request,
            desk,
            "figure",
            (open, wanted) =>
                desk.ReadAsync(open, wanted.After ?? open.State.Sequence, wanted.Reading, wanted.Figure, cancel),
            cancel
        );

    private static Task<IResult> LookAsync(
        string tag,
        HttpRequest request,
        PartTestDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<PartLookRequest>(
            tag,
            request,
            desk,
            "look",
            (open, wanted) =>
                desk.LookAsync(open, wanted.After ?? open.State.Sequence, wanted.Look, wanted.Seen, cancel),
            cancel
        );

    private static Task<IResult> UndoAsync(
        string tag,
        HttpRequest request,
        PartTestDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<UndoPartTestRequest>(
            tag,
            request,
            desk,
            "after",
            (open, wanted) => desk.UndoAsync(open, wanted.After ?? open.State.Sequence, cancel),
            cancel
        );

    private static Task<IResult> ActAsync<T>(
        string tag,
        HttpRequest request,
        PartTestDesk desk,
        string field,
        Func<OpenPartTest, T, Task<string?>> act,
        CancellationToken cancel
    )
        where T : class =>
        StepApi.ActAsync(request, () => FindAsync(tag, desk, cancel), field, act, () => GetAsync(tag, desk, cancel));

    private static async Task<IResult> GroundsAsync(string tag, GroundDesk grounds, CancellationToken cancel) =>
        await FindAsync(tag, grounds, cancel) is { } open ? Results.Ok(View(open)) : NotThere(tag);

    private static Task<IResult> ReadGroundAsync(
        string tag,
        HttpRequest request,
        GroundDesk grounds,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenSurvey, PartReadingRequest>(
            request,
            () => FindAsync(tag, grounds, cancel),
            "figure",
            (open, wanted) =>
                grounds.ReadAsync(open, wanted.After ?? open.State.Sequence, wanted.Reading, wanted.Figure, cancel),
            () => GroundsAsync(tag, grounds, cancel)
        );

    private static async Task<OpenSurvey?> FindAsync(string tag, GroundDesk grounds, CancellationToken cancel) =>
        PartTestStore.NumberOf(tag) is { } number ? await grounds.OpenAsync(number, cancel) : null;

    private static object View(OpenSurvey open) =>
        new
        {
            open.Entry.Tag,
            open.Entry.MachineId,
            open.State.Sequence,
            Points = open.Survey.Points.Select(
                (p, i) =>
                    new
                    {
                        Reading = p.At.Text,
                        p.Words,
                        Place = p.Place.Name,
                        Setting = p
                            .Setting.Moved(open.Machine.Machine)
                            .ToDictionary(s => s.Key.Text, s => s.Value.Text),
                        p.ByBulb,
                        p.Cranks,
                        SoundMillivolts = 1000 * p.Sound.Value,
                        Millivolts = open.Figures.TryGetValue(i, out var volts) ? 1000 * volts : (double?)null,
                    }
            ),
            Suspects = open.Suspects.Select(s => new
            {
                s.Words,
                Ohms = s.Extra.Value,
                s.IsOpen,
                Amps = s.Carries.Value,
                LostVolts = s.Lost.Value,
                s.Share,
            }),
            NotGround = open.Survey.Isolated.Select(p => p.Name),
        };

    private static async Task<IResult> SaveAsync(
        string tag,
        PartTestDesk desk,
        GroundDesk grounds,
        JobDesk jobs,
        CancellationToken cancel
    )
    {
        var (survey, sheet) = (await FindAsync(tag, grounds, cancel), await FindAsync(tag, desk, cancel));
        if (
            JobStore.NumberOf((survey?.Entry ?? sheet?.Entry)?.Job ?? "") is not { } number
            || await jobs.OpenAsync(number, cancel: cancel) is not { } job
        )
        {
            return NotThere(tag);
        }

        var error = "Too little has been read: nothing can be taken over yet.";
        IReadOnlyList<JobEvent> events =
            survey is not null ? [.. SurveyEvidence.Of(survey, job, out error)]
            : SheetEvidence.IsReady(sheet!) ? [SheetEvidence.Of(sheet!)]
            : [];
        if (events.Count == 0)
        {
            throw new RefusedException("", error);
        }

        var added = await jobs.AppendAsync(job, job.State.Sequence, events, cancel);
        return added.Kept
            ? Results.Ok(new { job.Job.Tag, Added = events.Count })
            : throw new RefusedException("", added.Why!);
    }

    private static async Task<OpenPartTest?> FindAsync(string tag, PartTestDesk desk, CancellationToken cancel) =>
        PartTestStore.NumberOf(tag) is { } number ? await desk.OpenAsync(number, cancel) : null;

    private static IResult NotThere(string tag) =>
        Results.Problem($"There is no part test “{tag}”.", statusCode: StatusCodes.Status404NotFound);

    private static object View(OpenPartTest open) =>
        new
        {
            open.Entry.Tag,
            open.Entry.Name,
            Sheet = open.Sheet.Key,
            open.Entry.MachineId,
            open.Entry.PartId,
            open.Entry.Job,
            open.State.Sequence,
            Readings = open.Table.Readings.Select(
                (r, i) =>
                    new
                    {
                        r.Id,
                        r.Words,
                        r.How,
                        Quantity = r.Observable.Key,
                        r.Observable.Unit,
                        Red = SheetWords.Point(open, r.Red),
                        Black = SheetWords.Point(open, r.Black),
                        Setting = r.Setting.ToDictionary(s => s.Key.Text, s => s.Value.Text),
                        r.Speed,
                        r.Caution,
                        Typed = open.State.Read.FirstOrDefault(x => x.Reading == r.Id)?.Typed,
                        Sound = SheetWords.Expected(open, i),
                    }
            ),
            Verdict = new
            {
                open.Verdict.Outcome,
                Words = SheetWords.Title(open),
                Sentences = SheetWords.Of(open),
                Sound = open.Beliefs.Sound,
                Among = open.Verdict.Among.Select(s => s.Words),
                Next = open.Verdict.Next < 0 ? null : open.Table.Readings[open.Verdict.Next].Id,
            },
            Looks = open.Sheet.Looks.Select(l => new
            {
                l.Id,
                l.Words,
                Seen = open.State.Looked.TryGetValue(l.Id, out var seen) ? (bool?)seen : null,
            }),
            Earlier = open.Earlier.Select(e => new
            {
                e.Entry.Tag,
                e.Entry.BegunUtc,
                Readings = e.State.Read.ToDictionary(r => r.Reading, r => r.Typed, StringComparer.Ordinal),
            }),
            WorkedOut = open.Sheet.Arithmetic(open.State.Began.Tested, open.Figures, open.State.Told.Celsius),
            DoesNotProve = open.Sheet.DoesNotProve,
            NotSeenHere = open.Table.Hidden.Select(h => h.Words),
            open.Sheet.Sources,
        };
}

/// <summary>A part test to be begun.</summary>
/// <param name="Machine">Machine; with <paramref name="Part"/>.</param>
/// <param name="Part">Part of it.</param>
/// <param name="Kind">Kind of a loose part.</param>
/// <param name="Name">What the loose part is called.</param>
/// <param name="Figures">What its label says, by figure.</param>
/// <param name="Job">Tag of the job that it belongs to.</param>
/// <param name="Sheet">Key of the sheet; the first that is for the part when left out.</param>
/// <param name="Suspected">Fault that the sheet is to show where none is named, as a job's next-test gives it.</param>
public sealed record PartTestRequest(
    string? Machine = null,
    string? Part = null,
    string? Kind = null,
    string? Name = null,
    Dictionary<string, double>? Figures = null,
    string? Job = null,
    string? Sheet = null,
    string? Suspected = null
);

/// <summary>Something looked for.</summary>
/// <param name="Look">Id of the look.</param>
/// <param name="Seen">Whether it was there.</param>
/// <param name="After">Sequence of the last step seen; the last one there is when left out.</param>
public sealed record PartLookRequest(string Look, bool Seen, int? After = null);

/// <summary>A figure read.</summary>
/// <param name="Reading">Id of the reading.</param>
/// <param name="Figure">As typed: "0.4", "4k7", "OL".</param>
/// <param name="After">Sequence of the last step seen; the last one there is when left out.</param>
public sealed record PartReadingRequest(string Reading, string Figure, int? After = null);

/// <summary>The last step taken back.</summary>
/// <param name="After">Sequence of the last step seen; the last one there is when left out.</param>
public sealed record UndoPartTestRequest(int? After = null);
