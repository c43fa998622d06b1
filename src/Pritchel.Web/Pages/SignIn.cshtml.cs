using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Pages;

/// <summary>Asks for the passphrase where the application can be reached from other machines.</summary>
[AllowAnonymous]
public sealed class SignInModel(Passphrase passphrase, ILogger<SignInModel> log) : PageModel
{
    /// <summary>Page that was asked for.</summary>
    [BindProperty(SupportsGet = true, Name = "ReturnUrl")]
    public string? Wanted { get; set; }

    /// <summary>What was wrong; null for nothing.</summary>
    public string? Error { get; private set; }

    /// <summary>Shows it; where nothing is asked there is nothing to sign in to.</summary>
    public IActionResult OnGet() => passphrase.IsAsked ? Page() : Redirect("/");

    /// <summary>Tries the passphrase.</summary>
    public async Task<IActionResult> OnPostAsync(string? words)
    {
        var who = HttpContext.Connection.RemoteIpAddress?.ToString() ?? "";
        if (!passphrase.MayTry(who))
        {
            Error = "Five wrong ones: try again in ten minutes.";
            return Page();
        }

        if (!passphrase.Is(words, who))
        {
            log.LogWarning("A sign-in from {Who} was refused.", who);
            Error = passphrase.MayTry(who) ? "That is not it." : "Five wrong ones: try again in ten minutes.";
            return Page();
        }

        var identity = new ClaimsIdentity(
            [new Claim(ClaimTypes.Name, "workshop")],
            CookieAuthenticationDefaults.AuthenticationScheme
        );
        await HttpContext.SignInAsync(new ClaimsPrincipal(identity));
        return LocalRedirect(Url.IsLocalUrl(Wanted) ? Wanted! : "/");
    }

    /// <summary>Signs out.</summary>
    public async Task<IActionResult> OnPostOutAsync()
    {
        await HttpContext.SignOutAsync();
        return Redirect(SigningIn.Page);
    }
}
