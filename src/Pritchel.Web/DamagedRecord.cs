using Pritchel.Data;

namespace Pritchel.Web;

/// <summary>A record whose file is damaged is shown as far as it can be read; what would change it is refused in words.</summary>
internal static class DamagedRecord
{
    /// <summary>Where the words of a refusal are left for the page that says them.</summary>
    public const string Refusal = "damaged record";

    // One must be able to sign in to read, and to be told why not.
    private static readonly string[] Passes = [Entrance.SigningIn.Page, "/error"];

    public static void UseDamagedRecord(this WebApplication app) =>
        app.Use(
            (context, next) =>
            {
                var services = context.RequestServices;
                if (
                    services.GetRequiredService<RecordHealth>().Damage is null
                    || !Entrance.Changes.Are(context.Request.Method)
                    || Passes.Any(p => context.Request.Path.StartsWithSegments(p, StringComparison.Ordinal))
                )
                {
                    return next(context);
                }

                var words = Words(services.GetRequiredService<Backups>());
                if (context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal))
                {
                    return Results
                        .Problem(words, statusCode: StatusCodes.Status503ServiceUnavailable)
                        .ExecuteAsync(context);
                }

                context.Items[Refusal] = words;
                context.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
                return Task.CompletedTask;
            }
        );

    /// <summary>What is the matter, and what brings the record back.</summary>
    public static string Words(Backups backups) =>
        "The record’s file is damaged. What can be read is shown; nothing is written to it, and nothing just sent was kept. "
        + (
            backups.List() is [var newest, ..]
                ? $"The newest backup is of {newest.TakenUtc:yyyy-MM-dd HH:mm} UTC: end the program and start it once with ./start --restore {newest.File}. "
                : "There is no backup of it here. "
        )
        + "Before that, “Everything in one file” on the page “Record and backups” saves what can still be read.";
}
