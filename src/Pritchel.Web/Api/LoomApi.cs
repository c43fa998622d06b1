using Pritchel.Core.Rewiring.Tracing;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>Unknown looms over the API: begin, read, follow, undo.</summary>
internal static class LoomApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var looms = api.MapGroup("/looms").WithTags("Unknown looms").ChangedBy(MemberRole.Helper);
        looms
            .MapPost("", BeginAsync)
            .WithSummary("Begin to trace an unknown loom")
            .Accepts<LoomRequest>("application/json")
            .ProducesValidationProblem();
        looms.MapGet("/{tag}", GetAsync).WithSummary("A loom: its copper, parts, switches and what to read next");
        looms
            .MapPost("/{tag}/readings", ReadAsync)
            .WithSummary("Enter what two ends read")
            .Accepts<LoomReadingRequest>("application/json")
            .ProducesValidationProblem();
        looms
            .MapPost("/{tag}/followed", FollowAsync)
            .WithSummary("Tell what an end was followed to")
            .Accepts<LoomFollowedRequest>("application/json")
            .ProducesValidationProblem();
        looms
            .MapPost("/{tag}/undo", UndoAsync)
            .WithSummary("Take the last step back")
            .Accepts<UndoPartTestRequest>("application/json");
    }

    private static async Task<IResult> BeginAsync(HttpRequest request, LoomDesk desk, CancellationToken cancel)
    {
        var wanted = await RequestBody.ReadAsync<LoomRequest>(request);
        var (number, why) = await desk.BeginAsync(wanted.Name, wanted.Plugs, wanted.Switches, cancel);
        return number is { } begun
            ? Results.Created(
                $"/api/v1/looms/{PartTestStore.TagOf(begun)}",
                View((await desk.OpenAsync(begun, cancel))!)
            )
            : throw new RefusedException(why.Split(':')[0].ToLowerInvariant(), why);
    }

    private static async Task<IResult> GetAsync(string tag, LoomDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open ? Results.Ok(View(open)) : NotThere(tag);

    private static Task<IResult> ReadAsync(string tag, HttpRequest request, LoomDesk desk, CancellationToken cancel) =>
        ActAsync<LoomReadingRequest>(
            tag,
            request,
            desk,
            "reads",
            (open, wanted) =>
                desk.ReadAsync(
                    open,
                    wanted.After ?? open.State.Sequence,
                    new LoomQuestion(
                        new LoomSetting(wanted.Switch ?? -1, wanted.Position ?? 0),
                        EndOf(open, wanted.One, "one"),
                        EndOf(open, wanted.Other, "other")
                    ),
                    wanted.Reads,
                    cancel
                ),
            cancel
        );

    private static Task<IResult> FollowAsync(
        string tag,
        HttpRequest request,
        LoomDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<LoomFollowedRequest>(
            tag,
            request,
            desk,
            "to",
            (open, wanted) =>
                desk.FollowAsync(
                    open,
                    wanted.After ?? open.State.Sequence,
                    EndOf(open, wanted.End, "end"),
                    wanted.To,
                    cancel
                ),
            cancel
        );

    private static Task<IResult> UndoAsync(string tag, HttpRequest request, LoomDesk desk, CancellationToken cancel) =>
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
        LoomDesk desk,
        string field,
        Func<OpenLoom, T, Task<string?>> act,
        CancellationToken cancel
    )
        where T : class =>
        StepApi.ActAsync(request, () => FindAsync(tag, desk, cancel), field, act, () => GetAsync(tag, desk, cancel));

    private static int EndOf(OpenLoom open, string? name, string field) =>
        open.Loom.Ends.Select((e, i) => (e.Name, i)).Where(e => e.Name == name).Select(e => (int?)e.i).FirstOrDefault()
        ?? throw new RefusedException(field, $"“{name}” is no end of this loom; such as “{open.Loom.Ends[0].Name}”.");

    private static async Task<OpenLoom?> FindAsync(string tag, LoomDesk desk, CancellationToken cancel) =>
        PartTestStore.NumberOf(tag) is { } number ? await desk.OpenAsync(number, cancel) : null;

    private static IResult NotThere(string tag) =>
        Results.Problem($"There is no loom “{tag}”.", statusCode: StatusCodes.Status404NotFound);

    private static object View(OpenLoom open)
    {
        string Name(int end) => open.Loom.Ends[end].Name;
        var next = open.Trace.Next;
        return new
        {
            open.Entry.Tag,
            open.Entry.Name,
            open.State.Sequence,
            Ends = open.Loom.Ends.Select(
                (e, i) =>
                    new
                    {
                        e.Name,
                        e.Plug,
                        e.Cavity,
                        e.Colour,
                        FollowedTo = open.Followed.GetValueOrDefault(i),
                    }
            ),
            Switches = open.Loom.Controls,
            Copper = open.Trace.Nets.Select(n => new
            {
                Ends = n.Ends.Select(Name),
                n.IsSure,
                n.HasSplice,
                EndMissing = n.Open,
            }),
            Parts = open.Trace.Parts.Select(p => new
            {
                p.Ohms,
                One = Name(open.Trace.Nets[p.One].Ends[0]),
                Other = Name(open.Trace.Nets[p.Other].Ends[0]),
            }),
            Contacts = open.Trace.Contacts.Select(c => new
            {
                Switch = c.Setting.Control,
                c.Setting.Position,
                One = Name(c.One),
                Other = Name(c.Other),
                c.Closes,
            }),
            Next = next is { } asked
                ? new
                {
                    Switch = asked.Setting.Control,
                    asked.Setting.Position,
                    One = Name(asked.One),
                    Other = Name(asked.Other),
                    Again = open.Trace.Again is not null,
                }
                : null,
            open.Trace.Minutes,
        };
    }
}

/// <summary>An unknown loom to be traced.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Plugs">Plugs, a line each: "P1: red, black, ?".</param>
/// <param name="Switches">Switches left in, a line each: "key behind P1: OFF, RUN".</param>
public sealed record LoomRequest(string? Name = null, string? Plugs = null, string? Switches = null);

/// <summary>What two ends read.</summary>
/// <param name="One">One end by its name.</param>
/// <param name="Other">The other.</param>
/// <param name="Reads">"beeps", "silent", or ohms as typed.</param>
/// <param name="Switch">Number of the switch that is moved; none when left out.</param>
/// <param name="Position">Number of its position.</param>
/// <param name="After">Sequence of the last step seen; the last one there is when left out.</param>
public sealed record LoomReadingRequest(
    string One,
    string Other,
    string Reads,
    int? Switch = null,
    int? Position = null,
    int? After = null
);

/// <summary>What an end was followed to.</summary>
/// <param name="End">The end by its name.</param>
/// <param name="To">What it goes to.</param>
/// <param name="After">Sequence of the last step seen; the last one there is when left out.</param>
public sealed record LoomFollowedRequest(string End, string To, int? After = null);
