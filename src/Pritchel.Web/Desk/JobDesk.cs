using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Data;

namespace Pritchel.Web.Desk;

/// <summary>A job laid out for work: its machine and, once the complaint is known, its diagnosis.</summary>
/// <param name="Job">The job.</param>
/// <param name="Circuit">Its machine, as it was when the job was opened.</param>
/// <param name="Meter">Meter in use.</param>
/// <param name="Kit">Predictions for its duty.</param>
/// <param name="Weighed">What its evidence comes to, weighed when it is asked for.</param>
/// <param name="Design">Whether a sound machine does the same where it happened; null when that is the duty's own setting.</param>
public sealed record OpenJob(
    Job Job,
    Circuit Circuit,
    Meter Meter,
    DiagnosisKit Kit,
    Lazy<JobDiagnosis> Weighed,
    DesignCheck? Design
)
{
    /// <summary>What its evidence comes to.</summary>
    public JobDiagnosis Diagnosis => Weighed.Value;

    /// <summary>Identity of the verdict that nothing is wrong: the machine works as it was designed.</summary>
    public const string AsDesigned = "as-designed";

    /// <summary>Whether it stands that the machine works as designed, and nobody has chosen to measure on.</summary>
    public bool WorksAsDesigned => Design is { AsDesigned: true } && State.ComplaintTold && !State.GoesOn;

    /// <summary>Whether it has predictions; until then only what needs none may be shown.</summary>
    public bool IsWorkedOut { get; init; } = true;

    /// <summary>Whether its shares rest on a few cases of each fault, the rest being worked out while the first test is made.</summary>
    public bool IsCoarse => IsWorkedOut && Kit.Table.Grain == Grain.Coarse;

    /// <summary>Its machine.</summary>
    public Machine Machine => Circuit.Machine;

    /// <summary>Its state.</summary>
    public JobState State => Job.State;

    /// <summary>Stage, a waiting verdict included.</summary>
    public Stage Stage =>
        WorksAsDesigned && State.Stage == Stage.Measure ? Stage.Verdict
        : !IsWorkedOut ? State.Stage
        : Diagnosis.Stage;
}

/// <summary>A job as its tag on the bench shows it.</summary>
/// <param name="Job">The job.</param>
/// <param name="Machine">Its machine, as it was when the job was opened.</param>
/// <param name="Duty">What fails.</param>
/// <param name="Design">Whether a sound machine does the same where it happened; null when that is the duty's own setting.</param>
/// <param name="Diagnosis">What its evidence comes to; null until its predictions are worked out.</param>
public sealed record FloorJob(Job Job, Machine Machine, Duty Duty, DesignCheck? Design, JobDiagnosis? Diagnosis)
{
    /// <summary>Its state.</summary>
    public JobState State => Job.State;

    /// <summary>Whether it stands that the machine works as designed.</summary>
    public bool WorksAsDesigned => Design is { AsDesigned: true } && State.ComplaintTold && !State.GoesOn;

    /// <summary>Stage, a waiting verdict included where that is known.</summary>
    public Stage Stage =>
        WorksAsDesigned && State.Stage == Stage.Measure ? Stage.Verdict : Diagnosis?.Stage ?? State.Stage;
}

/// <summary>Brings jobs, machines and meter together for the pages and the API.</summary>
public sealed class JobDesk(JobStore jobs, MachineStore machines, MeterStore meters, Workshop workshop)
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
    public async Task<IReadOnlyList<FloorJob>> ListAsync(CancellationToken cancel = default)
    {
        var meter = await meters.GetAsync(cancel);
        var all = new List<FloorJob>();
        foreach (var job in await jobs.ListAsync(cancel))
        {
            var json = await machines.JsonAsync(job.MachineId, job.MachineVersion, cancel);
            var circuit = workshop.Circuit(job.MachineId, job.MachineVersion, json!);
            var complaint = job.State.Complaint!;
            var duty = workshop.Duty(job.MachineId, job.MachineVersion, circuit, complaint.Duty)!;
            var design = workshop.Design(job.MachineId, job.MachineVersion, circuit, complaint);
            var kit = workshop.KitInHand(job.MachineId, job.MachineVersion, circuit, complaint);
            all.Add(
                new FloorJob(
                    job,
                    circuit.Machine,
                    duty,
                    design,
                    kit is null ? null : workshop.Diagnosis(job, kit, meter)
                )
            );
        }

        return all;
    }

    /// <summary>A machine's newest version compiled, or null.</summary>
    public async Task<(MachineEntry Entry, Circuit Circuit)?> MachineAsync(
        string id,
        CancellationToken cancel = default
    )
    {
        if (await machines.FindAsync(id, cancel) is not { } entry)
        {
            return null;
        }

        var json = await machines.JsonAsync(id, entry.Version, cancel);
        return (entry, workshop.Circuit(id, entry.Version, json!));
    }

    /// <summary>
    /// Lays a job out, with predictions once it has a complaint to explain. The coarse ones do until the first reading where
    /// they choose a test and suffice for what is asked; null where none but all will do.
    /// </summary>
    private async Task<OpenJob> LayOutAsync(Job job, Predicate<PredictionTable>? suffices, CancellationToken cancel)
    {
        var json = await machines.JsonAsync(job.MachineId, job.MachineVersion, cancel);
        var circuit = workshop.Circuit(job.MachineId, job.MachineVersion, json!);
        var meter = await meters.GetAsync(cancel);
        var complaint = job.State.Complaint!;
        var design = workshop.Design(job.MachineId, job.MachineVersion, circuit, complaint);
        var explains = job.State.ComplaintTold && (design is not { AsDesigned: true } || job.State.GoesOn);
        OpenJob With(DiagnosisKit kit, Func<JobDiagnosis> weigh) =>
            new(job, circuit, meter, kit, new Lazy<JobDiagnosis>(weigh), design);

        if (explains && suffices is not null && job.State.Readings.Count == 0)
        {
            var first = workshop.KitForFirstTest(job.MachineId, job.MachineVersion, circuit, complaint);
            var open = With(first, () => workshop.Diagnosis(job, first, meter));
            if (!open.IsCoarse || (open.Diagnosis.HasTestAndNoVerdict && suffices(first.Table)))
            {
                return open;
            }
        }

        if (explains)
        {
            var whole = workshop.Kit(job.MachineId, job.MachineVersion, circuit, complaint);
            return With(whole, () => workshop.Diagnosis(job, whole, meter));
        }

        var (kit, predicts) = workshop.Sketch(job.MachineId, job.MachineVersion, circuit, complaint);
        return With(
            kit,
            () => predicts ? workshop.Diagnosis(job, kit, meter) : JobDiagnosis.Of(job.State, kit, meter)
        ) with
        {
            IsWorkedOut = predicts,
        };
    }
}
