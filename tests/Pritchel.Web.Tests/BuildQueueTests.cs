using Microsoft.Extensions.Logging.Abstractions;
using Pritchel.Workshop;

namespace Pritchel.Web.Tests;

/// <summary>The queue behind which slow things are worked out.</summary>
public sealed class BuildQueueTests : IAsyncLifetime
{
    private readonly BuildQueue queue = new(NullLogger<BuildQueue>.Instance);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => await queue.StartAsync(Cancel);

    public async ValueTask DisposeAsync()
    {
        await queue.StopAsync(CancellationToken.None);
        queue.Dispose();
    }

    [Fact]
    public async Task However_many_ask_at_once_it_is_made_once()
    {
        var made = 0;
        using var all = new ManualResetEventSlim();
        var asked = Enumerable
            .Range(0, 32)
            .Select(_ =>
                Task.Run(
                    () =>
                        queue.Ask(
                            "kit",
                            Urgency.Now,
                            (_, cancel) =>
                            {
                                all.Wait(cancel);
                                return Interlocked
                                    .Increment(ref made)
                                    .ToString(System.Globalization.CultureInfo.InvariantCulture);
                            }
                        ),
                    Cancel
                )
            )
            .ToList();
        while (queue.Length == 0)
        {
            await Task.Delay(5, Cancel);
        }

        await Task.Delay(50, Cancel);
        all.Set();
        Assert.All(await Task.WhenAll(asked), answer => Assert.Equal("1", answer));
    }

    [Fact]
    public async Task One_that_fails_is_tried_twice_told_and_not_kept()
    {
        var tries = 0;
        string Make(int threads, CancellationToken cancel)
        {
            tries++;
            return tries < 4 ? throw new InvalidOperationException("singular") : "made";
        }

        await Assert.ThrowsAsync<BuildFailedException>(() => queue.Ask("kit", Urgency.Now, Make));
        Assert.Equal(2, tries);
        Assert.False(queue.Has("kit"));
        Assert.Equal("made", await queue.Ask("kit", Urgency.Now, Make));
    }

    [Fact]
    public async Task What_is_made_ahead_gives_way_and_is_made_later_all_the_same()
    {
        var order = new List<string>();
        var begun = new TaskCompletionSource();
        string Slow(int threads, CancellationToken cancel)
        {
            order.Add("begun ahead");
            begun.TrySetResult();
            if (order.Count == 1)
            {
                cancel.WaitHandle.WaitOne(TimeSpan.FromSeconds(30));
                cancel.ThrowIfCancellationRequested();
            }

            return "ahead";
        }

        var ahead = queue.Ask("ahead", Urgency.Ahead, Slow);
        await begun.Task.WaitAsync(Cancel);
        var now = queue.Ask(
            "now",
            Urgency.Now,
            (_, _) =>
            {
                order.Add("now");
                return "now";
            }
        );
        Assert.Equal("now", await now);
        Assert.Equal("ahead", await ahead);
        Assert.Equal(["begun ahead", "now", "begun ahead"], order);
    }

    [Fact]
    public async Task What_nobody_wants_any_more_is_given_up()
    {
        var begun = new TaskCompletionSource();
        var old = queue.Ask<string>(
            "old",
            Urgency.Soon,
            (_, cancel) =>
            {
                begun.TrySetResult();
                cancel.WaitHandle.WaitOne(TimeSpan.FromSeconds(30));
                cancel.ThrowIfCancellationRequested();
                return "old";
            }
        );
        await begun.Task.WaitAsync(Cancel);
        queue.GiveUp(key => key == "new");
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => old);
        Assert.Equal("new", await queue.Ask("new", Urgency.Now, (_, _) => "new"));
    }

    [Fact]
    public async Task Of_what_is_wanted_alike_the_first_asked_for_is_made_first_however_often_it_is_asked_for_again()
    {
        var order = new List<string>();
        using var go = new ManualResetEventSlim();
        var first = queue.Ask(
            "gate",
            Urgency.Soon,
            (_, cancel) =>
            {
                go.Wait(cancel);
                return "gate";
            }
        );
        string Made(string name)
        {
            order.Add(name);
            return name;
        }

        var all = new[] { "coarse", "whole", "coarse" }
            .Select(name => queue.Ask(name, Urgency.Soon, (_, _) => Made(name)))
            .Append(first)
            .ToList();
        go.Set();
        await Task.WhenAll(all);
        Assert.Equal(["coarse", "whole"], order);
    }
}
