using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>A sheet of one's own points to be begun.</summary>
/// <param name="Name">What it is called.</param>
public sealed record PointsRequest(string Name);

/// <summary>Two points to be put on it.</summary>
/// <param name="Words">Where the probes go, and how things stand.</param>
/// <param name="Reads">How it is read: volts, ohms, amps, clamp-amps, diode, acVolts, peakVolts.</param>
/// <param name="Wanted">What it should come to: "12.6 ± 0.1", "at most 0.2", "9.6 to 12", "OL".</param>
/// <param name="After">Sequence of the last step its author had seen; the last there is when left out.</param>
public sealed record PointRequest(string Words, string Reads, string Wanted, int? After = null);

/// <summary>What was read of a point.</summary>
/// <param name="Figure">As shown: "0.6", "OL".</param>
/// <param name="After">Sequence of the last step its author had seen; the last there is when left out.</param>
public sealed record PointReadingRequest(string Figure, int? After = null);

/// <summary>Sheets of one's own points over the API: begin, place, read, undo.</summary>
internal static class PointApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var points = api.MapGroup("/points").WithTags("Points of one’s own").ChangedBy(MemberRole.Helper);
        points
            .MapPost("", BeginAsync)
            .WithSummary("Begin a sheet of points of one’s own")
            .Accepts<PointsRequest>("application/json")
            .ProducesValidationProblem();
        points.MapGet("/{tag}", GetAsync).WithSummary("A sheet: its points, what they should read and what they do");
        points
            .MapPost("/{tag}/points", PlaceAsync)
            .WithSummary("Put a point on it, with its target")
            .Accepts<PointRequest>("application/json")
            .ProducesValidationProblem();
        points
            .MapPost("/{tag}/points/{point}/readings", ReadAsync)
            .WithSummary("Enter what a point reads")
            .Accepts<PointReadingRequest>("application/json")
            .ProducesValidationProblem();
        points
            .MapPost("/{tag}/undo", UndoAsync)
            .WithSummary("Take the last step back")
            .Accepts<UndoPartTestRequest>("application/json");
    }

    private static async Task<IResult> BeginAsync(HttpRequest request, PointDesk desk, CancellationToken cancel)
    {
        var wanted = await RequestBody.ReadAsync<PointsRequest>(request);
        var (number, why) = await desk.BeginAsync(wanted.Name, cancel);
        return number is { } begun
            ? Results.Created(
                $"/api/v1/points/{PartTestStore.TagOf(begun)}",
                View((await desk.OpenAsync(begun, cancel))!)
            )
            : throw new RefusedException("name", why);
    }

    private static async Task<IResult> GetAsync(string tag, PointDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open
            ? Results.Ok(View(open))
            : Results.Problem($"There is no sheet of points “{tag}”.", statusCode: StatusCodes.Status404NotFound);

    private static Task<IResult> PlaceAsync(
        string tag,
        HttpRequest request,
        PointDesk desk,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenPoints, PointRequest>(
            request,
            () => FindAsync(tag, desk, cancel),
            "wanted",
            (open, wanted) =>
                desk.PlaceAsync(
                    open,
                    wanted.After ?? open.State.Sequence,
                    wanted.Words,
                    wanted.Reads,
                    wanted.Wanted,
                    cancel
                ),
            () => GetAsync(tag, desk, cancel)
        );

    private static Task<IResult> ReadAsync(
        string tag,
        string point,
        HttpRequest request,
        PointDesk desk,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenPoints, PointReadingRequest>(
            request,
            () => FindAsync(tag, desk, cancel),
            "figure",
            (open, wanted) => desk.ReadAsync(open, wanted.After ?? open.State.Sequence, point, wanted.Figure, cancel),
            () => GetAsync(tag, desk, cancel)
        );

    private static Task<IResult> UndoAsync(string tag, HttpRequest request, PointDesk desk, CancellationToken cancel) =>
        StepApi.ActAsync<OpenPoints, UndoPartTestRequest>(
            request,
            () => FindAsync(tag, desk, cancel),
            "after",
            (open, wanted) => desk.UndoAsync(open, wanted.After ?? open.State.Sequence, cancel),
            () => GetAsync(tag, desk, cancel)
        );

    private static async Task<OpenPoints?> FindAsync(string tag, PointDesk desk, CancellationToken cancel) =>
        PartTestStore.NumberOf(tag) is { } number ? await desk.OpenAsync(number, cancel) : null;

    private static object View(OpenPoints open) =>
        new
        {
            open.Entry.Tag,
            open.Entry.Name,
            open.State.Sequence,
            Points = open.Points.Select(p => new
            {
                p.Point.Id,
                p.Point.Words,
                Reads = p.Point.Reads.Key,
                Least = Finite(p.Point.Wanted.Least),
                Most = Finite(p.Point.Wanted.Most),
                Wanted = p.Point.Wanted.Words(p.Point.Reads.Unit),
                p.Read?.Typed,
                Figure = Finite(p.Read?.Figure),
                OverRange = p.Read is { Figure: double.PositiveInfinity },
                Doubt = p.Read is null ? (double?)null : p.Doubt,
                p.Outcome,
            }),
        };

    private static double? Finite(double? figure) => figure is { } f && double.IsFinite(f) ? f : null;
}
