using Pritchel.Core.Exchange;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>Building a rewire over the API: ways weighed, steps, cut list, joins made, lengths as built, the machine saved.</summary>
internal static class RewireBuildApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var rewires = api.MapGroup("/rewires").WithTags("Rewires");
        rewires.MapGet("/{tag}/build", BuildAsync).WithSummary("Ways weighed, steps in order, cut list and cut maps");
        rewires
            .MapPost("/{tag}/made", MadeAsync)
            .WithSummary("Say that a join is made, or not")
            .ChangedBy(MemberRole.Helper)
            .Accepts<MadeRequest>("application/json")
            .ProducesValidationProblem();
        rewires
            .MapPost("/{tag}/built", BuiltAsync)
            .WithSummary("Say how long the wire behind a flag is as built")
            .ChangedBy(MemberRole.Helper)
            .Accepts<BuiltRequest>("application/json")
            .ProducesValidationProblem();
        rewires
            .MapPost("/{tag}/machine", SaveAsync)
            .WithSummary("Save the machine that comes of it, jumpers out, as a machine of its own");
        rewires
            .MapGet("/{tag}/spice", SpiceAsync)
            .WithSummary("The machine that comes of it at rest, as a netlist for a simulator");
    }

    private static async Task<IResult> BuildAsync(string tag, RewireDesk desk, CancellationToken cancel) =>
        await RewireApi.FindAsync(tag, desk, cancel) is { } open ? Results.Ok(View(open)) : RewireApi.NotThere(tag);

    private static Task<IResult> MadeAsync(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenRewire, MadeRequest>(
            request,
            () => RewireApi.FindAsync(tag, desk, cancel),
            "join",
            (open, wanted) =>
                desk.MadeAsync(open, wanted.After ?? open.State.Sequence, wanted.Join, wanted.Made, cancel),
            () => BuildAsync(tag, desk, cancel)
        );

    private static Task<IResult> BuiltAsync(
        string tag,
        HttpRequest request,
        RewireDesk desk,
        CancellationToken cancel
    ) =>
        StepApi.ActAsync<OpenRewire, BuiltRequest>(
            request,
            () => RewireApi.FindAsync(tag, desk, cancel),
            "metres",
            (open, wanted) =>
                desk.BuiltAsync(open, wanted.After ?? open.State.Sequence, wanted.Flag, wanted.Metres, cancel),
            () => BuildAsync(tag, desk, cancel)
        );

    private static async Task<IResult> SaveAsync(string tag, RewireDesk desk, CancellationToken cancel)
    {
        if (await RewireApi.FindAsync(tag, desk, cancel) is not { } open)
        {
            return RewireApi.NotThere(tag);
        }

        var (entry, why) = await desk.SaveAsync(open, cancel);
        return entry is null
            ? throw new RefusedException("machine", why!)
            : Results.Created($"/api/v1/machines/{entry.Id}", entry);
    }

    private static async Task<IResult> SpiceAsync(string tag, RewireDesk desk, CancellationToken cancel)
    {
        if (await RewireApi.FindAsync(tag, desk, cancel) is not { } open)
        {
            return RewireApi.NotThere(tag);
        }

        var machine = Marriage.Of(open.Plan.ForWork).Machine;
        if (MachineValidator.Unsolvable(machine).FirstOrDefault() is { } lack)
        {
            throw new RefusedException("machine", lack.Message);
        }

        var circuit = Circuit.Compile(machine);
        var state = new CircuitState(circuit) { FollowsWaves = false };
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return Results.Text(SpiceNetlist.Write(state, $"{open.Entry.Tag} {open.Entry.Name}"), "text/plain");
    }

    private static object View(OpenRewire open)
    {
        var cuts = CutList.Of(open.Plan, Marriage.Of(open.Plan), open.Ends);
        return new
        {
            open.Entry.Tag,
            open.State.Sequence,
            Ways = JoiningWays
                .Of(open.Plan, open.Suggested)
                .Select(w => new
                {
                    w.Name,
                    w.Cannot,
                    JointsForGood = w.Permanent,
                    w.Contacts,
                    NewWireMetres = w.NewWire.Value,
                    Minutes = w.Minutes.Value,
                    w.ComesApart,
                    w.Papers,
                    w.Buys,
                }),
            Joins = open.Lines.Select(l => new
            {
                Join = l.Number,
                Flags = l.Ends.Select(e => e.Flag),
                l.Onto,
                l.How,
                Temporary = l.Join.IsTemporary,
                Made = open.State.Sketch.IsMade(l.Join),
            }),
            Steps = SpliceTable.Steps(open.Plan, open.Lines, open.Ends),
            CutList = cuts.Pieces.Select(p => new
            {
                p.Wire,
                p.Why,
                p.Colours,
                p.Gauge,
                LaidMetres = p.Laid.Value,
                CutMetres = p.Cut.Value,
                p.Ends,
                p.Barrel.Die,
                StripMm = p.Barrel.StripMillimetres,
                SleeveMm = p.Barrel.SleeveMillimetres,
            }),
            Spools = cuts.Spools.Select(s => new
            {
                s.Gauge,
                s.Colours,
                Metres = s.Metres.Value,
            }),
            CutMaps = CutMap
                .Of(open.Plan, open.Ends, open.Lines)
                .Select(p => new
                {
                    Plug = p.Plug.Id,
                    p.Half,
                    Leads = p.Leads.Select(l => new
                    {
                        l.Cavity,
                        l.Fate,
                        l.End?.Flag,
                        l.Join,
                    }),
                }),
        };
    }
}

/// <summary>A join that is made, or not.</summary>
/// <param name="Join">Its number.</param>
/// <param name="Made">Whether it is made.</param>
/// <param name="After">Sequence of the last step seen; the newest when missing.</param>
internal sealed record MadeRequest(int Join, bool Made = true, int? After = null);

/// <summary>A length as built.</summary>
/// <param name="Flag">Number of the flag.</param>
/// <param name="Metres">From the part that it stays on to its joint, such as "0.85"; as drawn when missing.</param>
/// <param name="After">Sequence of the last step seen; the newest when missing.</param>
internal sealed record BuiltRequest(int Flag, string? Metres = null, int? After = null);
