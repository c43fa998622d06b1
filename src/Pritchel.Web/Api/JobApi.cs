using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>Jobs over the API: everything that the pages do, by the same rules.</summary>
internal static class JobApi
{
    private const string Json = "application/json";

    public static void Map(RouteGroupBuilder api)
    {
        var jobs = api.MapGroup("/jobs").WithTags("Jobs");
        jobs.MapGet(
                "",
                async (JobDesk desk, CancellationToken cancel) =>
                    (await desk.ListAsync(cancel)).Select(JobViews.OnTheFloor)
            )
            .WithSummary("List jobs");
        jobs.MapPost("", OpenAsync).WithSummary("Open a job").Accepts<OpenJobRequest>(Json).ProducesValidationProblem();
        Get(jobs, "/{tag}", JobViews.Summary, "A job and its history", whole: false);
        Get(jobs, "/{tag}/suspects", JobViews.Suspects, "Suspects by share", whole: true);
        Get(jobs, "/{tag}/next-test", JobViews.NextTest, "What to measure next", whole: true);
        Get(jobs, "/{tag}/proof", JobViews.Proof, "What must be shown before the job is proved", whole: true);
        Post<ComplaintRequest>(jobs, "complaint", JobEntries.Complaint, "Write the complaint down");
        Post<ReadingRequest>(jobs, "readings", JobEntries.Reading, "Enter a reading").ChangedBy(MemberRole.Helper);
        Post<LookRequest>(jobs, "looks", JobEntries.Look, "Enter what was found at a place")
            .ChangedBy(MemberRole.Helper);
        Post<WiggleRequest>(jobs, "provocations", JobEntries.Wiggle, "Enter what was moved, warmed or wetted")
            .ChangedBy(MemberRole.Helper);
        Post<PassedOverRequest>(jobs, "passed-over", JobEntries.PassedOver, "Pass a test over")
            .ChangedBy(MemberRole.Helper);
        Post<HelpRequest>(jobs, "help", (_, wanted) => new HelpChanged(wanted.Alone), "Say whether you work alone")
            .ChangedBy(MemberRole.Helper);
        Post<NothingRequest>(jobs, "undo", JobEntries.Undo, "Take the last entry back").ChangedBy(MemberRole.Helper);
        Post<NothingRequest>(jobs, "verdict", JobEntries.Verdict, "Take the verdict that stands");
        Post<NothingRequest>(
            jobs,
            "truth",
            JobEntries.Truth,
            "Take it that a lamp or an alarm tells the truth, as whoever checked it found"
        );
        Post<NothingRequest>(jobs, "measure-on", (_, _) => new MeasuredOn(), "Set the verdict aside and measure on");
        Post<LeadRequest>(jobs, "lead", JobEntries.Lead, "A clip lead over the verdict's place: on, or off again");
        Post<RepairRequest>(jobs, "repair", JobEntries.Repair, "Write down what was done");
        Post<ProofRequest>(jobs, "proof", JobEntries.Proof, "Enter one check of the proof")
            .ChangedBy(MemberRole.Helper);
        Post<BypassRequest>(jobs, "bypass-removed", JobEntries.BypassRemoved, "A bypass was taken out");
        Post<CloseRequest>(jobs, "close", JobEntries.Close, "Close the job, proved or openly not");
    }

    private static async Task<IResult> OpenAsync(
        HttpRequest request,
        JobDesk desk,
        JobStore jobs,
        CancellationToken cancel
    )
    {
        var wanted = await RequestBody.ReadAsync<OpenJobRequest>(request);
        if (await desk.MachineAsync(wanted.Machine, cancel) is not { } found)
        {
            throw new RefusedException(
                "machine",
                $"“{Excerpt.Of(wanted.Machine)}” is not here; GET /api/v1/machines lists what is."
            );
        }

        if (found.Duty(new DutyId(wanted.Duty)) is not { } duty)
        {
            throw new RefusedException(
                "duty",
                $"“{Excerpt.Of(wanted.Duty)}” is not a duty of this machine; allowed: {string.Join(", ", found.Symptoms.Select(s => s.Duty.Id))}."
            );
        }

        var number = await jobs.OpenAsync(
            found.Id,
            found.Version,
            new ComplaintMade(new Complaint { Duty = duty.Id }),
            cancel
        );
        var open = await desk.OpenAsync(number, cancel: cancel);
        return Results.Created($"/api/v1/jobs/{open!.Job.Tag}", JobViews.Summary(open));
    }

    /// <summary>Tells of a job; what is weighed, by all predictions, so that a script that asks twice is answered alike.</summary>
    private static void Get(
        RouteGroupBuilder jobs,
        string route,
        Func<OpenJob, object> show,
        string summary,
        bool whole
    ) =>
        jobs.MapGet(
                route,
                async (string tag, JobDesk desk, CancellationToken cancel) =>
                    await FindAsync(tag, desk, whole, cancel) is not { } open ? NoJob(tag)
                    : whole && !open.State.ComplaintTold ? NothingTold(open)
                    : Results.Ok(show(open))
            )
            .WithSummary(summary);

    private static RouteHandlerBuilder Post<T>(
        RouteGroupBuilder jobs,
        string what,
        Func<Entering, T, JobEvent> enter,
        string summary
    )
        where T : class =>
        jobs.MapPost(
                "/{tag}/" + what,
                async (string tag, HttpRequest request, JobDesk desk, CancellationToken cancel) =>
                {
                    if (
                        await FindAsync(tag, desk, whole: what is "verdict" or "truth" or "proof" or "close", cancel)
                        is not { } open
                    )
                    {
                        return NoJob(tag);
                    }

                    var wanted = await RequestBody.ReadAsync<T>(request);
                    var happened = enter(new Entering(open, desk), wanted);
                    var added = await desk.AppendAsync(open, open.State.Sequence, [happened], cancel);
                    return added switch
                    {
                        { Kept: true } => Results.Ok(
                            JobViews.Summary((await desk.OpenAsync(open.Job.Number, cancel: cancel))!)
                        ),
                        { MovedOn: true } => Results.Problem(
                            title: "The job has moved on",
                            detail: "Somebody else added to it meanwhile; nothing was added. Read it again.",
                            statusCode: 409
                        ),
                        _ when open.State.Closed is not null => Results.Problem(
                            title: "The job is closed",
                            detail: added.Why,
                            statusCode: 409
                        ),
                        _ => throw new RefusedException("", added.Why!),
                    };
                }
            )
            .WithSummary(summary)
            .Accepts<T>(Json)
            .ProducesValidationProblem();

    private static async Task<OpenJob?> FindAsync(string tag, JobDesk desk, bool whole, CancellationToken cancel) =>
        JobStore.NumberOf(tag) is not { } number ? null
        : whole ? await desk.OpenWholeAsync(number, cancel)
        : await desk.OpenAsync(number, cancel: cancel);

    /// <summary>Nothing is suspected of a machine that nobody has complained of.</summary>
    private static IResult NothingTold(OpenJob open) =>
        Results.Problem(
            title: "Nothing has been told yet",
            detail: $"Post the complaint of {open.Job.Tag} first: what is heard in the duty's setting, and how often.",
            statusCode: 409
        );

    private static IResult NoJob(string tag) =>
        Results.Problem(
            title: "No such job",
            detail: $"“{Excerpt.Of(tag)}” is not a job here; tags look like T-0147.",
            statusCode: 404
        );
}
