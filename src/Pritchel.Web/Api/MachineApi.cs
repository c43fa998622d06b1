using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Exchange;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>Machines over the API: list, export, import, points, faults, measure.</summary>
internal static class MachineApi
{
    private const string Json = "application/json";

    public static void Map(RouteGroupBuilder api)
    {
        var machines = api.MapGroup("/machines").WithTags("Machines");
        machines
            .MapGet("", (MachineStore store, CancellationToken cancel) => store.ListAsync(cancel))
            .WithSummary("List machines");
        machines.MapGet("/{id}", ExportAsync).WithSummary("Export a machine file").Produces(200, contentType: Json);
        machines.MapGet("/{id}/file", DownloadAsync).ExcludeFromDescription();
        machines
            .MapPost("", ImportAsync)
            .WithSummary("Check a machine file and bring it in")
            .Accepts<object>(Json)
            .Produces<MachineEntry>(201)
            .ProducesValidationProblem();
        machines
            .MapGet(
                "/{id}/wires.csv",
                (string id, JobDesk desk, CancellationToken cancel) =>
                    ListAsync(id, "wires", MachineLists.Wires, desk, cancel)
            )
            .WithSummary("Wires as CSV")
            .Produces<string>(contentType: "text/csv");
        machines
            .MapGet(
                "/{id}/joints.csv",
                (string id, JobDesk desk, CancellationToken cancel) =>
                    ListAsync(id, "joints", MachineLists.Joints, desk, cancel)
            )
            .WithSummary("Joints as CSV")
            .Produces<string>(contentType: "text/csv");
        machines
            .MapPost("/{id}/put-away", (string id, MachineStore s, CancellationToken c) => PutAwayAsync(id, true, s, c))
            .WithSummary("Put a machine away: in no list, its jobs and versions kept");
        machines
            .MapPost(
                "/{id}/bring-back",
                (string id, MachineStore s, CancellationToken c) => PutAwayAsync(id, false, s, c)
            )
            .WithSummary("Bring a machine back that was put away");
        machines.MapGet("/{id}/points", PointsAsync).WithSummary("List points a probe can touch");
        machines
            .MapGet("/{id}/complaints", ComplaintsAsync)
            .WithSummary("List what can be complained of, and what may be heard of each");
        machines.MapGet("/{id}/faults", FaultsAsync).WithSummary("List faults that can be planted");
        machines
            .MapPost("/{id}/measure", MeasureAsync)
            .ChangedBy(MemberRole.Reader)
            .WithSummary("Take a simulated reading")
            .Accepts<MeasureRequest>(Json)
            .Produces<MeasureResponse>()
            .ProducesValidationProblem()
            .RequireRateLimiting(HeavyRequests.Policy);
        api.MapPost("/measure", MeasurePostedAsync)
            .ChangedBy(MemberRole.Reader)
            .RequireRateLimiting(HeavyRequests.Policy)
            .WithTags("Machines")
            .WithSummary("Take a simulated reading on a machine that comes with the request")
            .Accepts<PostedMeasureRequest>(Json)
            .Produces<MeasureResponse>()
            .ProducesValidationProblem();
        machines
            .MapPost("/{id}/netlist", NetlistAsync)
            .ChangedBy(MemberRole.Reader)
            .RequireRateLimiting(HeavyRequests.Policy)
            .WithSummary("The solved case as a SPICE netlist")
            .Accepts<MeasureRequest>(Json)
            .Produces<string>(contentType: "text/plain");
    }

    private static async Task<IResult> ListAsync(
        string id,
        string name,
        Func<Machine, string> write,
        JobDesk desk,
        CancellationToken cancel
    ) =>
        await desk.MachineAsync(id, cancel) is { } found
            ? Results.File(
                System.Text.Encoding.UTF8.GetBytes(write(found.Machine)),
                "text/csv; charset=utf-8",
                $"{id}-{name}.csv"
            )
            : NoMachine(id);

    private static async Task<IResult> PutAwayAsync(string id, bool away, MachineStore store, CancellationToken cancel)
    {
        if (await store.FindAsync(id, cancel) is null)
        {
            return NoMachine(id);
        }

        await store.PutAwayAsync(id, away, cancel);
        return Results.NoContent();
    }

