using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>Rewires and unknown looms: begin one; those begun.</summary>
public sealed class IndexModel(
    RewireStore rewires,
    RewireDesk desk,
    MachineStore machines,
    PartTestStore tests,
    LoomDesk looms
) : PageModel, ISaysWhatWasWrong
{
    /// <summary>What it is to be called.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Machine that is rewired.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Host { get; set; }

    /// <summary>Machine that something comes from.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Donor { get; set; }

    /// <summary>Machines in the record.</summary>
    public IReadOnlyList<MachineEntry> Machines { get; private set; } = [];

    /// <summary>Rewires begun, newest first.</summary>
    public IReadOnlyList<RewireEntry> Begun { get; private set; } = [];

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>What an unknown loom is to be called.</summary>
    [BindProperty]
    public string? LoomName { get; set; }

    /// <summary>Its plugs, a line each.</summary>
    [BindProperty]
    public string? Plugs { get; set; }

    /// <summary>Switches left in it, a line each.</summary>
    [BindProperty]
    public string? Switches { get; set; }

    /// <summary>What was wrong with the loom; null for nothing.</summary>
    public string? LoomError { get; private set; }

    /// <summary>Looms begun, newest first.</summary>
    public IReadOnlyList<PartTestEntry> Looms { get; private set; } = [];

    /// <inheritdoc/>
    public async Task<bool> SayAsync(string error)
    {
        Error = error;
        await LoadAsync();
        return true;
    }

    /// <summary>Begins on an unknown loom.</summary>
    public async Task<IActionResult> OnPostLoomAsync()
    {
        var (number, why) = await looms.BeginAsync(LoomName, Plugs, Switches, HttpContext.RequestAborted);
        if (number is { } begun)
        {
            return Redirect($"/rewires/looms/{PartTestStore.TagOf(begun)}");
        }

        LoomError = why;
        await LoadAsync();
        return Page();
    }

    /// <summary>Shows the list.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Begins one.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        var (number, why) = await desk.BeginAsync(Name, Host, Donor, HttpContext.RequestAborted);
        if (number is { } begun)
        {
            return Redirect($"/rewires/{RewireStore.TagOf(begun)}/sides");
        }

        Error = why;
        await LoadAsync();
        return Page();
    }

    private async Task LoadAsync()
    {
        ViewData["Area"] = "Rewire";
        ViewData["Title"] = "Rewire";
        Machines = await machines.ListAsync(HttpContext.RequestAborted);
        Begun = await rewires.ListAsync(HttpContext.RequestAborted);
        Looms =
        [
            .. (await tests.ListAsync(HttpContext.RequestAborted)).Where(t =>
                t.Sheet == Core.PartTests.Looms.LoomSheet.Key
            ),
        ];
    }
}
