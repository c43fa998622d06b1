using Microsoft.AspNetCore.OpenApi;

namespace Pritchel.Web.Api;

/// <summary>The JSON API: the same operations as the screens.</summary>
public static class Endpoints
{
    /// <summary>Maps everything under /api/v1.</summary>
    public static void MapApi(this IEndpointRouteBuilder app)
    {
        var api = app.MapGroup("/api/v1").AddEndpointFilter<RefusalFilter>().DisableAntiforgery();
        MachineApi.Map(api);
        PartTestApi.Map(api);
        RewireApi.Map(api);
        RewireBuildApi.Map(api);
        LoomApi.Map(api);
        LeadApi.Map(api);
        RegulatorApi.Map(api);
        PointApi.Map(api);
        JobApi.Map(api);
    }
}

/// <summary>Heading of the OpenAPI document.</summary>
internal static class OpenApiText
{
    public static void Configure(OpenApiOptions options) =>
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info.Title = "Pritchel";
                document.Info.Version = "v1";
                document.Info.Description =
                    "Machines, simulated readings and diagnosis jobs. Units are volts, ohms and minutes. Refusals are RFC 9457 problem details whose \"errors\" name the field.";
                return Task.CompletedTask;
            }
        );
}
