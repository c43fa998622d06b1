using System.Text.Json;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Web.Desk;
using Pritchel.Web.Pages.Machines.Making;

namespace Pritchel.Web.Api;

/// <summary>Jobs over the API: open, complain, read, ask.</summary>
internal static class JobApi
{
    private const string Json = "application/json";

    public static void Map(RouteGroupBuilder api)
    {
        var jobs = api.MapGroup("/jobs").WithTags("Jobs");
        jobs.MapGet(
                "",
                async (JobDesk desk, CancellationToken cancel) => (await desk.ListAsync(cancel)).Select(OnTheFloor)
            )
            .WithSummary("List jobs");
        jobs.MapPost("", OpenAsync).WithSummary("Open a job").Accepts<OpenJobRequest>(Json).ProducesValidationProblem();
        jobs.MapGet(
                "/{tag}",
                (string tag, JobDesk desk, CancellationToken cancel) => WithAsync(tag, desk, Summary, cancel)
            )
            .WithSummary("A job and its history");
        jobs.MapPost("/{tag}/complaint", ComplainAsync)
            .WithSummary("Write the complaint down")
            .Accepts<ComplaintRequest>(Json)
            .ProducesValidationProblem();
        jobs.MapPost("/{tag}/readings", ReadAsync)
            .WithSummary("Enter a reading")
            .Accepts<ReadingRequest>(Json)
            .ProducesValidationProblem();
        jobs.MapPost("/{tag}/provocations", StirAsync)
            .WithSummary("Enter what was moved, warmed or wetted")
            .Accepts<WiggleRequest>(Json)
            .ProducesValidationProblem();
        jobs.MapGet(
                "/{tag}/suspects",
                (string tag, JobDesk desk, CancellationToken cancel) => WithAllAsync(tag, desk, Suspects, cancel)
            )
            .WithSummary("Suspects by share");
        jobs.MapGet(
                "/{tag}/next-test",
                (string tag, JobDesk desk, CancellationToken cancel) => WithAllAsync(tag, desk, NextTest, cancel)
            )
            .WithSummary("What to measure next");
    }

    private static async Task<IResult> OpenAsync(
        HttpRequest request,
        JobDesk desk,
        JobStore jobs,
        Workshop workshop,
        CancellationToken cancel
    )
    {
        var wanted = await RequestBody.ReadAsync<OpenJobRequest>(request);
        if (await desk.MachineAsync(wanted.Machine ?? "", cancel) is not { } found)
        {
            throw new RefusedException(
                "machine",
                $"“{ApiSetting.Cut(wanted.Machine)}” is not here; GET /api/v1/machines lists what is."
            );
        }

        var duties = workshop
            .Symptoms(found.Entry.Id, found.Entry.Version, found.Circuit)
            .Select(s => s.Duty.Id)
            .ToList();
        if (!duties.Contains(wanted.Duty, StringComparer.Ordinal))
        {
            throw new RefusedException(
                "duty",
                $"“{ApiSetting.Cut(wanted.Duty)}” is not a duty of this machine; allowed: {string.Join(", ", duties)}."
            );
        }

        var number = await jobs.OpenAsync(
            found.Entry.Id,
            found.Entry.Version,
            new ComplaintMade(new Complaint { Duty = wanted.Duty }),
            cancel
        );
        var open = await desk.OpenAsync(number, cancel: cancel);
        return Results.Created($"/api/v1/jobs/{open!.Job.Tag}", Summary(open));
    }

    private static async Task<IResult> ComplainAsync(
        string tag,
        HttpRequest request,
        JobDesk desk,
        JobStore jobs,
        CancellationToken cancel
    )
    {
        if (await FindAsync(tag, desk, cancel) is not { } open)
        {
            return NoJob(tag);
        }

        var wanted = await RequestBody.ReadAsync<ComplaintRequest>(request);
        var choices = DutyWords.Choices(open.Kit.Table.Effect, open.Kit.Table.Duty).Select(c => c.Heard).ToList();
        if (!choices.Contains(wanted.Heard))
        {
            throw new RefusedException(
                "heard",
                $"Allowed for this complaint: {string.Join(", ", choices.Select(c => JsonNamingPolicy.CamelCase.ConvertName(c.ToString())))}."
            );
        }

        if (wanted.Tried is < 1 or > 200 || wanted.Failed < 0 || wanted.Failed > wanted.Tried)
        {
            throw new RefusedException(
                wanted.Tried is < 1 or > 200 ? "tried" : "failed",
                "Allowed: tried 1 to 200, failed 0 to tried."
            );
        }

        if ((wanted.Words ?? "").Length > 300)
        {
            throw new RefusedException("words", "At most 300 characters.");
        }

        var complaint = open.State.Complaint! with
        {
            Heard = wanted.Heard,
            Failed = wanted.Failed,
            Tried = wanted.Tried,
            Words = (wanted.Words ?? "").ReplaceLineEndings(" "),
            Bridged = wanted.Bridged ?? [],
            Lamps = [.. (wanted.Lamps ?? []).Select((l, i) => Lamp(open, l, $"lamps[{i}]"))],
        };
        foreach (var bridged in complaint.Bridged)
        {
            if (Alteration.Find(open.Circuit, bridged) is null)
            {
                throw new RefusedException(
                    "bridged",
                    $"“{ApiSetting.Cut(bridged)}” is not on this machine; write \"part/contact\" for a switch contact bridged, \"apart/part\" for a coupling left apart, \"off/wire\" for a wire off."
                );
            }
        }

        return await AppendAsync(open, desk, jobs, new ComplaintMade(complaint), cancel);
    }

