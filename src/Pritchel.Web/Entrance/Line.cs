using Pritchel.Workshop;

namespace Pritchel.Web.Entrance;

/// <summary>Lets requests work in turn, but for those that are light.</summary>
internal static class Line
{
    /// <summary>The bench, signing in and what watches the application wait for nobody.</summary>
    private static readonly string[] Light = ["/", SigningIn.Page, "/health", "/error"];

    public static void UseLine(this IApplicationBuilder app, Turns turns) =>
        app.Use(
            (context, next) =>
                HttpMethods.IsGet(context.Request.Method) && Light.Contains(context.Request.Path.Value)
                    ? next(context)
                    : turns.TakeAsync(() => next(context), context.RequestAborted)
        );
}
