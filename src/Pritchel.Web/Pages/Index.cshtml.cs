using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Data;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages;

/// <summary>The bench: jobs on the floor, and a new one in two clicks.</summary>
public sealed class IndexModel(JobDesk desk, JobStore jobs, MachineStore machines) : PageModel
{
    /// <summary>Jobs not closed, newest first.</summary>
    public IReadOnlyList<OpenJob> Floor { get; private set; } = [];

    /// <summary>Closed jobs, newest first.</summary>
    public IReadOnlyList<OpenJob> Done { get; private set; } = [];

    /// <summary>Machines a job can be started on.</summary>
    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    /// <summary>What was wrong with what was sent.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows the bench.</summary>
    public async Task OnGetAsync() => await LoadAsync();

    /// <summary>Starts a job.</summary>
    public async Task<IActionResult> OnPostStartAsync(string machine, string duty)
    {
        if (
            await desk.MachineAsync(machine ?? "") is not { } found
            || !found.Circuit.Machine.Duties.Any(d => string.Equals(d.Id, duty, StringComparison.Ordinal))
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
        foreach (var entry in await machines.ListAsync())
        {
            list.Add((await desk.MachineAsync(entry.Id))!.Value.Circuit.Machine);
        }

        Machines = list;
        ViewData["Area"] = "Bench";
    }
}