    private static async Task<IResult> ReadAsync(
        string tag,
        HttpRequest request,
        JobDesk desk,
        JobStore jobs,
        CancellationToken cancel
    )
    {
        if (await FindAsync(tag, desk, cancel) is not { } open)
        {
            return NoJob(tag);
        }

        var wanted = await RequestBody.ReadAsync<ReadingRequest>(request);
        if (!open.State.ComplaintTold)
        {
            throw new RefusedException("", "Write the complaint down before the first reading.");
        }

        var condition = Asked(open, wanted);
        var (red, black) = (
            MachineApi.Point(open.Circuit, wanted.Red, "red"),
            MachineApi.Point(open.Circuit, wanted.Black, "black")
        );
        var told = open.Kit.Told(new ProbePair(condition, red, black));
        if (string.Equals(wanted.Reading, "jumps", StringComparison.Ordinal))
        {
            return await AppendAsync(open, desk, jobs, new ReadingTaken(told, "jumps", null, wanted.Symptom), cancel);
        }

        if (TypedFigure.Read(told.Quantity, wanted.Reading, out var error) is not { } figure)
        {
            throw new RefusedException("reading", error);
        }

        return await AppendAsync(
            open,
            desk,
            jobs,
            new ReadingTaken(told, wanted.Reading.Trim(), figure, wanted.Symptom),
            cancel
        );
    }

    private static async Task<IResult> StirAsync(
        string tag,
        HttpRequest request,
        JobDesk desk,
        JobStore jobs,
        CancellationToken cancel
    )
    {
        if (await FindAsync(tag, desk, cancel) is not { } open)
        {
            return NoJob(tag);
        }

        var wanted = await RequestBody.ReadAsync<WiggleRequest>(request);
        if (!open.State.ComplaintTold)
        {
            throw new RefusedException("", "Write the complaint down before anything is stirred.");
        }

        var wiggleTests = open.Kit.WiggleTests;
        if (wiggleTests.Find(wanted.Place, null) is null)
        {
            throw new RefusedException(
                "place",
                $"“{ApiSetting.Cut(wanted.Place)}” has nothing that comes and goes; allowed: {string.Join(", ", wiggleTests.Places.Select(r => r.Place.Id))}."
            );
        }

        if (!wiggleTests.Ways.Contains(wanted.By))
        {
            throw new RefusedException("by", "Nothing is wetted on a machine that makes mains volts.");
        }

        return wiggleTests.Find(wanted.Place, wanted.Repair) is null
            ? throw new RefusedException(
                "repair",
                $"“{ApiSetting.Cut(wanted.Repair)}” is not at that place, or does not come and go."
            )
            : await AppendAsync(
                open,
                desk,
                jobs,
                new Wiggled(wanted.Place, wanted.Repair, wanted.By, wanted.Changed, null),
                cancel
            );
    }

    private static async Task<IResult> AppendAsync(
        OpenJob open,
        JobDesk desk,
        JobStore jobs,
        JobEvent happened,
        CancellationToken cancel
    )
    {
        if (open.State.Closed is not null)
        {
            return Results.Problem(
                title: "The job is closed",
                detail: "Nothing was added. Open a new job for the same machine.",
                statusCode: 409
            );
        }

        if (!await jobs.AppendAsync(open.Job.Number, open.State.Sequence, [happened], cancel))
        {
            return Results.Problem(
                title: "The job has moved on",
                detail: "Somebody else added to it meanwhile; nothing was added. Read it again.",
                statusCode: 409
            );
        }

        return Results.Ok(Summary((await desk.OpenAsync(open.Job.Number, cancel: cancel))!));
    }

    private static LampSeen Lamp(OpenJob open, LampRequest lamp, string field)
    {
        if (!open.Kit.Table.Lamps.Contains(lamp.Lamp, StringComparer.Ordinal))
        {
            throw new RefusedException(
                field + ".lamp",
                $"“{ApiSetting.Cut(lamp.Lamp)}” is not a lamp of this machine; allowed: {string.Join(", ", open.Kit.Table.Lamps)}."
            );
        }

        return new LampSeen(lamp.Lamp, Condition(open, lamp.Setting, field + ".setting"), lamp.Look);
    }

