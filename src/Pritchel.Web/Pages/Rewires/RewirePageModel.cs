using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Rewires;

/// <summary>A page of one rewire. Forms carry the sequence their author saw, so a stale tab changes nothing unasked.</summary>
public abstract class RewirePageModel(RewireDesk desk) : PageModel
{
    /// <summary>Tag from the address: R-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>The rewire.</summary>
    public OpenRewire Open { get; private set; } = null!;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; protected set; }

    /// <summary>Page of the rewire that this is: sides, marry, prove, build.</summary>
    public abstract string Step { get; }

    /// <summary>Brings rewires and machines together.</summary>
    protected RewireDesk Desk => desk;

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>Takes the last step back.</summary>
    public Task<IActionResult> OnPostUndoAsync() =>
        ActAsync(() => desk.UndoAsync(Open, After, HttpContext.RequestAborted));

    /// <summary>Does something and shows the page anew, or with what was wrong.</summary>
    protected async Task<IActionResult> ActAsync(Func<Task<string?>> act)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Error = await act();
        if (Error is null)
        {
            return Redirect($"/rewires/{Open.Entry.Tag}/{Step}");
        }

        await LoadAsync();
        return Page();
    }

    /// <summary>Lays the rewire out; false when there is none of that tag.</summary>
    protected virtual async Task<bool> LoadAsync()
    {
        if (
            RewireStore.NumberOf(Tag) is not { } number
            || await desk.OpenAsync(number, HttpContext.RequestAborted) is not { } open
        )
        {
            return false;
        }

        Open = open;
        ViewData["Area"] = "Rewire";
        ViewData["Title"] = $"{open.Entry.Tag} {open.Entry.Name}";
        ViewData["Battery"] = () => Step == "build" ? "Battery off first" : null;
        return true;
    }
}
