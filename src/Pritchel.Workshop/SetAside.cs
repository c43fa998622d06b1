using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Pritchel.Workshop;

/// <summary>
/// Jobs that cannot be read here, looked for once after each start: no page waits until a whole record has been read. A job
/// that is shown is looked at anyway.
/// </summary>
/// <param name="services">Where the record is asked for.</param>
/// <param name="log">What is told of it.</param>
public sealed class SetAside(IServiceScopeFactory services, ILogger<SetAside> log)
{
    private IReadOnlyList<(string Tag, string Why)> found = [];

    /// <summary>Jobs found so far, with why they cannot be read.</summary>
    public IReadOnlyList<(string Tag, string Why)> Jobs => found;

    /// <summary>Looks through the record.</summary>
    public async Task LookAsync(CancellationToken cancel)
    {
        const int AtOnce = 200;
        try
        {
            var all = new List<(string, string)>();
            foreach (var closed in new[] { false, true })
            {
                for (var skip = 0; ; skip += AtOnce)
                {
                    await using var scope = services.CreateAsyncScope();
                    var desk = scope.ServiceProvider.GetRequiredService<JobDesk>();
                    var some = await desk.ListAsync(closed, skip, AtOnce, cancel);
                    all.AddRange(some.Where(j => j.Unreadable is not null).Select(j => (j.Job.Tag, j.Unreadable!)));
                    if (some.Count < AtOnce)
                    {
                        break;
                    }
                }
            }

            found = all;
        }
        catch (OperationCanceledException)
        {
            // Stopped: the next start looks again.
        }
#pragma warning disable CA1031 // What cannot be looked through now is looked at when it is opened.
        catch (Exception e)
#pragma warning restore CA1031
        {
            log.LogWarning(e, "The record could not be looked through for jobs that cannot be read.");
        }
    }
}
