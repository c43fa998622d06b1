using Pritchel.Core.PartTests.Regulators;

namespace Pritchel.Web.Api;

/// <summary>Which kind of regulator somebody has in hand, over the API.</summary>
internal static class RegulatorApi
{
    public static void Map(RouteGroupBuilder api) =>
        api.MapGet("/regulator-kinds", Get)
            .WithTags("Part tests")
            .WithSummary("Kinds of regulator by what was seen and read: leads, metal, apart, plugged, posts")
            .ProducesValidationProblem();

    private static IResult Get([AsParameters] RegulatorTyped typed)
    {
        var signs = typed.Read(out var errors);
        if (errors.Count > 0)
        {
            return Results.ValidationProblem(
                errors.ToDictionary(e => e.Key.ToLowerInvariant(), e => new[] { e.Value }, StringComparer.Ordinal)
            );
        }

        var unknown = new UnknownRegulator(signs);
        return Results.Ok(
            new
            {
                Is = unknown.Is?.Name,
                Kept = signs.Kept,
                Kinds = unknown.Kinds.Select(k => new { Kind = k.Kind.Name, k.Share }),
                unknown.Next,
            }
        );
    }
}
