using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Core.Machines;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>Begins a draft: the next version of a machine, another machine from it, or an empty one.</summary>
public sealed class BeginModel(MachineStore machines, DraftStore drafts, JobDesk desk) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Machine to begin from, by id; nothing for an empty one.</summary>
    [BindProperty(SupportsGet = true)]
    public string? From { get; set; }

    /// <summary>The machine to begin from.</summary>
    public Machine? Machine { get; private set; }

    /// <summary>The new machine as typed.</summary>
    [BindProperty]
    public MachineBegun Begun { get; set; } = new();

    /// <summary>What was wrong.</summary>
    public IReadOnlyList<string> Problems { get; private set; } = [];

    /// <summary>Shows the choice.</summary>
    public Task<IActionResult> OnGetAsync() => ShowAsync();

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Problems = [error];
        return Task.FromResult(true);
    }

    /// <summary>Begins the next version of the machine itself.</summary>
    public async Task<IActionResult> OnPostChangeAsync()
    {
        await ShowAsync();
        return Machine is null
            ? NotFound()
            : Opened(await drafts.BeginAsync(Machine, $"begun from {Machine.Name}", HttpContext.RequestAborted));
    }

    /// <summary>Begins another machine, from this one or empty.</summary>
    public async Task<IActionResult> OnPostAnotherAsync()
    {
        var page = await ShowAsync();
        var taken = (await machines.ListAsync(HttpContext.RequestAborted))
            .Concat(await machines.ListPutAwayAsync(HttpContext.RequestAborted))
            .Select(m => m.Id);
        (var begun, Problems) = Begun.Read(Machine, taken);
        return begun is null
            ? page
            : Opened(
                await drafts.BeginAsync(
                    begun,
                    Machine is null ? "begun empty" : $"begun from {Machine.Name}",
                    HttpContext.RequestAborted
                )
            );
    }

    private async Task<IActionResult> ShowAsync()
    {
        ViewData["Area"] = "Machines";
        if (!string.IsNullOrEmpty(From))
        {
            if (await desk.MachineAsync(From, HttpContext.RequestAborted) is not { } found)
            {
                return NotFound();
            }

            Machine = found.Machine;
        }

        return Page();
    }

    private RedirectResult Opened(int draft) => Redirect($"/machines/drafts/{draft}");
}
