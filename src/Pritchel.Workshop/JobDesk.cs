using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Jobs;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>Brings jobs, machines and meter together for the pages and the API.</summary>
public sealed class JobDesk(
    JobStore jobs,
    MachineStore machines,
    MeterStore meters,
    MachineShelf shelf,
    Predictor predictor
)
{
    /// <summary>A job laid out, or null.</summary>
    /// <param name="number">Its number.</param>
    /// <param name="condition">Condition that a test is asked for in, whatever the best one is; null for none.</param>
    /// <param name="cancel">Gives it up.</param>
    public async Task<OpenJob?> OpenAsync(int number, int? condition = null, CancellationToken cancel = default)
    {
        var job = await jobs.FindAsync(number, cancel);
        return job is null ? null : await LayOutAsync(job, coarse => coarse.HasFigures(condition ?? 0), cancel);
    }

    /// <summary>A job laid out by all its predictions however long they take, so that the answer is always the same; or null.</summary>
    public async Task<OpenJob?> OpenWholeAsync(int number, CancellationToken cancel = default)
    {
        var job = await jobs.FindAsync(number, cancel);
        return job is null ? null : await LayOutAsync(job, null, cancel);
    }

    /// <summary>All jobs as they stand on the floor, newest first; nothing is worked out for them.</summary>
    public async Task<IReadOnlyList<FloorJob>> ListAsync(CancellationToken cancel = default) =>
        await StandAsync(await jobs.ListAsync(cancel), cancel);

    /// <summary>Some of the jobs that are closed, or that are not, as they stand on the floor, newest first.</summary>
    /// <param name="closed">Which.</param>
    /// <param name="skip">How many newer ones to leave out.</param>
    /// <param name="take">Most of them.</param>
    /// <param name="cancel">Gives it up.</param>
    public async Task<IReadOnlyList<FloorJob>> ListAsync(
        bool closed,
        int skip,
        int take,
        CancellationToken cancel = default
    ) => await StandAsync(await jobs.ListAsync(closed, skip, take, cancel), cancel);

    private async Task<IReadOnlyList<FloorJob>> StandAsync(IReadOnlyList<Job> list, CancellationToken cancel)
    {
        var meter = await meters.GetAsync(cancel);
        var all = new List<FloorJob>();
        using var floor = predictor.Floor();
        foreach (var job in list)
        {
            var machine = await MachineOfAsync(job);
            var complaint = job.State.Complaint;
            var duty = complaint is null ? null : machine?.Duty(complaint.Duty);
            if (machine is null || complaint is null || duty is null)
            {
                all.Add(new FloorJob(job, machine, duty, null, null));
                continue;
            }

            var kit = predictor.KitInHand(machine, complaint, meter);
            all.Add(
                new FloorJob(
                    job,
                    machine,
                    duty,
                    machine.Design(complaint),
                    kit is null ? null : floor.Of(machine, job.Number, job.State, kit, meter)
                )
            );
        }

        return all;
    }

    /// <summary>Adds to a job, if that may happen now and nobody has added to it since its author looked.</summary>
    /// <param name="open">The job, as laid out.</param>
    /// <param name="after">Sequence of the last event that its author had seen.</param>
    /// <param name="events">What happened, in order.</param>
    /// <param name="cancel">Gives it up.</param>
    public async Task<Added> AppendAsync(
        OpenJob open,
        int after,
        IReadOnlyList<JobEvent> events,
        CancellationToken cancel = default
    )
    {
        foreach (var happened in events)
        {
            if (JobRules.Refusal(open.State, happened) is { } refusal)
            {
                return new Added(false, refusal);
            }
        }

        return await jobs.AppendAsync(open.Job.Number, after, events, cancel)
            ? new Added(true, null)
            : new Added(
                false,
                "This job has moved on in another tab since this page was opened. Nothing was lost or added; what you typed is kept below. Look at what is asked now, and enter it again if it still fits."
            )
            {
                MovedOn = true,
            };
    }

    /// <summary>What may be told of a job's complaint.</summary>
    public ComplaintRules Rules(OpenJob open) =>
        new(
            open.Version.Duty(open.State.Complaint!.Duty)!,
            open.Kit.Table,
            open.Version.Symptoms,
            predictor.CodesOf(open.Version, open.State.Complaint.Duty)
        );

    /// <summary>A machine's newest version compiled, or null.</summary>
    /// <exception cref="UnreadableMachineException">Its file cannot be read here.</exception>
    public async Task<MachineVersion?> MachineAsync(string id, CancellationToken cancel = default) =>
        await machines.FindAsync(id, cancel) is { } entry ? await shelf.FindAsync(entry.Id, entry.Version) : null;

    private async Task<MachineVersion?> MachineOfAsync(Job job)
    {
        try
        {
            return (await shelf.FindAsync(job.MachineId, job.MachineVersion)).Fitted(job.State.Complaint);
        }
        catch (UnreadableMachineException)
        {
            return null;
        }
    }

    /// <summary>
    /// Lays a job out, with predictions once it has a complaint to explain. The coarse ones do until the first reading where
    /// they choose a test and suffice for what is asked; null where none but all will do.
    /// </summary>
    private async Task<OpenJob> LayOutAsync(Job job, Predicate<PredictionTable>? suffices, CancellationToken cancel)
    {
        var machine = (await shelf.FindAsync(job.MachineId, job.MachineVersion)).Fitted(job.State.Complaint);
        var meter = await meters.GetAsync(cancel);
        if (job.State.Complaint is not { } complaint || machine.Duty(complaint.Duty) is null)
        {
            throw new UnreadableJobException(job);
        }

        var design = machine.Design(complaint);
        var explains = job.State.ComplaintTold && (design is not { AsDesigned: true } || job.State.GoesOn);
        OpenJob With(DiagnosisKit kit, Func<JobDiagnosis> weigh) =>
            new(job, machine, meter, kit, new Lazy<JobDiagnosis>(weigh), design);
        JobDiagnosis Weigh(DiagnosisKit kit) => predictor.Diagnosis(machine, job.Number, job.State, kit, meter);

        if (explains && suffices is not null && job.State.Readings.Count == 0)
        {
            var first = await predictor.KitForFirstTestAsync(machine, complaint, meter).AsideAsync(cancel);
            var open = With(first, () => Weigh(first));
            if (!open.IsCoarse || (open.Diagnosis.HasTestAndNoVerdict && suffices(first.Table)))
            {
                return open;
            }
        }

        if (explains)
        {
            var whole = await predictor.KitAsync(machine, complaint, meter).AsideAsync(cancel);
            return With(whole, () => Weigh(whole));
        }

        var (kit, predicts) = predictor.Sketch(machine, complaint, meter);
        return With(kit, () => predicts ? Weigh(kit) : JobDiagnosis.Of(job.State, kit, meter)) with
        {
            IsWorkedOut = predicts,
        };
    }
}

/// <summary>What came of adding to a job.</summary>
/// <param name="Kept">Whether it was added.</param>
/// <param name="Why">Why not; null when it was.</param>
public sealed record Added(bool Kept, string? Why)
{
    /// <summary>Whether somebody else was quicker.</summary>
    public bool MovedOn { get; init; }
}

/// <summary>A job cannot be laid out, since what it is about cannot be read.</summary>
public sealed class UnreadableJobException : Exception
{
    /// <summary>Some job.</summary>
    public UnreadableJobException()
        : base("This job cannot be read.") { }

    /// <summary>Some job.</summary>
    public UnreadableJobException(string message)
        : base(message) { }

    /// <summary>Some job.</summary>
    public UnreadableJobException(string message, Exception inner)
        : base(message, inner) { }

    /// <summary>A job, and what of it cannot be read.</summary>
    public UnreadableJobException(Job job)
        : base(
            job.State.Unreadable is [var (sequence, why), ..]
                ? $"{job.Tag} cannot be laid out: entry {sequence} cannot be read, because {why}. It is kept as it is."
                : $"{job.Tag} cannot be laid out: what it was opened for is not among what its machine does. It is kept as it is."
        ) { }
}
