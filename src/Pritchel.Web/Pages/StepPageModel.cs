using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Pritchel.Web.Pages;

/// <summary>
/// A page of something that is kept step by step: a part test, a survey, a loom, a rewire. Forms carry the sequence their author
/// saw, so a stale tab changes nothing unasked.
/// </summary>
/// <typeparam name="TOpen">It, laid out for work.</typeparam>
public abstract class StepPageModel<TOpen> : PageModel, ISaysWhatWasWrong
    where TOpen : class
{
    /// <summary>Tag from the address: P-0012, R-0012.</summary>
    [BindProperty(SupportsGet = true)]
    public string Tag { get; set; } = "";

    /// <summary>Sequence of the last step the form's author had seen.</summary>
    [BindProperty]
    public int After { get; set; }

    /// <summary>It, laid out.</summary>
    public TOpen Open { get; private set; } = null!;

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; protected set; }

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(Open is not null);
    }

    /// <summary>Area of the application that it belongs to.</summary>
    protected abstract string Area { get; }

    /// <summary>Title of the page.</summary>
    protected abstract string Title { get; }

    /// <summary>Address of the page.</summary>
    protected abstract string Address { get; }

    /// <summary>Gives up with the request.</summary>
    protected CancellationToken Cancel => HttpContext.RequestAborted;

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>Lays it out by its tag; null when there is none.</summary>
    protected abstract Task<TOpen?> OpenAsync();

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
            return Redirect(Address);
        }

        await LoadAsync();
        return Page();
    }

    /// <summary>Lays it out; false when there is none of that tag.</summary>
    protected virtual async Task<bool> LoadAsync()
    {
        if (await OpenAsync() is not { } open)
        {
            return false;
        }

        Open = open;
        ViewData["Area"] = Area;
        ViewData["Title"] = Title;
        return true;
    }
}
