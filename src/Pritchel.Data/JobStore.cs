using Microsoft.EntityFrameworkCore;
using Pritchel.Core.Jobs;
using Pritchel.Data.Events;

namespace Pritchel.Data;

/// <summary>A job with its state.</summary>
/// <param name="Number">Tag number.</param>
/// <param name="MachineId">Machine.</param>
/// <param name="MachineVersion">Version it was opened on.</param>
/// <param name="MachineName">Name of the machine then.</param>
/// <param name="OpenedUtc">When.</param>
/// <param name="State">What it stands at.</param>
public sealed record Job(
    int Number,
    string MachineId,
    int MachineVersion,
    string MachineName,
    DateTime OpenedUtc,
    JobState State
)
{
    /// <summary>As written on the tag: T-0147.</summary>
    public string Tag => JobStore.TagOf(Number);
}

/// <summary>Jobs in the record. Events are only ever added.</summary>
public sealed class JobStore(PritchelContext context, TimeProvider clock)
{
    /// <summary>Tag of a number: T-0147.</summary>
    public static string TagOf(int number) => RecordTag.Of('T', number);

    /// <summary>Number of a tag, or null when it is not one.</summary>
    public static int? NumberOf(string tag) => RecordTag.NumberOf('T', tag);

    /// <summary>Opens a job with its first event.</summary>
    /// <returns>Tag number.</returns>
    public async Task<int> OpenAsync(
        string machineId,
        int machineVersion,
        JobEvent first,
        CancellationToken cancel = default
    )
    {
        await using var transaction = await context.Database.BeginTransactionAsync(cancel);
        var number = (await context.Jobs.MaxAsync(j => (int?)j.Number, cancel) ?? 0) + 1;
        var job = new JobRow
        {
            Number = number,
            MachineId = machineId,
            MachineVersion = machineVersion,
            OpenedUtc = clock.GetUtcNow().UtcDateTime,
            IsClosed = false,
        };
        job.Events.Add(Row(1, first));
        context.Jobs.Add(job);
        await context.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return number;
    }

    /// <summary>Adds events, if nobody else has added any since.</summary>
    /// <param name="number">Tag number.</param>
    /// <param name="after">Sequence of the last event its author had seen.</param>
    /// <param name="events">Events, in order.</param>
    /// <param name="cancel">Cancels the wait.</param>
    /// <returns>False, with nothing written, when the job has moved on.</returns>
    public async Task<bool> AppendAsync(
        int number,
        int after,
        IReadOnlyList<JobEvent> events,
        CancellationToken cancel = default
    )
    {
        var job = await context.Jobs.FirstAsync(j => j.Number == number, cancel);
        var before = await context
            .JobEvents.AsNoTracking()
            .Where(e => e.JobId == job.Id)
            .OrderBy(e => e.Sequence)
            .ToListAsync(cancel);
        if (before[^1].Sequence != after)
        {
            return false;
        }

        for (var i = 0; i < events.Count; i++)
        {
            var row = Row(after + 1 + i, events[i], job.Id);
            before.Add(row);
            context.JobEvents.Add(row);
        }

        job.IsClosed = IsClosed(before);
        return await context.TrySaveAsync(cancel);
    }

    /// <summary>A job, or null.</summary>
    public async Task<Job?> FindAsync(int number, CancellationToken cancel = default) =>
        (await QueryAsync(context.Jobs.Where(j => j.Number == number), cancel)).FirstOrDefault();

    /// <summary>All jobs, newest first.</summary>
    public async Task<IReadOnlyList<Job>> ListAsync(CancellationToken cancel = default) =>
        await QueryAsync(context.Jobs, cancel);

    /// <summary>Jobs of one machine, newest first.</summary>
    public async Task<IReadOnlyList<Job>> OfMachineAsync(string machineId, CancellationToken cancel = default) =>
        await QueryAsync(context.Jobs.Where(j => j.MachineId == machineId), cancel);

    /// <summary>Some of the jobs that are closed, or that are not, newest first.</summary>
    /// <param name="closed">Which.</param>
    /// <param name="skip">How many newer ones to leave out.</param>
    /// <param name="take">Most of them.</param>
    /// <param name="cancel">Stops waiting.</param>
    public async Task<IReadOnlyList<Job>> ListAsync(
        bool closed,
        int skip,
        int take,
        CancellationToken cancel = default
    ) =>
        await QueryAsync(
            context.Jobs.Where(j => j.IsClosed == closed).OrderByDescending(j => j.Number).Skip(skip).Take(take),
            cancel
        );

    /// <summary>How many jobs are closed, or are not.</summary>
    public Task<int> CountAsync(bool closed, CancellationToken cancel = default) =>
        context.Jobs.CountAsync(j => j.IsClosed == closed, cancel);

    /// <summary>Looks at jobs that nobody has looked at yet, whether they are closed.</summary>
    internal static async Task LookAsync(PritchelContext context, CancellationToken cancel)
    {
        foreach (
            var job in await context.Jobs.Include(j => j.Events).Where(j => j.IsClosed == null).ToListAsync(cancel)
        )
        {
            job.IsClosed = IsClosed(job.Events);
        }

        await context.SaveChangesAsync(cancel);
        context.ChangeTracker.Clear();
    }

    /// <summary>Whether a history ends closed; what cannot be read is not.</summary>
    internal static bool IsClosed(IEnumerable<JobEventRow> events) => State(events).Closed is not null;

    private async Task<List<Job>> QueryAsync(IQueryable<JobRow> jobs, CancellationToken cancel)
    {
        var rows = await jobs.AsNoTracking()
            .Include(j => j.Events)
            .OrderByDescending(j => j.Number)
            .Join(
                context.Machines,
                j => new { j.MachineId, Version = j.MachineVersion },
                m => new { m.MachineId, m.Version },
                (j, m) => new { Job = j, m.Name }
            )
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(r => new Job(
                r.Job.Number,
                r.Job.MachineId,
                r.Job.MachineVersion,
                r.Name,
                r.Job.OpenedUtc,
                State(r.Job.Events)
            )),
        ];
    }

    private static JobState State(IEnumerable<JobEventRow> events) =>
        JobState.Of([
            .. events
                .OrderBy(e => e.Sequence)
                .Select(e => new RecordedEvent(
                    e.Sequence,
                    new DateTimeOffset(DateTime.SpecifyKind(e.AtUtc, DateTimeKind.Utc)),
                    EventFormat.Read(e.Body),
                    e.By
                )),
        ]);

    private JobEventRow Row(int sequence, JobEvent what, int job = 0) =>
        new()
        {
            JobId = job,
            Sequence = sequence,
            AtUtc = clock.GetUtcNow().UtcDateTime,
            Body = EventFormat.Write(what),
        };
}
