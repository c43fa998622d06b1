using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Data;

namespace Pritchel.Web.Pages.Machines;

/// <summary>Machines: a list, files out and files in.</summary>
public sealed class IndexModel(MachineStore machines) : PageModel
{
    /// <summary>Machines by name.</summary>
    public IReadOnlyList<MachineEntry> List { get; private set; } = [];

    /// <summary>Why a file was refused.</summary>
    public IReadOnlyList<MachineProblem> Problems { get; private set; } = [];

    /// <summary>Name of the file refused or taken.</summary>
    public string? FileName { get; private set; }

    /// <summary>The machine taken in, or null.</summary>
    public MachineEntry? Taken { get; private set; }

    /// <summary>Shows the list.</summary>
    public async Task OnGetAsync() => await LoadAsync();

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
            var reading = MachineFile.Read(stream);
            Problems = reading.Problems;
            Taken = reading.Machine is { } machine ? await machines.AddAsync(machine) : null;
        }

        await LoadAsync();
        return Page();
    }

    private async Task LoadAsync()
    {
        List = await machines.ListAsync();
        ViewData["Area"] = "Machines";
    }
}
