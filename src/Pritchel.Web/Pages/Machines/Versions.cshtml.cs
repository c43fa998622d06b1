using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Data;

namespace Pritchel.Web.Pages.Machines;

/// <summary>A machine's versions, newest first, with what each changed.</summary>
public sealed class VersionsModel(MachineStore machines, JobStore jobs) : PageModel
{
    /// <summary>Newest version.</summary>
    public MachineEntry Entry { get; private set; } = null!;

    /// <summary>Versions with their differences from the one before; none for the first.</summary>
    public IReadOnlyList<(MachineVersionEntry Version, IReadOnlyList<string> Differences)> List { get; private set; } =
    [];

    /// <summary>Jobs by the version they keep.</summary>
    public ILookup<int, Job> Jobs { get; private set; } = Array.Empty<Job>().ToLookup(_ => 0);

    /// <summary>Whether the machine is put away.</summary>
    public bool IsPutAway { get; private set; }

    /// <summary>Puts the machine away, or brings it back.</summary>
    public async Task<IActionResult> OnPostAsync(string id, bool away)
    {
        if (await machines.FindAsync(id, HttpContext.RequestAborted) is null)
        {
            return NotFound();
        }

        await machines.PutAwayAsync(id, away, HttpContext.RequestAborted);
        return Redirect(away ? "/machines" : $"/machines/{id}");
    }

    /// <summary>Shows them.</summary>
    public async Task<IActionResult> OnGetAsync(string id)
    {
        var cancel = HttpContext.RequestAborted;
        if (await machines.FindAsync(id, cancel) is not { } entry)
        {
            return NotFound();
        }

        Entry = entry;
        IsPutAway = await machines.IsPutAwayAsync(id, cancel);
        var read = new List<(MachineVersionEntry Version, Machine? Machine)>();
        foreach (var version in await machines.VersionsAsync(id, cancel))
        {
            read.Add((version, MachineFile.Read((await machines.JsonAsync(id, version.Version, cancel))!).Machine));
        }

        List =
        [
            .. read.Select((v, i) => (v.Version, i == 0 ? [] : Differences(read[i - 1].Machine, v.Machine))).Reverse(),
        ];
        Jobs = (await jobs.OfMachineAsync(id, cancel)).ToLookup(j => j.MachineVersion);
        ViewData["Area"] = "Machines";
        return Page();
    }

    private static IReadOnlyList<string> Differences(Machine? before, Machine? after) =>
        before is not null && after is not null
            ? MachineDifference.Between(before, after)
            : ["One of the two cannot be read here, so what changed is not known."];
}