    /// <summary>The condition a reading was taken in: by number, as next-test gives it, or by setting for volts.</summary>
    private static int Asked(OpenJob open, ReadingRequest wanted) =>
        wanted.Condition is not { } number ? Condition(open, wanted.Setting, "setting")
        : number >= 0 && number < open.Kit.Table.Conditions.Count ? number
        : throw new RefusedException("condition", $"Allowed: 0 to {open.Kit.Table.Conditions.Count - 1}.");

    private static int Condition(OpenJob open, Dictionary<string, string>? setting, string field)
    {
        var wanted = ApiSetting.Of(open.Circuit, setting, field);
        var conditions = open.Kit.Table.Conditions.ToList();
        var index = conditions.FindIndex(c => c.Setting.Equals(wanted));
        return index >= 0
            ? index
            : throw new RefusedException(
                field,
                $"Readings for this complaint are taken in: {string.Join("; ", conditions.Select(c => c.Words))}."
            );
    }

    private static object Summary(OpenJob open) =>
        new
        {
            open.Job.Tag,
            Machine = open.Machine.Id,
            MachineVersion = open.Job.MachineVersion,
            Stage = open.Stage,
            open.State.Sequence,
            Complaint = open.State.Complaint,
            OpenBypasses = open.State.OpenBypasses,
            Conditions = open.Kit.Table.Conditions.Select(c => new
            {
                c.Words,
                c.Quantity,
                c.Speed,
                c.Off,
                Setting = c.Setting.Named(open.Machine),
            }),
            Readings = open.Diagnosis.Readings.Select(r => new
            {
                r.Taken.At,
                r.Taken.Typed,
                Volts = r.Taken.Figure,
                r.Agrees,
            }),
            Verdict = open.State.Verdict,
        };

    private static object OnTheFloor(FloorJob job) =>
        new
        {
            job.Job.Tag,
            Machine = job.Machine.Id,
            MachineVersion = job.Job.MachineVersion,
            job.Stage,
            job.State.Sequence,
            job.State.Complaint,
            job.State.OpenBypasses,
            job.State.Verdict,
        };

    private static object Suspects(OpenJob open) =>
        open
            .Diagnosis.Beliefs.Suspects.Where(s => s.Share > 1e-6)
            .Select(s => new
            {
                s.Id,
                s.Words,
                s.Share,
            });

    private static object NextTest(OpenJob open)
    {
        var (next, verdict) = (open.Diagnosis.Next, open.Diagnosis.Verdict);
        return new
        {
            Stir = open.Diagnosis.WiggleFirst is { } stir
                ? new
                {
                    Words = WiggleWords.Title(stir.Reach, stir.By),
                    Place = stir.Reach.Place.Id,
                    Repair = stir.Reach.Alone?.Id,
                    stir.By,
                    WatchRed = stir.Watch?.Red.Address,
                    WatchBlack = stir.Watch?.Black.Address,
                    Minutes = stir.Minutes.Value,
                    stir.Bits,
                    Why = WiggleWords.Why(stir, open.State.Complaint!),
                    Cautions = new[] { WiggleWords.Caution(stir.By) },
                }
                : null,
            Verdict = verdict.Suspect is { } suspect
                ? new
                {
                    suspect.Id,
                    suspect.Words,
                    suspect.Share,
                    verdict.Why,
                }
                : null,
            Test = next is null
                ? null
                : new
                {
                    Words = TestWords.Title(next, open.Kit),
                    Condition = next.At.Condition,
                    next.Condition.Quantity,
                    next.Condition.Speed,
                    next.Condition.Off,
                    Setting = next.Condition.Setting.Named(open.Machine),
                    Red = next.Red.Address,
                    Black = next.Black.Address,
                    Minutes = next.Minutes.Value,
                    next.Bits,
                    Why = TestWords.Why(next),
                    Cautions = (next.Condition.MayTurnEngine ? open.Machine.TurningCautions : []).Concat(
                        TestWords.Caution(next.Condition) is { } caution ? [caution] : []
                    ),
                },
        };
    }

    private static async Task<IResult> WithAsync(
        string tag,
        JobDesk desk,
        Func<OpenJob, object> show,
        CancellationToken cancel
    ) => await FindAsync(tag, desk, cancel) is { } open ? Results.Ok(show(open)) : NoJob(tag);

    /// <summary>What is weighed, by all predictions: a script that asks twice is answered alike.</summary>
    private static async Task<IResult> WithAllAsync(
        string tag,
        JobDesk desk,
        Func<OpenJob, object> show,
        CancellationToken cancel
    ) =>
        JobStore.NumberOf(tag) is { } number && await desk.OpenWholeAsync(number, cancel) is { } open
            ? Results.Ok(show(open))
            : NoJob(tag);

    private static async Task<OpenJob?> FindAsync(string tag, JobDesk desk, CancellationToken cancel) =>
        JobStore.NumberOf(tag) is { } number ? await desk.OpenAsync(number, cancel: cancel) : null;

    private static IResult NoJob(string tag) =>
        Results.Problem(
            title: "No such job",
            detail: $"“{ApiSetting.Cut(tag)}” is not a job here; tags look like T-0147.",
            statusCode: 404
        );
}
