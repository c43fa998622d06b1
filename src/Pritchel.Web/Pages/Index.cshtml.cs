using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages;

/// <summary>The bench: jobs on the floor, and a new one in two clicks.</summary>
public sealed class IndexModel(JobDesk desk, JobStore jobs, MachineStore machines, MeterStore meters) : PageModel
{
    /// <summary>Jobs not closed, newest first.</summary>
    public IReadOnlyList<FloorJob> Floor { get; private set; } = [];

    /// <summary>Closed jobs, newest first.</summary>
    public IReadOnlyList<FloorJob> Done { get; private set; } = [];

    /// <summary>Machines a job can be started on.</summary>
    public IReadOnlyList<MachineVersion> Machines { get; private set; } = [];

    /// <summary>What the record holds and cannot be read here, in words.</summary>
    public IReadOnlyList<string> SetAside { get; private set; } = [];

    /// <summary>What a customer says, to find a complaint by.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Said { get; set; }

    /// <summary>Complaints that may be meant by it.</summary>
    public IReadOnlyList<(MachineVersion Machine, Symptom Symptom)> Meant { get; private set; } = [];

    /// <summary>What was wrong with what was sent.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows the bench.</summary>
    public async Task OnGetAsync() => await LoadAsync();

    /// <summary>Starts a job.</summary>
    public async Task<IActionResult> OnPostStartAsync(string machine, string duty)
    {
        if (
            await desk.MachineAsync(machine ?? "") is not { } found
            || found.Duty(new DutyId(duty ?? "")) is not { } told
        )
        {
            Error = "That machine or complaint is not here any more; choose from the list below.";
            await LoadAsync();
            return Page();
        }

        var number = await jobs.OpenAsync(found.Id, found.Version, new ComplaintMade(new Complaint { Duty = told.Id }));
        return Redirect($"/jobs/{JobStore.TagOf(number)}/complaint");
    }

    private async Task LoadAsync()
    {
        var all = await desk.ListAsync();
        Floor = [.. all.Where(j => j.State.Closed is null)];
        Done = [.. all.Where(j => j.State.Closed is not null)];
        var aside = all.Where(j => j.Unreadable is not null).Select(j => $"{j.Job.Tag}: {j.Unreadable}").ToList();
        var list = new List<MachineVersion>();
        foreach (var entry in await machines.ListAsync())
        {
            try
            {
                list.Add((await desk.MachineAsync(entry.Id))!);
            }
            catch (UnreadableMachineException e)
            {
                aside.Add(e.Message);
            }
        }

        if (await meters.IsUnreadableAsync())
        {
            aside.Add(
                "The meter in use cannot be read; an ordinary one stands in for it. Say on the Meter page what yours is."
            );
        }

        const int MostMeant = 12;
        const int MostSaid = 200;
        Said = Said is { Length: > MostSaid } ? Said[..MostSaid] : Said;
        Meant = Said is { Length: > 0 } said ? [.. SaidByCustomer.Find(list, said).Take(MostMeant)] : [];
        (Machines, SetAside) = (list, aside);
        ViewData["Area"] = "Bench";
    }
}
