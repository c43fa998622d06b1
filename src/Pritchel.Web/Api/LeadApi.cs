using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Leads;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Api;

/// <summary>Leads to be told apart.</summary>
/// <param name="Leads">Their colours, parted by commas.</param>
/// <param name="Name">What the part is called.</param>
public sealed record LeadsRequest(string Leads, string? Name = null);

/// <summary>What two leads read.</summary>
/// <param name="One">Number of a lead, from 0; the core comes after the last.</param>
/// <param name="Other">Number of the other.</param>
/// <param name="Figure">As shown: "0.6", "OL".</param>
/// <param name="After">Sequence of the last step its author had seen; the last there is when left out.</param>
public sealed record LeadReadingRequest(int One, int Other, string Figure, int? After = null);

/// <summary>Leads of a part that nobody knows, over the API: begin, read, undo.</summary>
internal static class LeadApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var leads = api.MapGroup("/leads").WithTags("Unknown leads").ChangedBy(MemberRole.Helper);
        leads
            .MapPost("", BeginAsync)
            .WithSummary("Begin to tell leads apart")
            .Accepts<LeadsRequest>("application/json")
            .ProducesValidationProblem();
        leads.MapGet("/{tag}", GetAsync).WithSummary("Leads: which belong together, what they are, what to read next");
        leads
            .MapPost("/{tag}/readings", ReadAsync)
            .WithSummary("Enter what two leads read")
            .Accepts<LeadReadingRequest>("application/json")
            .ProducesValidationProblem();
        leads
            .MapPost("/{tag}/undo", UndoAsync)
            .WithSummary("Take the last reading back")
            .Accepts<UndoPartTestRequest>("application/json");
    }

    private static async Task<IResult> BeginAsync(HttpRequest request, PartTestStore tests, CancellationToken cancel)
    {
        var wanted = await RequestBody.ReadAsync<LeadsRequest>(request);
        if (LeadSheet.Begin(wanted.Name, wanted.Leads, out var error) is not { } began)
        {
            throw new RefusedException(error.Split(':')[0].ToLowerInvariant(), error);
        }

        var tag = PartTestStore.TagOf(await tests.BeginAsync(began, cancel));
        return Results.Created($"/api/v1/leads/{tag}", View((await FindAsync(tag, tests, cancel))!));
    }

    private static async Task<IResult> GetAsync(string tag, PartTestStore tests, CancellationToken cancel) =>
        await FindAsync(tag, tests, cancel) is { } open ? Results.Ok(View(open)) : NotThere(tag);

    private static Task<IResult> ReadAsync(
        string tag,
        HttpRequest request,
        PartTestStore tests,
        MeterStore meters,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenLeads, LeadReadingRequest>(
            request,
            () => FindAsync(tag, tests, cancel),
            "figure",
            async (open, wanted) =>
                LeadSheet.Answered(
                    open.Known,
                    LeadPair.Of(wanted.One, wanted.Other),
                    wanted.Figure,
                    await meters.GetAsync(cancel),
                    out var error
                )
                    is { } read
                    ? await AppendAsync(tests, open, wanted.After, read, cancel)
                    : error,
            () => GetAsync(tag, tests, cancel)
        );

    private static Task<IResult> UndoAsync(
        string tag,
        HttpRequest request,
        PartTestStore tests,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenLeads, UndoPartTestRequest>(
            request,
            () => FindAsync(tag, tests, cancel),
            "after",
            async (open, wanted) =>
                open.State.Undoable is { } last
                    ? await AppendAsync(tests, open, wanted.After, new SheetUndone(last.Sequence), cancel)
                    : "Nothing is left to take back.",
            () => GetAsync(tag, tests, cancel)
        );

    private static async Task<string?> AppendAsync(
        PartTestStore tests,
        OpenLeads open,
        int? after,
        SheetStep step,
        CancellationToken cancel
    ) =>
        await tests.AppendAsync(open.Entry.Number, after ?? open.State.Sequence, step, cancel)
            ? null
            : "Something was entered meanwhile; read it again.";

    private sealed record OpenLeads(PartTestEntry Entry, SheetState State)
    {
        public UnknownLeads Known { get; } = LeadSheet.Of(State);

        public IReadOnlyList<string> Colours { get; } = LeadSheet.Colours(State);
    }

    private static async Task<OpenLeads?> FindAsync(string tag, PartTestStore tests, CancellationToken cancel) =>
        PartTestStore.NumberOf(tag) is { } number
        && await tests.FindAsync(number, cancel) is var (entry, state)
        && state.Began.Sheet == LeadSheet.Key
            ? new OpenLeads(entry, state)
            : null;

    private static IResult NotThere(string tag) =>
        Results.Problem($"There are no leads “{tag}”.", statusCode: StatusCodes.Status404NotFound);

    private static object View(OpenLeads open) =>
        new
        {
            open.Entry.Tag,
            open.Entry.Name,
            open.State.Sequence,
            Leads = Enumerable
                .Range(0, open.Known.Points)
                .Select(p => new { Number = p, Name = UnknownLeadWords.Lead(open.Colours, p) }),
            Groups = open.Known.Groups.Select(g => new
            {
                Leads = g.Points,
                g.Kind,
                g.Order,
                Ohms = double.IsFinite(g.Whole) ? g.Whole : (double?)null,
                Words = UnknownLeadWords.Of(g, open.Colours, open.Known.OhmsOf),
            }),
            Next = open.Known.Next,
        };
}
