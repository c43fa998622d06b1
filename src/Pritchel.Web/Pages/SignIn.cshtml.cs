using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Pages;

/// <summary>Asks who somebody is where the application can be reached from other machines.</summary>
[AllowAnonymous]
public sealed class SignInModel(
    Passphrase passphrase,
    SignInManager<Member> signIn,
    MemberDesk desk,
    ILogger<SignInModel> log
) : PageModel
{
    private const string Resting = "Five wrong ones: try again in ten minutes.";

    /// <summary>Page that was asked for.</summary>
    [BindProperty(SupportsGet = true, Name = "ReturnUrl")]
    public string? Wanted { get; set; }

    /// <summary>Whether an owner's account is to be made: the first, or because nobody knows the owner's words any more.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Owner { get; set; }

    /// <summary>Name typed.</summary>
    [BindProperty]
    public string? Name { get; set; }

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Whether the words were right, and a code is asked for now.</summary>
    public bool WantsCode { get; private set; }

    /// <summary>Whether nobody can sign in yet.</summary>
    public bool IsFirst { get; private set; }

    /// <summary>Shows it; where nothing is asked there is nothing to sign in to.</summary>
    public async Task<IActionResult> OnGetAsync() => passphrase.IsAsked ? await AskAsync(null) : Redirect("/");

    /// <summary>Tries a name and its words.</summary>
    public async Task<IActionResult> OnPostAsync(string? words)
    {
        if (await signIn.UserManager.FindByNameAsync(Name?.Trim() ?? "") is not { } member)
        {
            // As long as for a name that is here, so that the time does not tell.
            signIn.UserManager.PasswordHasher.HashPassword(new Member(), Cut(words));
            return await RefuseAsync("That name and these words do not go together.");
        }

        var tried = await signIn.PasswordSignInAsync(member, Cut(words), isPersistent: false, lockoutOnFailure: true);
        WantsCode = tried.RequiresTwoFactor;
        return tried.Succeeded ? On()
            : WantsCode ? await AskAsync(null)
            : await RefuseAsync(tried.IsLockedOut ? Resting : "That name and these words do not go together.");
    }

    /// <summary>Tries the code that somebody is asked for whose words were right.</summary>
    public async Task<IActionResult> OnPostCodeAsync(string? code)
    {
        if (await signIn.GetTwoFactorAuthenticationUserAsync() is null)
        {
            return await RefuseAsync("Too long ago: your name and words once more.");
        }

        var tried = await signIn.TwoFactorAuthenticatorSignInAsync(
            SecondFactor.Digits(code),
            isPersistent: false,
            rememberClient: false
        );
        WantsCode = !tried.Succeeded && !tried.IsLockedOut;
        return tried.Succeeded
            ? On()
            : await RefuseAsync(tried.IsLockedOut ? Resting : "That is not the code that it shows now.");
    }

    /// <summary>Makes an owner's account for whoever has the workshop's passphrase.</summary>
    public async Task<IActionResult> OnPostOwnerAsync(string? secret, string? words)
    {
        Owner = true;
        var from = HttpContext.Connection.RemoteIpAddress?.ToString() ?? "";
        if (!passphrase.Is(secret, from))
        {
            return await RefuseAsync(passphrase.MayTry(from) ? "That is not this workshop’s passphrase." : Resting);
        }

        if (await desk.OwnerAsync(Name, words) is { } fault)
        {
            return await AskAsync(fault);
        }

        await signIn.SignInAsync((await signIn.UserManager.FindByNameAsync(Name!.Trim()))!, isPersistent: false);
        return On();
    }

    /// <summary>Signs out.</summary>
    public async Task<IActionResult> OnPostOutAsync()
    {
        await signIn.SignOutAsync();
        return Redirect(SigningIn.Page);
    }

    private LocalRedirectResult On() => LocalRedirect(Url.IsLocalUrl(Wanted) ? Wanted! : "/");

    private static string Cut(string? words) => words is { Length: > MemberDesk.LongestWords } ? "" : words ?? "";

    private Task<IActionResult> RefuseAsync(string why)
    {
        log.LogWarning("A sign-in from {Who} was refused.", HttpContext.Connection.RemoteIpAddress);
        return AskAsync(why);
    }

    private async Task<IActionResult> AskAsync(string? why)
    {
        Error = why;
        IsFirst = !await desk.AnyAsync(HttpContext.RequestAborted);
        Owner |= IsFirst;
        return Page();
    }
}
