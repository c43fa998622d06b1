using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Rewiring.Plugs;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>Rewires over the API: list, begin, say what stays, join, part, undo, prove, take away.</summary>
internal static class RewireApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var rewires = api.MapGroup("/rewires").WithTags("Rewires");
        rewires
            .MapGet(
                "",
                async (RewireStore store, CancellationToken cancel) =>
                    (await store.ListAsync(cancel)).Select(e => new
                    {
                        e.Tag,
                        e.Name,
                        Host = e.Host.Id,
                        Donor = e.Donor?.Id,
                        e.BegunUtc,
                    })
            )
            .WithSummary("List rewires");
        rewires
            .MapPost("", BeginAsync)
            .WithSummary("Begin a rewire")
            .Accepts<RewireRequest>("application/json")
            .ProducesValidationProblem();
        rewires
            .MapPost("/plugs", PlugAsync)
            .WithSummary(
                "Draw a plug by hand: a machine in which usual parts stand in, to be host or donor of a rewire"
            )
            .Accepts<PlugRequest>("application/json")
            .ProducesValidationProblem();
        rewires.MapGet("/{tag}", GetAsync).WithSummary("A rewire: loose ends, joins, what fits, what to look at");
        rewires
            .MapPost("/{tag}/sides", SidesAsync)
            .WithSummary("Say what stays of each machine, and which wires are cut through")
            .Accepts<SidesRequest>("application/json")
            .ProducesValidationProblem();
        rewires
            .MapPost("/{tag}/joins", JoinAsync)
            .WithSummary("Join ends, or take over what is suggested")
            .Accepts<JoinRequest>("application/json")
            .ProducesValidationProblem();
        rewires
            .MapPost("/{tag}/parted", PartAsync)
            .WithSummary("Part a join again")
            .Accepts<PartedRequest>("application/json")
            .ProducesValidationProblem();
        rewires
            .MapPost("/{tag}/undo", UndoAsync)
            .WithSummary("Take the last step back")
            .Accepts<UndoRewireRequest>("application/json");
        rewires.MapGet("/{tag}/proof", ProofAsync).WithSummary("The design proved against the machine as it was");
        rewires.MapGet("/{tag}/machine", MachineAsync).WithSummary("The machine that comes of it, as a machine file");
    }

    private static async Task<IResult> BeginAsync(HttpRequest request, RewireDesk desk, CancellationToken cancel)
    {
        var wanted = await RequestBody.ReadAsync<RewireRequest>(request);
        var (number, why) = await desk.BeginAsync(wanted.Name, wanted.Host, wanted.Donor, cancel);
        if (number is not { } begun)
        {
            throw new RefusedException(
                why!.StartsWith("Name", StringComparison.Ordinal) ? "name"
                    : why.StartsWith("Machine", StringComparison.Ordinal) ? "host"
                    : "donor",
                why
            );
        }

        return Results.Created(
            $"/api/v1/rewires/{RewireStore.TagOf(begun)}",
            View((await desk.OpenAsync(begun, cancel))!)
        );
    }

    private static async Task<IResult> PlugAsync(HttpRequest request, RewireDesk desk, CancellationToken cancel)
    {
        var wanted = await RequestBody.ReadAsync<PlugRequest>(request);
        var plug = new HandPlug(
            wanted.Half,
            [
                .. (wanted.Leads ?? []).Select(l => new HandLead(
                    l?.Cavity ?? "",
                    [.. l?.Colours ?? []],
                    l?.Function ?? LeadFunction.Unknown,
                    l?.Known ?? HowKnown.ByColour
                )),
            ]
        );
        var (entry, why) = await desk.DrawPlugAsync(wanted.Name, plug, cancel);
        return entry is null
            ? throw new RefusedException(why!.StartsWith("Name", StringComparison.Ordinal) ? "name" : "leads", why)
            : Results.Created($"/api/v1/machines/{entry.Id}", entry);
    }

    private static async Task<IResult> GetAsync(string tag, RewireDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open ? Results.Ok(View(open)) : NotThere(tag);

    private static Task<IResult> SidesAsync(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<SidesRequest>(
            tag,
            request,
            desk,
            "host.cuts",
            (open, wanted) =>
                desk.KeepAsync(
                    open,
                    wanted.After ?? open.State.Sequence,
                    (
                        wanted.Host?.Keeps ?? [.. open.Plan.Host.Keeps.Select(k => k.Text)],
                        Cuts(wanted.Host, open.Plan.Host)
                    ),
                    (
                        wanted.Donor?.Keeps ?? [.. open.Plan.Donor?.Keeps.Select(k => k.Text) ?? []],
                        Cuts(wanted.Donor, open.Plan.Donor)
                    ),
                    cancel
                ),
            cancel
        );

    private static Task<IResult> JoinAsync(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<JoinRequest>(
            tag,
            request,
            desk,
            "ends",
            (open, wanted) =>
                wanted.Suggested == true
                    ? desk.JoinSuggestedAsync(open, wanted.After ?? open.State.Sequence, cancel)
                    : desk.JoinAsync(
                        open,
                        wanted.After ?? open.State.Sequence,
                        wanted.Ends ?? [],
                        wanted.Onto,
                        wanted.Temporary == true,
                        cancel
                    ),
            cancel
        );

    private static Task<IResult> PartAsync(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<PartedRequest>(
            tag,
            request,
            desk,
            "join",
            (open, wanted) => desk.PartAsync(open, wanted.After ?? open.State.Sequence, wanted.Join, cancel),
            cancel
        );

    private static Task<IResult> UndoAsync(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        CancellationToken cancel
    ) =>
        ActAsync<UndoRewireRequest>(
            tag,
            request,
            desk,
            "after",
            (open, wanted) => desk.UndoAsync(open, wanted.After ?? open.State.Sequence, cancel),
            cancel
        );

    private static async Task<IResult> ProofAsync(string tag, RewireDesk desk, CancellationToken cancel)
    {
        if (await FindAsync(tag, desk, cancel) is not { } open)
        {
            return NotThere(tag);
        }

        var proved = desk.Prove(open);
        if (proved.Work is null)
        {
            throw new RefusedException("machine", string.Join(" ", proved.Lacks.Select(l => l.Message)));
        }

        var proof = await proved.Work.Result.AsideAsync(cancel);
        return Results.Ok(
            new
            {
                proof.IsSound,
                proof.Settings,
                proof.Faults,
                Findings = proof.Findings.Select(f => new
                {
                    f.Kind,
                    f.Words,
                    Fault = f.Fault?.Text,
                }),
                Rows = proof.Rows.Select(r => new
                {
                    Settings = r.Settings.Select(s => s.Words(proof.After.Machine)),
                    r.Before,
                    r.After,
                    r.IsWrong,
                }),
            }
        );
    }

    private static async Task<IResult> MachineAsync(string tag, RewireDesk desk, CancellationToken cancel) =>
        await FindAsync(tag, desk, cancel) is { } open
            ? Results.Text(MachineFile.Write(Marriage.Of(open.Plan.ForWork).Machine), "application/json")
            : NotThere(tag);

    private static Task<IResult> ActAsync<T>(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        string field,
        Func<OpenRewire, T, Task<string?>> act,
        CancellationToken cancel
    )
        where T : class =>
        StepApi.ActAsync(request, () => FindAsync(tag, desk, cancel), field, act, () => GetAsync(tag, desk, cancel));

    /// <summary>Wires cut through as asked; as they stand where nothing is said of the side.</summary>
    private static string Cuts(SideRequest? asked, RewireSide? side) =>
        string.Join(' ', asked is null ? side?.Cuts.Select(c => c.Text) ?? [] : asked.Cuts ?? []);

    /// <summary>A rewire laid out; null when there is none of that tag.</summary>
    internal static async Task<OpenRewire?> FindAsync(string tag, RewireDesk desk, CancellationToken cancel) =>
        RewireStore.NumberOf(tag) is { } number ? await desk.OpenAsync(number, cancel) : null;

    /// <summary>What is answered where there is none.</summary>
    internal static IResult NotThere(string tag) =>
        Results.Problem($"There is no rewire “{tag}”.", statusCode: StatusCodes.Status404NotFound);

    private static object View(OpenRewire open) =>
        new
        {
            open.Entry.Tag,
            open.Entry.Name,
            Host = open.Host.Id,
            Donor = open.Donor?.Id,
            open.State.Sequence,
            Ends = open.Ends.Select(e => new
            {
                e.Flag,
                End = e.End.Text,
                e.Where,
                e.Colours,
                e.Gauge,
                Function = RewireWords.Of(e.Function),
                e.Function.Kind,
                e.Function.Gives,
                LeadsTo = e.Function.Stays.Select(RewireWords.Terminal),
                Led = e.Function.Lost.Select(RewireWords.Terminal),
            }),
            Joins = open.Lines.Select(l => new
            {
                Join = l.Number,
                Ends = l.Ends.Select(e => e.End.Text),
                l.Onto,
                l.How,
                Temporary = l.Join.IsTemporary,
            }),
            Suggested = open.Suggested.Select(s => new
            {
                Ends = s.Join.Ends.Select(e => e.Text),
                Onto = s.Join.Onto?.Text,
                s.Because,
            }),
            LookAt = open.Flags.Select(f => new
            {
                f.Grave,
                f.Words,
                End = f.End?.Text,
                Ends = f.Join?.Ends.Select(e => e.Text),
            }),
        };
}

/// <summary>A rewire to be begun.</summary>
/// <param name="Name">What it is to do.</param>
/// <param name="Host">Machine that is rewired.</param>
/// <param name="Donor">Machine that something comes from; none when missing.</param>
internal sealed record RewireRequest(string? Name = null, string? Host = null, string? Donor = null);

/// <summary>A plug drawn by hand.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Half">Which half is in hand: "ofEngine" or "ofMachine".</param>
/// <param name="Leads">Its leads.</param>
internal sealed record PlugRequest(
    string? Name = null,
    PlugHalf Half = PlugHalf.OfEngine,
    IReadOnlyList<PlugLeadRequest?>? Leads = null
);

/// <summary>A lead of it.</summary>
/// <param name="Cavity">As moulded beside it.</param>
/// <param name="Colours">Base, then tracer; none where they cannot be told.</param>
/// <param name="Function">What it is for.</param>
/// <param name="Known">How that is known; a guess when left out.</param>
internal sealed record PlugLeadRequest(
    string? Cavity = null,
    IReadOnlyList<string>? Colours = null,
    LeadFunction Function = LeadFunction.Unknown,
    HowKnown? Known = null
);

/// <summary>What is decided about one side.</summary>
/// <param name="Keeps">Parts that stay; as they are when missing.</param>
/// <param name="Cuts">Wires cut through; none when missing.</param>
internal sealed record SideRequest(IReadOnlyList<string>? Keeps = null, IReadOnlyList<string>? Cuts = null);

/// <summary>What stays of each machine.</summary>
/// <param name="Host">Of the host.</param>
/// <param name="Donor">Of the donor.</param>
/// <param name="After">Sequence of the last step seen; the newest when missing.</param>
internal sealed record SidesRequest(SideRequest? Host = null, SideRequest? Donor = null, int? After = null);

/// <summary>Ends to be joined.</summary>
/// <param name="Ends">The ends, as listed.</param>
/// <param name="Onto">Terminal that they land on, "host:part.terminal" or "donor:part.terminal"; a joint of their own when missing.</param>
/// <param name="Temporary">True for a jumper that comes out again.</param>
/// <param name="Suggested">True to take over all that is suggested instead.</param>
/// <param name="After">Sequence of the last step seen; the newest when missing.</param>
internal sealed record JoinRequest(
    IReadOnlyList<string>? Ends = null,
    string? Onto = null,
    bool? Temporary = null,
    bool? Suggested = null,
    int? After = null
);

/// <summary>A join to be parted.</summary>
/// <param name="Join">Its number.</param>
/// <param name="After">Sequence of the last step seen; the newest when missing.</param>
internal sealed record PartedRequest(int Join, int? After = null);

/// <summary>A step to be taken back.</summary>
/// <param name="After">Sequence of the last step seen; the newest when missing.</param>
internal sealed record UndoRewireRequest(int? After = null);
