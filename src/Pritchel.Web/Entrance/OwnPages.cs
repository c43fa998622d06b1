namespace Pritchel.Web.Entrance;

/// <summary>
/// Answers only to the application's own names, and takes changes only from its own pages: a page elsewhere that gives a name
/// of its own this address, or posts here, gets nothing.
/// </summary>
internal static class OwnPages
{
    public static void UseOwnPages(this WebApplication app, Addresses addresses) =>
        app.Use(
            (context, next) =>
                Refusal(context.Request, addresses) is var (status, why)
                    ? Results.Problem(why, statusCode: status).ExecuteAsync(context)
                    : next(context)
        );

    private static (int Status, string Why)? Refusal(HttpRequest request, Addresses addresses)
    {
        if (!addresses.Knows(request.Host.Host))
        {
            return (
                StatusCodes.Status421MisdirectedRequest,
                "This is not a name that the application answers to; start it with --name NAME where it is one."
            );
        }

        if (!Changes.Are(request.Method))
        {
            return null;
        }

        var foreign =
            request.Headers["Sec-Fetch-Site"] == "cross-site"
            || (
                request.Headers.Origin.ToString() is { Length: > 0 } origin
                && !(Uri.TryCreate(origin, UriKind.Absolute, out var from) && Same(from, request.Host))
            );
        return foreign
            ? (StatusCodes.Status403Forbidden, "Changes are taken from the application's own pages only.")
            : null;
    }

    private static bool Same(Uri from, HostString host) =>
        string.Equals(from.IdnHost.Trim('[', ']'), host.Host.Trim('[', ']'), StringComparison.OrdinalIgnoreCase)
        && (host.Port is not { } port || from.Port == port);
}
