using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages;

/// <summary>The bench: jobs on the floor, and a new one in two clicks.</summary>
public sealed class IndexModel(JobDesk desk, JobStore jobs, MachineStore machines, MeterStore meters, SetAside setAside)
    : PageModel,
        ISaysWhatWasWrong
{
    /// <summary>Most jobs that a page shows.</summary>
    public const int MostShown = 40;

    /// <summary>Jobs not closed, newest first, as many as a page shows.</summary>
    public IReadOnlyList<FloorJob> Floor { get; private set; } = [];

    /// <summary>How many jobs are not closed.</summary>
    public int OnTheFloor { get; private set; }

    /// <summary>Closed jobs, newest first, as many as a page shows.</summary>
    public IReadOnlyList<FloorJob> Done { get; private set; } = [];

    /// <summary>How many jobs are closed.</summary>
    public int Closed { get; private set; }

    /// <summary>Page of the jobs on the floor, from 1.</summary>
    [BindProperty(SupportsGet = true, Name = "floor")]
    public int FloorPage { get; set; } = 1;

    /// <summary>Page of the closed jobs, from 1.</summary>
    [BindProperty(SupportsGet = true, Name = "closed")]
    public int ClosedPage { get; set; } = 1;

    /// <summary>Machines a job can be started on.</summary>
    public IReadOnlyList<MachineVersion> Machines { get; private set; } = [];

    /// <summary>What the record holds and cannot be read here, in words.</summary>
    public IReadOnlyList<string> SetAside { get; private set; } = [];

    /// <summary>What a customer says, to find a complaint by.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Said { get; set; }

    /// <summary>Complaints that may be meant by it.</summary>
    public IReadOnlyList<(MachineVersion Machine, Symptom Symptom)> Meant { get; private set; } = [];

    /// <summary>The machine whose complaints are all listed, by its id; null for none.</summary>
    [BindProperty(SupportsGet = true, Name = "machine")]
    public string? Chosen { get; set; }

    /// <summary>
    /// That machine, or the only one there is. Of the others they are found when they are asked for: every one of them is a
    /// setting solved, and the first page of a fresh record would wait for thirteen machines.
    /// </summary>
    public MachineVersion? Listed =>
        Machines.FirstOrDefault(m => m.Id == Chosen) ?? (Machines.Count == 1 ? Machines[0] : null);

    /// <summary>What was wrong with what was sent.</summary>
    public string? Error { get; private set; }

    /// <inheritdoc/>
    public async Task<bool> SayAsync(string error)
    {
        Error = error;
        await LoadAsync();
        return true;
    }

    /// <summary>Shows the bench.</summary>
    public async Task OnGetAsync() => await LoadAsync();

    /// <summary>All that a machine can be complained of, to be put in its place on the page.</summary>
    public async Task<IActionResult> OnGetComplaintsAsync() =>
        await desk.MachineAsync(Chosen ?? "") is { } found ? Partial("_Complaints", found) : NotFound();

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

    private static int Within(int page, int count) =>
        Math.Clamp(page, 1, Math.Max(1, (count + MostShown - 1) / MostShown));

    private async Task LoadAsync()
    {
        var cancel = HttpContext.RequestAborted;
        (OnTheFloor, Closed) = (
            await jobs.CountAsync(closed: false, cancel),
            await jobs.CountAsync(closed: true, cancel)
        );
        (FloorPage, ClosedPage) = (Within(FloorPage, OnTheFloor), Within(ClosedPage, Closed));
        Floor = await desk.ListAsync(closed: false, (FloorPage - 1) * MostShown, MostShown, cancel);
        Done = await desk.ListAsync(closed: true, (ClosedPage - 1) * MostShown, MostShown, cancel);
        var aside = Floor
            .Concat(Done)
            .Where(j => j.Unreadable is not null)
            .Select(j => (j.Job.Tag, Why: j.Unreadable!))
            .Concat(setAside.Jobs)
            .DistinctBy(j => j.Tag)
            .Select(j => $"{j.Tag}: {j.Why}")
            .ToList();
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
