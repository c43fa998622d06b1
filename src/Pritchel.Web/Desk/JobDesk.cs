using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Meters;
using Pritchel.Data;

namespace Pritchel.Web.Desk;

/// <summary>A job laid out for work: its machine and, once the complaint is known, its diagnosis.</summary>
/// <param name="Job">The job.</param>
/// <param name="Circuit">Its machine, as it was when the job was opened.</param>
/// <param name="Meter">Meter in use.</param>
/// <param name="Kit">Predictions for its duty.</param>
/// <param name="Diagnosis">What its evidence comes to.</param>
/// <param name="Design">Whether a sound machine does the same where it happened; null when that is the duty's own setting.</param>
public sealed record OpenJob(
    Job Job,
    Circuit Circuit,
    Meter Meter,
    DiagnosisKit Kit,
    JobDiagnosis Diagnosis,
    DesignCheck? Design
)
{
    /// <summary>Identity of the verdict that nothing is wrong: the machine works as it was designed.</summary>
    public const string AsDesigned = "as-designed";

    /// <summary>Whether it stands that the machine works as designed, and nobody has chosen to measure on.</summary>
    public bool WorksAsDesigned => Design is { AsDesigned: true } && State.ComplaintTold && !State.GoesOn;

    /// <summary>Whether its predictions are all there; until then only what needs none may be shown.</summary>
    public bool IsWorkedOut { get; init; } = true;

    /// <summary>Its machine.</summary>
    public Machine Machine => Circuit.Machine;

    /// <summary>Its state.</summary>
    public JobState State => Job.State;

    /// <summary>Stage, a waiting verdict included.</summary>
    public Stage Stage =>
        !IsWorkedOut ? State.Stage
        : WorksAsDesigned && State.Stage == Stage.Measure ? Stage.Verdict
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
    public async Task<OpenJob?> OpenAsync(int number, CancellationToken cancel = default)
    {
        var job = await jobs.FindAsync(number, cancel);
        return job is null ? null : await LayOutAsync(job, wait: true, cancel);
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

    /// <summary>Lays a job out; its predictions are waited for only when asked to, and once it has a complaint to explain.</summary>
    private async Task<OpenJob> LayOutAsync(Job job, bool wait, CancellationToken cancel)
    {
        var json = await machines.JsonAsync(job.MachineId, job.MachineVersion, cancel);
        var circuit = workshop.Circuit(job.MachineId, job.MachineVersion, json!);
        var meter = await meters.GetAsync(cancel);
        var complaint = job.State.Complaint!;
        var design = workshop.Design(job.MachineId, job.MachineVersion, circuit, complaint);
        var (kit, whole) =
            wait && job.State.ComplaintTold && (design is not { AsDesigned: true } || job.State.GoesOn)
                ? (workshop.Kit(job.MachineId, job.MachineVersion, circuit, complaint), true)
                : workshop.Sketch(job.MachineId, job.MachineVersion, circuit, complaint);
        return new OpenJob(
            job,
            circuit,
            meter,
            kit,
            whole ? workshop.Diagnosis(job, kit, meter) : JobDiagnosis.Of(job.State, kit, meter),
            design
        )
        {
            IsWorkedOut = whole,
        };
    }
}
