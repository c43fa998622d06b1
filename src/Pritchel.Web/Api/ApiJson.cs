using System.Text.Json;
using System.Text.Json.Serialization;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>How the API reads and writes JSON.</summary>
internal static class ApiJson
{
    public static void Configure(JsonSerializerOptions options)
    {
        options.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
        options.NumberHandling = JsonNumberHandling.Strict;
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.AllowDuplicateProperties = false;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = true;
        options.MaxDepth = 16;
    }
}

/// <summary>A request that cannot be carried out, with the field that is to blame.</summary>
internal sealed class RefusedException(string field, string message) : Exception(message)
{
    public string Field { get; } = field;
}

/// <summary>Reads request bodies so that what is wrong names its field.</summary>
internal static class RequestBody
{
    public static async Task<T> ReadAsync<T>(HttpRequest request)
    {
        if (!request.HasJsonContentType())
        {
            throw new RefusedException("", "The body must be JSON, sent as application/json.");
        }

        try
        {
            return await request.ReadFromJsonAsync<T>(request.HttpContext.RequestAborted)
                ?? throw new RefusedException("", "The body is null; an object is wanted.");
        }
        catch (JsonException e)
        {
            var field = (e.Path ?? "").TrimStart('$', '.');
            var unknown = e.Message.Contains("could not be mapped", StringComparison.Ordinal);
            var missing = e.Message.Contains("missing required", StringComparison.Ordinal);
            throw new RefusedException(
                field,
                unknown ? "This field is not known here; the OpenAPI document lists the fields."
                    : missing ? "Missing:" + e.Message[(e.Message.LastIndexOf(':') + 1)..]
                    : "Not readable as JSON of the documented type here."
            );
        }
    }
}

/// <summary>Turns refusals into RFC 9457 problem details that name the field.</summary>
internal sealed class RefusalFilter : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        // Answers hold what a customer said: no cache on the way keeps them.
        context.HttpContext.Response.Headers.CacheControl = "no-store";
        try
        {
            return await next(context);
        }
        catch (BadHttpRequestException e)
        {
            return Results.Problem(
                title: "The request was refused; nothing was changed.",
                detail: e.Message,
                statusCode: e.StatusCode
            );
        }
        catch (Exception e) when (e is UnreadableJobException or UnreadableMachineException or BuildFailedException)
        {
            return Results.Problem(
                title: "This cannot be shown; nothing was changed.",
                detail: e.Message,
                statusCode: e is BuildFailedException ? 503 : 409
            );
        }
        catch (Exception e) when (StorageFault.Words(e) is not null)
        {
            return Results.Problem(
                title: "The record could not be reached; nothing was changed.",
                detail: StorageFault.Words(e),
                statusCode: StatusCodes.Status503ServiceUnavailable
            );
        }
        catch (RefusedException e)
        {
            return Results.ValidationProblem(
                new Dictionary<string, string[]>(StringComparer.Ordinal) { [e.Field] = [e.Message] },
                title: "The request was refused; nothing was changed."
            );
        }
    }
}
