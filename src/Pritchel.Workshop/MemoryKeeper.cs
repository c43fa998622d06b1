using System.Diagnostics;
using Microsoft.Extensions.Hosting;

namespace Pritchel.Workshop;

/// <summary>
/// Gives memory back that nothing holds any more. Where there is plenty of it the collector sees no reason to, and predictions that come
/// and go by the ten megabytes let it grow to twice and three times what is in use.
/// </summary>
public sealed class MemoryKeeper : BackgroundService
{
    // What one person's program may take of a laptop that has other work: from memory.
    private const long Most = 320L << 20;

    // What may come on top of what is in use before it is looked through again.
    private const long Room = 48L << 20;

    private static readonly TimeSpan Looks = TimeSpan.FromSeconds(1);

    // Looking through it all holds everybody up for a tenth of a second or three: never more than a thirtieth of anybody's time.
    private const int RestsPerWork = 30;
    private static readonly TimeSpan LeastRest = TimeSpan.FromSeconds(3);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var looking = new PeriodicTimer(Looks);
        var (most, ended, rest) = (Most, Stopwatch.GetTimestamp(), LeastRest);
        while (await looking.WaitForNextTickAsync(stoppingToken))
        {
            if (Environment.WorkingSet > most && Stopwatch.GetElapsedTime(ended) >= rest)
            {
                var began = Stopwatch.GetTimestamp();
                // It is asked for what it would not do by itself, and seldom.
                GC.Collect(GC.MaxGeneration, GCCollectionMode.Aggressive, blocking: true, compacting: true);
                ended = Stopwatch.GetTimestamp();
                var took = RestsPerWork * Stopwatch.GetElapsedTime(began, ended);
                rest = took > LeastRest ? took : LeastRest;
                most = Math.Max(Most, Environment.WorkingSet + Room);
            }
        }
    }
}
