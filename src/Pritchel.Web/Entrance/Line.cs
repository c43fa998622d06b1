using System.Globalization;
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
                    : turns.TakeAsync(turn => AnswerAsync(context, next, turn), context.RequestAborted)
        );

    /// <summary>How long a request's own work took, without the line and what it waited for; null where it took no turn.</summary>
    public static TimeSpan? Worked(this HttpContext context) => (context.Items[typeof(Turn)] as Turn)?.Worked;

    private static Task AnswerAsync(HttpContext context, RequestDelegate next, Turn turn)
    {
        context.Items[typeof(Turn)] = turn;
        context.Response.OnStarting(() =>
        {
            // Server Timing (W3C): what an answer was worked on for, as far as its first byte.
            context.Response.Headers["Server-Timing"] = string.Create(
                CultureInfo.InvariantCulture,
                $"work;dur={turn.Worked.TotalMilliseconds:0.0}"
            );
            return Task.CompletedTask;
        });
        return next(context);
    }
}
