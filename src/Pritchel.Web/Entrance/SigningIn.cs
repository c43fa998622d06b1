using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Pritchel.Data;

namespace Pritchel.Web.Entrance;

/// <summary>
/// Sets up that nobody gets past the sign-in page without a name and words of their own, where somebody is asked who they are,
/// and that what they enter carries their name.
/// </summary>
public static class SigningIn
{
    /// <summary>Address of the page.</summary>
    public const string Page = "/sign-in";

    /// <summary>Fewest characters of a member's own words.</summary>
    public const int FewestCharacters = 8;

    /// <summary>Wrong tries after which an account rests.</summary>
    public const int MostTries = 5;

    public static void AddSigningIn(this IServiceCollection services, bool asked)
    {
        services
            .AddIdentityCore<Member>(identity =>
            {
                // Length is what counts (NIST SP 800-63B, from memory): no rules on which characters.
                identity.Password.RequiredLength = FewestCharacters;
                identity.Password.RequireDigit = false;
                identity.Password.RequireLowercase = false;
                identity.Password.RequireUppercase = false;
                identity.Password.RequireNonAlphanumeric = false;
                identity.Lockout.MaxFailedAccessAttempts = MostTries;
                identity.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(10);

                // Names of people, in their own letters; what cannot be printed is refused where they are typed.
                identity.User.AllowedUserNameCharacters = "";
            })
            .AddEntityFrameworkStores<PritchelContext>()
            .AddPasswordValidator<CommonWords>()
            .AddClaimsPrincipalFactory<MemberClaims>()
            .AddTokenProvider<AuthenticatorTokenProvider<Member>>(TokenOptions.DefaultAuthenticatorProvider)
            .AddSignInManager();
        services.AddScoped<MemberDesk>();
        services.AddScoped<SecondFactor>();

        // Somebody who is taken out, or whose role or words change, is out with the next request.
        services.Configure<SecurityStampValidatorOptions>(s => s.ValidationInterval = TimeSpan.Zero);
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies();
        services.ConfigureApplicationCookie(Cookie);
        services.Configure<CookieAuthenticationOptions>(
            IdentityConstants.TwoFactorUserIdScheme,
            cookie =>
            {
                cookie.Cookie.Name = "pritchel-half-in";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Strict;
            }
        );
        services.AddSingleton<IAuthorizationHandler, WhoMay>();
        services.AddAuthorization(authorization =>
            authorization.FallbackPolicy = asked
                ? new AuthorizationPolicyBuilder()
                    .RequireAuthenticatedUser()
                    .AddRequirements(new RoleRequirement())
                    .Build()
                : null
        );
    }

    /// <summary>Puts the name of who is signed in to what the request writes.</summary>
    public static void UseAuthors(this WebApplication app) =>
        app.Use(
            (context, next) =>
            {
                if (context.User.Identity is { IsAuthenticated: true, Name: { } name })
                {
                    context.RequestServices.GetRequiredService<PritchelContext>().Author = name;
                }

                return next(context);
            }
        );

    private static void Cookie(CookieAuthenticationOptions cookie)
    {
        cookie.LoginPath = Page;
        cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
        cookie.SlidingExpiration = true;
        cookie.Cookie.Name = "pritchel-signed-in";
        cookie.Cookie.HttpOnly = true;
        cookie.Cookie.SameSite = SameSiteMode.Strict;
        cookie.Events.OnRedirectToLogin = context =>
            Answer(context, StatusCodes.Status401Unauthorized, "Sign in first.");
        cookie.Events.OnRedirectToAccessDenied = context =>
            Answer(context, StatusCodes.Status403Forbidden, Refusal(context.HttpContext));
    }

    /// <summary>What somebody may not do, and who may.</summary>
    public static string Refusal(HttpContext context) =>
        $"That is for {(WhoMay.Needed(context) == MemberRole.Owner ? "an owner" : "a mechanic")}; this account is a {WhoMay.RoleOf(context.User)?.ToString().ToLowerInvariant() ?? "stranger"}’s. Nothing was changed.";

    /// <summary>Words for a program; for a person the page to sign in at, or the one that says why not.</summary>
    private static Task Answer(RedirectContext<CookieAuthenticationOptions> context, int status, string words)
    {
        if (context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
        {
            return Results.Problem(words, statusCode: status).ExecuteAsync(context.HttpContext);
        }

        if (status == StatusCodes.Status401Unauthorized)
        {
            context.Response.Redirect(context.RedirectUri);
        }
        else
        {
            context.HttpContext.Items[typeof(SigningIn)] = words;
            context.Response.StatusCode = status;
        }

        return Task.CompletedTask;
    }
}

/// <summary>Tells the session what a member may do.</summary>
internal sealed class MemberClaims(UserManager<Member> members, IOptions<IdentityOptions> options)
    : UserClaimsPrincipalFactory<Member>(members, options)
{
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Member user)
    {
        var claims = await base.GenerateClaimsAsync(user);
        claims.AddClaim(new Claim(ClaimTypes.Role, user.Role.ToString()));
        return claims;
    }
}
