using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Pages.Members;

/// <summary>Who may sign in, and what each may do.</summary>
[ReadBy(MemberRole.Owner)]
public sealed class IndexModel(MemberDesk desk, Passphrase passphrase) : PageModel, ISaysWhatWasWrong
{
    /// <summary>Name typed.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>Role chosen.</summary>
    [BindProperty]
    public MemberRole Role { get; set; } = MemberRole.Mechanic;

    /// <summary>Everybody.</summary>
    public IReadOnlyList<Member> Everybody { get; private set; } = [];

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Whether anybody is asked who they are.</summary>
    public bool IsAsked => passphrase.IsAsked;

    /// <summary>Lists them.</summary>
    public Task<IActionResult> OnGetAsync() => AnswerAsync(null);

    /// <summary>Takes somebody in.</summary>
    public async Task<IActionResult> OnPostAsync(string? words) =>
        await AnswerAsync(await desk.AddAsync(Name, Role, words));

    /// <summary>Changes what somebody may do.</summary>
    public async Task<IActionResult> OnPostRoleAsync() =>
        await AnswerAsync(await desk.RoleAsync(Name, Role, HttpContext.RequestAborted));

    /// <summary>Gives somebody new words.</summary>
    public async Task<IActionResult> OnPostWordsAsync(string? words) =>
        await AnswerAsync(await desk.WordsAsync(Name, old: null, words));

    /// <summary>Takes somebody out.</summary>
    public async Task<IActionResult> OnPostOutAsync() =>
        await AnswerAsync(await desk.TakeOutAsync(Name, HttpContext.RequestAborted));

    /// <inheritdoc/>
    public Task<bool> SayAsync(string error)
    {
        Error = error;
        return Task.FromResult(true);
    }

    private async Task<IActionResult> AnswerAsync(string? fault)
    {
        if (fault is null && HttpMethods.IsPost(Request.Method))
        {
            return RedirectToPage();
        }

        Error = fault ?? (ModelState.IsValid ? null : "The role: one of those in the list.");
        Everybody = await desk.ListAsync(HttpContext.RequestAborted);
        return Page();
    }
}
