using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Data;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages;

/// <summary>The bench: jobs on the floor, and a new one in two clicks.</summary>
public sealed class IndexModel(JobDesk desk, JobStore jobs, MachineStore machines, Workshop workshop) : PageModel
{
    /// <summary>Jobs not closed, newest first.</summary>
    public IReadOnlyList<FloorJob> Floor { get; private set; } = [];

    /// <summary>Closed jobs, newest first.</summary>
    public IReadOnlyList<FloorJob> Done { get; private set; } = [];

    /// <summary>Machines a job can be started on.</summary>
    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    /// <summary>What each machine can be complained of, by machine id.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<Symptom>> Symptoms { get; private set; } =
        new Dictionary<string, IReadOnlyList<Symptom>>(StringComparer.Ordinal);

    /// <summary>What was wrong with what was sent.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows the bench.</summary>
    public async Task OnGetAsync() => await LoadAsync();

    /// <summary>Starts a job.</summary>
    public async Task<IActionResult> OnPostStartAsync(string machine, string duty)
    {
        if (
            await desk.MachineAsync(machine ?? "") is not { } found
            || !workshop
                .Symptoms(found.Entry.Id, found.Entry.Version, found.Circuit)
                .Any(s => string.Equals(s.Duty.Id, duty, StringComparison.Ordinal))
        )
        {
            Error = "That machine or complaint is not here any more; choose from the list below.";
            await LoadAsync();
            return Page();
        }

        var number = await jobs.OpenAsync(
            found.Entry.Id,
            found.Entry.Version,
            new ComplaintMade(new Complaint { Duty = duty })
        );
        return Redirect($"/jobs/{JobStore.TagOf(number)}/complaint");
    }

    private async Task LoadAsync()
    {
        var all = await desk.ListAsync();
        Floor = [.. all.Where(j => j.State.Closed is null)];
        Done = [.. all.Where(j => j.State.Closed is not null)];
        var list = new List<Machine>();
        var symptoms = new Dictionary<string, IReadOnlyList<Symptom>>(StringComparer.Ordinal);
        foreach (var entry in await machines.ListAsync())
        {
            var circuit = (await desk.MachineAsync(entry.Id))!.Value.Circuit;
            list.Add(circuit.Machine);
            symptoms[entry.Id] = workshop.Symptoms(entry.Id, entry.Version, circuit);
        }

        (Machines, Symptoms) = (list, symptoms);
        ViewData["Area"] = "Bench";
    }
}
