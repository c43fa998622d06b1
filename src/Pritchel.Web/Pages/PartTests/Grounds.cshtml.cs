using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.PartTests;

/// <summary>A ground survey: points in the order of the least walking, and which way home has ohms too many.</summary>
public sealed class GroundsModel(GroundDesk desk) : PageModel
{
    /// <summary>Tag from the address: P-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>Point that is entered.</summary>
    [BindProperty]
    public string? Point { get; set; }

    /// <summary>Millivolts as typed.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>The survey.</summary>
    public OpenSurvey Open { get; private set; } = null!;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>Keeps a figure.</summary>
    public Task<IActionResult> OnPostAsync() =>
        ActAsync(() => desk.ReadAsync(Open, After, Point, Typed, HttpContext.RequestAborted));

    /// <summary>Takes the last figure back.</summary>
    public Task<IActionResult> OnPostUndoAsync() =>
        ActAsync(() => desk.UndoAsync(Open, After, HttpContext.RequestAborted));

    private async Task<IActionResult> ActAsync(Func<Task<string?>> act)
    {
        if (!await LoadAsync())
        {
            return NotFound();
        }

        Error = await act();
        if (Error is null)
        {
            return Redirect($"/part-tests/{Open.Entry.Tag}/grounds");
        }

        await LoadAsync();
        return Page();
    }

    private async Task<bool> LoadAsync()
    {
        if (
            PartTestStore.NumberOf(Tag) is not { } number
            || await desk.OpenAsync(number, HttpContext.RequestAborted) is not { } open
        )
        {
            return false;
        }

        Open = open;
        ViewData["Area"] = "Part tests";
        ViewData["Title"] = $"{open.Entry.Tag} Grounds of {open.Machine.Machine.Name}";
        return true;
    }
}