    private static async Task<IResult> ExportAsync(string id, MachineStore store, CancellationToken cancel) =>
        await store.FindAsync(id, cancel) is { } entry
            ? Results.Text((await store.JsonAsync(id, entry.Version, cancel))!, Json)
            : NoMachine(id);

    private static async Task<IResult> DownloadAsync(
        string id,
        int? version,
        MachineStore store,
        CancellationToken cancel
    ) =>
        await store.FindAsync(id, cancel) is { } entry
        && await store.JsonAsync(id, version ?? entry.Version, cancel) is { } json
            ? Results.File(
                System.Text.Encoding.UTF8.GetBytes(json),
                Json,
                version is null ? $"{entry.Id}.json" : $"{entry.Id}-version-{version}.json"
            )
            : NoMachine(id);

    private static async Task<IResult> ImportAsync(HttpRequest request, MachineStore store, CancellationToken cancel)
    {
        if (!request.HasJsonContentType())
        {
            throw new RefusedException("", "The body must be JSON, sent as application/json.");
        }

        var reading = await store.ReadAsync(request.Body, cancel);
        if (reading.Machine is not { } machine)
        {
            return Results.ValidationProblem(
                reading
                    .Problems.GroupBy(p => p.Pointer)
                    .ToDictionary(g => g.Key, g => g.Select(p => p.Message).ToArray(), StringComparer.Ordinal),
                title: "The machine file was refused; nothing was changed."
            );
        }

        var entry = await store.AddAsync(machine, cancel);
        return Results.Created($"/api/v1/machines/{entry.Id}", entry);
    }

    private static async Task<IResult> PointsAsync(string id, JobDesk desk, CancellationToken cancel) =>
        await desk.MachineAsync(id, cancel) is { } found
            ? Results.Ok(
                ProbePoints
                    .Of(found.Circuit)
                    .All.Select(p => new
                    {
                        p.Address,
                        p.Name,
                        p.Where,
                        Place = p.Place.Id,
                        SameMetalAs = found.Circuit.NodePoints[p.Node].Where(a => a != p.Address),
                    })
            )
            : NoMachine(id);

    private static async Task<IResult> ComplaintsAsync(string id, JobDesk desk, CancellationToken cancel) =>
        await desk.MachineAsync(id, cancel) is { } found
            ? Results.Ok(
                found.Symptoms.Select(s => new
                {
                    Duty = s.Duty.Id,
                    s.Group,
                    Words = DutyWords.Fails(s.Duty),
                    s.Duty.Load,
                    s.Duty.Speed,
                    s.Duty.Setting,
                    Heard = DutyWords
                        .Choices(DutyEffect.Of(found.Circuit, s.Duty), s.Duty)
                        .Select(h => new { Said = h.Heard, h.Words }),
                })
            )
            : NoMachine(id);

    private static async Task<IResult> FaultsAsync(string id, JobDesk desk, CancellationToken cancel) =>
        await desk.MachineAsync(id, cancel) is { } found
            ? Results.Ok(
                found.Circuit.Faults.Select(f => new
                {
                    Id = f.Id.Text,
                    f.Kind,
                    f.Words,
                    Repair = f.Repair.Name,
                })
            )
            : NoMachine(id);

    private static async Task<IResult> MeasureAsync(
        string id,
        HttpRequest request,
        JobDesk desk,
        MeterStore meters,
        CancellationToken cancel
    )
    {
        if (await desk.MachineAsync(id, cancel) is not { } found)
        {
            return NoMachine(id);
        }

        var wanted = await RequestBody.ReadAsync<MeasureRequest>(request);
        return Measured(found.Circuit, wanted, await meters.GetAsync(cancel), "");
    }

    private static async Task<IResult> MeasurePostedAsync(
        HttpRequest request,
        MeterStore meters,
        CancellationToken cancel
    )
    {
        var wanted = await RequestBody.ReadAsync<PostedMeasureRequest>(request);
        var reading = MachineFile.Read(wanted.Machine.GetRawText());
        return reading.Machine is { } machine
            ? Measured(Circuit.Compile(machine), wanted.Measure, await meters.GetAsync(cancel), "measure.")
            : Results.ValidationProblem(
                reading
                    .Problems.GroupBy(p => "machine" + p.Pointer)
                    .ToDictionary(g => g.Key, g => g.Select(p => p.Message).ToArray(), StringComparer.Ordinal),
                title: "The machine file was refused; nothing was measured."
            );
    }

