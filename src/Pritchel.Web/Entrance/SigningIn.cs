using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;

namespace Pritchel.Web.Entrance;

/// <summary>Sets up that nobody gets past the sign-in page without the passphrase, where one is asked for.</summary>
internal static class SigningIn
{
    /// <summary>Address of the page.</summary>
    public const string Page = "/sign-in";

    public static void AddSigningIn(this IServiceCollection services, bool asked)
    {
        services
            .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
            .AddCookie(cookie =>
            {
                cookie.LoginPath = Page;
                cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
                cookie.SlidingExpiration = true;
                cookie.Cookie.Name = "pritchel-signed-in";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Strict;
                cookie.Events.OnRedirectToLogin = context =>
                {
                    if (context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
                    {
                        return Results
                            .Problem("Sign in first.", statusCode: StatusCodes.Status401Unauthorized)
                            .ExecuteAsync(context.HttpContext);
                    }

                    context.Response.Redirect(context.RedirectUri);
                    return Task.CompletedTask;
                };
            });
        services.AddAuthorization(authorization =>
            authorization.FallbackPolicy = asked
                ? new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build()
                : null
        );
    }
}
