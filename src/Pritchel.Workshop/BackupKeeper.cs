using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>Takes a backup once a day while the program runs; a failure is logged and tried again an hour later.</summary>
public sealed class BackupKeeper(Backups backups, TimeProvider clock, ILogger<BackupKeeper> log) : BackgroundService
{
    private static readonly TimeSpan First = TimeSpan.FromMinutes(2);
    private static readonly TimeSpan Between = TimeSpan.FromHours(1);
    private static readonly TimeSpan Oldest = TimeSpan.FromDays(1);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        for (var wait = First; !stoppingToken.IsCancellationRequested; wait = Between)
        {
            try
            {
                await Task.Delay(wait, clock, stoppingToken);
                if (backups.List() is not [var newest, ..] || clock.GetUtcNow().UtcDateTime - newest.TakenUtc >= Oldest)
                {
                    await backups.MakeAsync(stoppingToken);
                }
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
                when (e
                        is IOException
                            or UnauthorizedAccessException
                            or RecordRefusedException
                            or Microsoft.Data.Sqlite.SqliteException
                )
            {
                log.LogError(e, "No backup could be taken into {Folder}.", backups.Folder);
            }
        }
    }
}
