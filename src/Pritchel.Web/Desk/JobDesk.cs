using Pritchel.Core.Circuits;
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
public sealed record OpenJob(Job Job, Circuit Circuit, Meter Meter, DiagnosisKit Kit, JobDiagnosis Diagnosis)
{
    /// <summary>Its machine.</summary>
    public Machine Machine => Circuit.Machine;

    /// <summary>Its state.</summary>
    public JobState State => Job.State;

    /// <summary>Stage, a waiting verdict included.</summary>
    public Stage Stage => Diagnosis.Stage;
}

/// <summary>Brings jobs, machines and meter together for the pages and the API.</summary>
public sealed class JobDesk(JobStore jobs, MachineStore machines, MeterStore meters, Workshop workshop)
{
    /// <summary>A job laid out, or null.</summary>
    public async Task<OpenJob?> OpenAsync(int number, CancellationToken cancel = default)
    {
        var job = await jobs.FindAsync(number, cancel);
        return job is null ? null : await LayOutAsync(job, cancel);
    }

    /// <summary>All jobs laid out, newest first.</summary>
    public async Task<IReadOnlyList<OpenJob>> ListAsync(CancellationToken cancel = default)
    {
        var all = new List<OpenJob>();
        foreach (var job in await jobs.ListAsync(cancel))
        {
            all.Add(await LayOutAsync(job, cancel));
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

    private async Task<OpenJob> LayOutAsync(Job job, CancellationToken cancel)
    {
        var json = await machines.JsonAsync(job.MachineId, job.MachineVersion, cancel);
        var circuit = workshop.Circuit(job.MachineId, job.MachineVersion, json!);
        var meter = await meters.GetAsync(cancel);
        var complaint = job.State.Complaint!;
        var kit = workshop.Kit(job.MachineId, job.MachineVersion, circuit, complaint.Duty, complaint.Bridged);
        return new OpenJob(job, circuit, meter, kit, workshop.Diagnosis(job, kit, meter));
    }
}