    private static IResult Measured(Circuit circuit, MeasureRequest wanted, Meter inUse, string at)
    {
        var (red, black) = (Point(circuit, wanted.Red, at + "red"), Point(circuit, wanted.Black, at + "black"));
        var meter = MeterFor(wanted, inUse, at);
        if (wanted.Range is { } range && !(range > 0 && range <= 20e6))
        {
            throw new RefusedException(at + "range", "Allowed: above 0, to 20000000.");
        }

        var @case = CaseRequest.Of(circuit, wanted, at);
        var display = Bench.Read(@case, meter, wanted.Function, red, black, wanted.Range);
        return Results.Ok(
            new MeasureResponse(
                display.OverRange || display.Jumps ? null : display.Value,
                display.Jumps ? "jumps" : display.Shown,
                display.OverRange,
                display.Jumps,
                display.Refusal,
                display.Doubt
            )
        );
    }

    private static async Task<IResult> NetlistAsync(
        string id,
        HttpRequest request,
        JobDesk desk,
        CancellationToken cancel
    )
    {
        if (await desk.MachineAsync(id, cancel) is not { } found)
        {
            return NoMachine(id);
        }

        var @case = CaseRequest.Of(found.Circuit, await RequestBody.ReadAsync<MeasureRequest>(request), "");
        var state = new CircuitState(@case.Wired);
        @case.Settle(state);
        return Results.Text(SpiceNetlist.Write(state, found.Circuit.Machine.Name), "text/plain");
    }

    private static Meter MeterFor(MeasureRequest wanted, Meter inUse, string at)
    {
        var meter = inUse;
        if (wanted.Meter is { } described)
        {
            var reading = MeterFile.Read(described.GetRawText());
            meter =
                reading.Meter
                ?? throw new RefusedException(at + "meter" + reading.Problems[0].Pointer, reading.Problems[0].Message);
        }

        var leads = wanted.LeadOhms ?? meter.Leads.Value;
        return leads is >= 0 and <= 100
            ? meter with
            {
                Leads = new Ohms(leads),
                LeadsNulled = wanted.LeadsNulled ?? meter.LeadsNulled,
            }
            : throw new RefusedException(at + "leadOhms", "Allowed: 0 to 100.");
    }

    internal static int Point(Circuit circuit, string address, string field) =>
        PointId.Of(address) is var point && circuit.HasNode(point)
            ? circuit.NodeOf(point)
            : throw new RefusedException(
                field,
                $"“{Excerpt.Of(address)}” is not a point of this machine; /points lists them."
            );

    internal static IResult NoMachine(string id) =>
        Results.Problem(
            title: "No such machine",
            detail: $"“{Excerpt.Of(id)}” is not here; GET /api/v1/machines lists what is.",
            statusCode: 404
        );
}

/// <summary>Control settings sent to the API.</summary>
internal static class ApiSetting
{
    public static ControlSetting Of(Circuit circuit, Dictionary<string, string>? given, string field)
    {
        foreach (var (id, position) in given ?? [])
        {
            var control =
                circuit.Machine.Index.Control(new ControlId(id))
                ?? throw new RefusedException(
                    $"{field}.{Excerpt.Of(id)}",
                    $"“{Excerpt.Of(id)}” is not a control of this machine; allowed: {string.Join(", ", circuit.Machine.Controls.Select(c => c.Id))}."
                );
            if (!control.Positions.Contains(new PositionId(position ?? "")))
            {
                throw new RefusedException(
                    $"{field}.{id}",
                    $"“{Excerpt.Of(position)}” is not a position of {id}; allowed: {string.Join(", ", control.Positions)}."
                );
            }
        }

        return circuit.Setting((given ?? []).ToDictionary(g => new ControlId(g.Key), g => new PositionId(g.Value)));
    }
}
