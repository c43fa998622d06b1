using System.Diagnostics;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Compact;

namespace Pritchel.Web;

/// <summary>
/// A structured log beside the record, one JSON object a line: a file a day, two weeks of them. It names tags, machines and
/// addresses of pages, and nothing that a customer said.
/// </summary>
internal static class LogFile
{
    private const int DaysKept = 14;
    private const long LargestBytes = 10 * 1024 * 1024;
    private static readonly TimeSpan Slow = TimeSpan.FromSeconds(1);

    private static readonly int[] Doors =
    [
        StatusCodes.Status403Forbidden,
        StatusCodes.Status421MisdirectedRequest,
        StatusCodes.Status429TooManyRequests,
    ];

    /// <summary>Keeps the log beside the record, and says on the console what it did before.</summary>
    public static void AddLogFile(this IServiceCollection services) =>
        services.AddSingleton<ILoggerProvider>(provider =>
        {
            // The first to write there: nobody but its owner may read the record's folder from then on.
            var record = provider.GetRequiredService<WorkshopOptions>().DataFolder;
            var folder = Path.Combine(record, "logs");
            RecordFile.OwnersOnly(record);
            RecordFile.OwnersOnly(folder);
            var file = new LoggerConfiguration()
                .MinimumLevel.Information()
                .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
                .Enrich.FromLogContext()
                .WriteTo.File(
                    new CompactJsonFormatter(),
                    Path.Combine(folder, "pritchel-.log"),
                    rollingInterval: RollingInterval.Day,
                    fileSizeLimitBytes: LargestBytes,
                    rollOnFileSizeLimit: true,
                    retainedFileCountLimit: DaysKept
                )
                .CreateLogger();
            return new Serilog.Extensions.Logging.SerilogLoggerProvider(file, dispose: true);
        });

    /// <summary>Tells of requests that took long or found a door shut, by the address of their page alone.</summary>
    public static void UseRequestLog(this IApplicationBuilder app, ILogger<Program> log) =>
        app.Use(
            async (context, next) =>
            {
                var began = Stopwatch.GetTimestamp();
                await next(context);
                if (Doors.Contains(context.Response.StatusCode))
                {
                    log.LogWarning(
                        "Refused: {Method} {Path} answered {Status} to {Who}",
                        context.Request.Method,
                        context.Request.Path.Value,
                        context.Response.StatusCode,
                        context.Connection.RemoteIpAddress
                    );
                }

                if (Stopwatch.GetElapsedTime(began) is var took && took > Slow)
                {
                    log.LogInformation(
                        "Slow: {Method} {Path} answered {Status} after {Milliseconds} ms, {Worked} ms of them its own work",
                        context.Request.Method,
                        context.Request.Path.Value,
                        context.Response.StatusCode,
                        (long)took.TotalMilliseconds,
                        (long)(context.Worked() ?? took).TotalMilliseconds
                    );
                }
            }
        );

    /// <summary>Tells how it was started, once it answers.</summary>
    public static void TellStart(this WebApplication app, StartOptions options) =>
        app.Lifetime.ApplicationStarted.Register(() =>
            app.Logger.LogInformation(
                "Started {Version} on {Runtime}: record {Record}, backups {Backups}, listening at {Addresses}, {Asked}",
                typeof(LogFile).Assembly.GetName().Version,
                Environment.Version,
                options.Workshop.DataFolder,
                options.Workshop.BackupFolder,
                string.Join(' ', app.Urls),
                options.Passphrase is null ? "no passphrase" : "passphrase asked"
            )
        );
}
