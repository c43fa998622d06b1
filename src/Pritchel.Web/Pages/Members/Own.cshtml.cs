using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Pages.Members;

/// <summary>Changes the words that one signs in with, and whether a code is asked for besides.</summary>
[ChangedBy(MemberRole.Reader)]
public sealed class OwnModel(MemberDesk desk, SecondFactor second, SignInManager<Member> signIn) : PageModel
{
    /// <summary>What was wrong with the words; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>What was wrong with the code; null for nothing.</summary>
    public string? CodeError { get; private set; }

    /// <summary>Whether a code is asked for.</summary>
    public bool IsCodeAsked { get; private set; }

    /// <summary>The key to take in; null while it is not wanted.</summary>
    public AuthenticatorKey? Key { get; private set; }

    /// <summary>Shows it to who is signed in.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        await OwnAsync() is { } member ? await ShowAsync(member, code: false) : NotFound();

    /// <summary>Shows a key to take in.</summary>
    public async Task<IActionResult> OnPostKeyAsync() =>
        await OwnAsync() is { } member ? await ShowAsync(member, code: true) : NotFound();

    /// <summary>Changes the words, and leaves this session in.</summary>
    public async Task<IActionResult> OnPostAsync(string? old, string? words)
    {
        if (await OwnAsync() is not { } member)
        {
            return NotFound();
        }

        Error = await desk.WordsAsync(member.UserName, old ?? "", words);
        return Error is null ? await StayAsync("/") : await ShowAsync(member, code: false);
    }

    /// <summary>Asks for a code from now on, or no longer, and leaves this session in.</summary>
    public async Task<IActionResult> OnPostCodeAsync(bool ask, string? code)
    {
        if (await OwnAsync() is not { } member)
        {
            return NotFound();
        }

        CodeError = await second.AskAsync(member, ask, code);
        return CodeError is null ? await StayAsync("/members/own") : await ShowAsync(member, code: true);
    }

    private async Task<Member?> OwnAsync() =>
        User.Identity?.Name is { } name ? await signIn.UserManager.FindByNameAsync(name) : null;

    private async Task<IActionResult> ShowAsync(Member member, bool code)
    {
        IsCodeAsked = SecondFactor.IsAsked(member);
        if (code && !IsCodeAsked)
        {
            // A key that is made ends all sessions; this one stays in.
            Key = await second.KeyAsync(member);
            await signIn.RefreshSignInAsync(member);
        }

        return Page();
    }

    private async Task<IActionResult> StayAsync(string page)
    {
        await signIn.RefreshSignInAsync((await OwnAsync())!);
        return Redirect(page);
    }
}
