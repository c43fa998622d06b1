using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using Pritchel.Data;

namespace Pritchel.Web.Entrance;

/// <summary>Says who may read a page or an address; where it stands on none, a reader may.</summary>
/// <param name="from">The role from which on somebody may.</param>
[AttributeUsage(AttributeTargets.Class)]
public sealed class ReadByAttribute(MemberRole from) : Attribute
{
    /// <summary>The role from which on somebody may.</summary>
    public MemberRole From { get; } = from;
}

/// <summary>Says who may send something to a page or an address; where it stands on none, a mechanic may.</summary>
/// <param name="from">The role from which on somebody may.</param>
[AttributeUsage(AttributeTargets.Class)]
public sealed class ChangedByAttribute(MemberRole from) : Attribute
{
    /// <summary>The role from which on somebody may.</summary>
    public MemberRole From { get; } = from;

    /// <summary>Handlers of a page that are left to a mechanic all the same, as its forms name them.</summary>
    public string[] But { get; init; } = [];
}

/// <summary>Says the same of an address of the API.</summary>
internal static class ChangedByMetadata
{
    public static T ChangedBy<T>(this T builder, MemberRole from)
        where T : IEndpointConventionBuilder => builder.WithMetadata(new ChangedByAttribute(from));
}

/// <summary>Asks for the role that a request needs.</summary>
internal sealed class RoleRequirement : IAuthorizationRequirement;

/// <summary>Weighs a signed-in member's role against what the page or address says of itself.</summary>
internal sealed class WhoMay : AuthorizationHandler<RoleRequirement, HttpContext>
{
    /// <summary>The least role that a request needs.</summary>
    public static MemberRole Needed(HttpContext context)
    {
        var says = context.GetEndpoint()?.Metadata;
        var reading = says?.GetMetadata<ReadByAttribute>()?.From ?? MemberRole.Reader;
        if (!Changes.Are(context.Request.Method))
        {
            return reading;
        }

        var changed = says?.GetMetadata<ChangedByAttribute>();
        var handler = context.Request.Query["handler"].ToString();
        var changing =
            changed is null || changed.But.Contains(handler, StringComparer.OrdinalIgnoreCase)
                ? MemberRole.Mechanic
                : changed.From;
        return changing > reading ? changing : reading;
    }

    /// <summary>Role of who is signed in; null for nobody.</summary>
    public static MemberRole? RoleOf(ClaimsPrincipal who) =>
        Enum.TryParse<MemberRole>(who.FindFirstValue(ClaimTypes.Role), out var role) ? role : null;

    protected override Task HandleRequirementAsync(
        AuthorizationHandlerContext context,
        RoleRequirement requirement,
        HttpContext resource
    )
    {
        if (RoleOf(context.User) >= Needed(resource))
        {
            context.Succeed(requirement);
        }

        return Task.CompletedTask;
    }
}
