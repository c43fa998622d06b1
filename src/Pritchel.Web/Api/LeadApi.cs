using Pritchel.Core.PartTests.Leads;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

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

    private static async Task<IResult> BeginAsync(HttpRequest request, LeadDesk desk, CancellationToken cancel)
    {
        var wanted = await RequestBody.ReadAsync<LeadsRequest>(request);
        var (number, why) = await desk.BeginAsync(wanted.Name, wanted.Leads, cancel);
        return number is { } begun
            ? Results.Created(
                $"/api/v1/leads/{PartTestStore.TagOf(begun)}",
                View((await desk.OpenAsync(begun, cancel))!)
            )
            : throw new RefusedException(why.Split(':')[0].ToLowerInvariant(), why);
    }

    private static async Task<IResult> GetAsync(string tag, LeadDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open ? Results.Ok(View(open)) : NotThere(tag);

    private static Task<IResult> ReadAsync(string tag, HttpRequest request, LeadDesk desk, CancellationToken cancel) =>
        StepApi.ActAsync<OpenLeads, LeadReadingRequest>(
            request,
            () => FindAsync(tag, desk, cancel),
            "figure",
            (open, wanted) =>
                desk.ReadAsync(
                    open,
                    wanted.After ?? open.State.Sequence,
                    LeadPair.Of(wanted.One, wanted.Other),
                    wanted.Figure,
                    cancel
                ),
            () => GetAsync(tag, desk, cancel)
        );

    private static Task<IResult> UndoAsync(string tag, HttpRequest request, LeadDesk desk, CancellationToken cancel) =>
        StepApi.ActAsync<OpenLeads, UndoPartTestRequest>(
            request,
            () => FindAsync(tag, desk, cancel),
            "after",
            (open, wanted) => desk.UndoAsync(open, wanted.After ?? open.State.Sequence, cancel),
            () => GetAsync(tag, desk, cancel)
        );

    private static async Task<OpenLeads?> FindAsync(string tag, LeadDesk desk, CancellationToken cancel) =>
        PartTestStore.NumberOf(tag) is { } number ? await desk.OpenAsync(number, cancel) : null;

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
