using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines;

/// <summary>Machines: a list, files out and files in.</summary>
public sealed class IndexModel(MachineStore machines, DraftStore drafts, JobDesk desk) : PageModel, ISaysWhatWasWrong
{
    private const int MostHits = 12;

    /// <summary>Machines by name.</summary>
    public IReadOnlyList<MachineEntry> List { get; private set; } = [];

    /// <summary>Machines put away, by name.</summary>
    public IReadOnlyList<MachineEntry> PutAway { get; private set; } = [];

    /// <summary>Machines being drawn or changed.</summary>
    public IReadOnlyList<DraftEntry> Drafts { get; private set; } = [];

    /// <summary>What is looked for, as typed.</summary>
    [BindProperty(SupportsGet = true, Name = "q")]
    public string? Sought { get; set; }

    /// <summary>What was found, machine by machine.</summary>
    public IReadOnlyList<(MachineEntry Entry, IReadOnlyList<MachineHit> Hits)> Found { get; private set; } = [];

    /// <summary>Why a file was refused.</summary>
    public IReadOnlyList<MachineProblem> Problems { get; private set; } = [];

    /// <summary>Name of the file refused or taken.</summary>
    public string? FileName { get; private set; }

    /// <summary>The machine taken in, or null.</summary>
    public MachineEntry? Taken { get; private set; }

    /// <summary>Shows the list.</summary>
    public async Task OnGetAsync()
    {
        await LoadAsync();
        if (string.IsNullOrWhiteSpace(Sought))
        {
            return;
        }

        var found = new List<(MachineEntry, IReadOnlyList<MachineHit>)>();
        foreach (var entry in List)
        {
            try
            {
                if (
                    await desk.MachineAsync(entry.Id, HttpContext.RequestAborted) is { } machine
                    && MachineSearch.Find(machine.Machine, Sought).Take(MostHits).ToList() is { Count: > 0 } hits
                )
                {
                    found.Add((entry, hits));
                }
            }
            catch (UnreadableMachineException)
            {
                // The bench names it.
            }
        }

        Found = found;
    }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Problems = [new MachineProblem("record", error)];
        return Task.FromResult(true);
    }

    /// <summary>Takes a file in, or says why not.</summary>
    public async Task<IActionResult> OnPostAsync(IFormFile? file)
    {
        FileName = file?.FileName;
        if (file is null || file.Length == 0)
        {
            Problems =
            [
                new MachineProblem("file", "No file was chosen, or it is empty. Choose a machine file (JSON)."),
            ];
        }
        else
        {
            await using var stream = file.OpenReadStream();
            var reading = await machines.ReadAsync(stream);
            Problems = reading.Problems;
            Taken = reading.Machine is { } machine ? await machines.AddAsync(machine) : null;
        }

        await LoadAsync();
        return Page();
    }

    /// <summary>Brings a machine back that was put away.</summary>
    public async Task<IActionResult> OnPostBackAsync(string id)
    {
        await machines.PutAwayAsync(id ?? "", away: false);
        return Redirect("/machines");
    }

    private async Task LoadAsync()
    {
        List = await machines.ListAsync();
        PutAway = await machines.ListPutAwayAsync();
        Drafts = await drafts.ListAsync();
        ViewData["Area"] = "Machines";
    }
}
