using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Pages.Members;

/// <summary>Changes the words that one signs in with.</summary>
[ChangedBy(MemberRole.Reader)]
public sealed class OwnModel(MemberDesk desk, SignInManager<Member> signIn) : PageModel
{
    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows it to who is signed in.</summary>
    public IActionResult OnGet() => User.Identity?.Name is null ? NotFound() : Page();

    /// <summary>Changes them, and leaves this session in.</summary>
    public async Task<IActionResult> OnPostAsync(string? old, string? words)
    {
        if (User.Identity?.Name is not { } name)
        {
            return NotFound();
        }

        Error = await desk.WordsAsync(name, old ?? "", words);
        if (Error is not null)
        {
            return Page();
        }

        await signIn.RefreshSignInAsync((await signIn.UserManager.FindByNameAsync(name))!);
        return Redirect("/");
    }
}
