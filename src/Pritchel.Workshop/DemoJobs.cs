using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>Jobs for a first look: our own workshop's, each with a fault hidden in the simulated machine that answers.</summary>
internal static class DemoJobs
{
    private const string Tractor = "orchard-tractor-4";

    public static async Task AddAsync(IServiceProvider services, CancellationToken cancel)
    {
        var jobs = services.GetRequiredService<JobStore>();
        var desk = services.GetRequiredService<JobDesk>();
        if ((await jobs.ListAsync(cancel)).Count > 0 || await desk.MachineAsync(Tractor, cancel) is not { } found)
        {
            return;
        }

        var predictor = services.GetRequiredService<Predictor>();
        var kit = await predictor.KitAsync(found, new Complaint { Duty = new DutyId("cranks") }, Meter.Ordinary);
        await AddAsync(
            jobs,
            found,
            kit,
            "brake/start/open",
            2,
            "Won't crank since the pruning crew had it. Lamps stay bright.",
            cancel
        );
        await AddAsync(
            jobs,
            found,
            kit,
            "C4@to/joint/open",
            1,
            "Only clicks since the hedge job. Worse after rain.",
            cancel
        );
        await DemoWeek.AddAsync(services, cancel);
        await DemoRewire.AddAsync(services, cancel);
    }

    /// <summary>Opens a job on a hidden fault and takes the first few readings the program asks for.</summary>
    private static async Task AddAsync(
        JobStore jobs,
        MachineVersion machine,
        DiagnosisKit kit,
        string faultId,
        int readings,
        string words,
        CancellationToken cancel
    )
    {
        var fault = kit.Circuit.Faults.First(f => f.Id.Text == faultId);
        if (HiddenFault.Hide(kit.Table, fault, Meter.Ordinary, new Random(147)) is not { } hidden)
        {
            return;
        }

        var complaint = hidden.Complaint with { Words = words };
        var number = await jobs.OpenAsync(machine.Id, machine.Version, new ComplaintMade(complaint), cancel);
        for (var r = 0; r < readings; r++)
        {
            var job = (await jobs.FindAsync(number, cancel))!;
            var diagnosis = JobDiagnosis.Of(job.State, kit, Meter.Ordinary);
            if (diagnosis.Verdict.Suspect is not null || diagnosis.Next is not { } next)
            {
                return;
            }

            var reading = hidden.Read(next.At);
            var figure = JobDiagnosis.Displayed(kit, Meter.Ordinary, reading);
            var typed = figure switch
            {
                null => "jumps",
                { } open when double.IsInfinity(open) => "OL",
                _ => figure.Value.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture),
            };
            await jobs.AppendAsync(
                number,
                job.State.Sequence,
                [new ReadingTaken(kit.Told(next.At), typed, figure, reading.Symptom)],
                cancel
            );
        }
    }
}
