using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace Pritchel.Workshop;

/// <summary>How soon something slow is wanted.</summary>
public enum Urgency
{
    /// <summary>Nobody has asked; it may be asked for one day.</summary>
    Ahead,

    /// <summary>Somebody is about to ask.</summary>
    Soon,

    /// <summary>Somebody waits.</summary>
    Now,
}

/// <summary>
/// Works slow things out one after the other, the most urgent first, on a thread of its own. Each is made once however many
/// ask. What is under way gives way to what is more urgent, and is begun again later. One that fails is logged, tried once
/// more and then told to whoever waits; nothing of it is kept.
/// </summary>
/// <param name="log">Where failures are told.</param>
public sealed class BuildQueue(ILogger<BuildQueue> log) : BackgroundService
{
    private const int MostTries = 2;
    private readonly Lock door = new();
    private readonly List<Item> waiting = [];
    private readonly SemaphoreSlim some = new(0);
    private Item? current;
    private long asked;

    /// <summary>How many are waiting or under way.</summary>
    public int Length
    {
        get
        {
            lock (door)
            {
                return waiting.Count + (current is null ? 0 : 1);
            }
        }
    }

    /// <summary>Asks for something.</summary>
    /// <typeparam name="T">What it is.</typeparam>
    /// <param name="key">What it is known by.</param>
    /// <param name="urgency">How soon.</param>
    /// <param name="make">Makes it, on so many threads, or gives up when told.</param>
    /// <returns>It, when made. Cancelled when it was <see cref="GiveUp">given up</see> for another.</returns>
    public Task<T> Ask<T>(string key, Urgency urgency, Func<int, CancellationToken, T> make)
        where T : class
    {
        Item item;
        lock (door)
        {
            item = Find(key) ?? Add(key, urgency, make);
            item.Urgency = (Urgency)Math.Max((int)item.Urgency, (int)urgency);
            if (current is { } now && now != item && now.Urgency < item.Urgency)
            {
                now.Stop.Cancel();
            }
        }

        return As<T>(item);
    }

    /// <summary>Whether something is asked for and not made yet.</summary>
    public bool Has(string key)
    {
        lock (door)
        {
            return Find(key) is not null;
        }
    }

    /// <summary>Gives up what was wanted soon and nobody waits for: somebody has changed his mind.</summary>
    /// <param name="wanted">Whether a key is still wanted.</param>
    public void GiveUp(Predicate<string> wanted)
    {
        lock (door)
        {
            foreach (var item in waiting.Where(i => i.Urgency == Urgency.Soon && !wanted(i.Key)).ToList())
            {
                waiting.Remove(item);
                item.Made.TrySetCanceled();
            }

            if (current is { Urgency: Urgency.Soon } now && !wanted(now.Key))
            {
                now.Dropped = true;
                now.Stop.Cancel();
            }
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            await some.WaitAsync(stoppingToken);
            if (Take() is { } item)
            {
                await Task.Factory.StartNew(
                    () => Make(item, stoppingToken),
                    stoppingToken,
                    TaskCreationOptions.LongRunning,
                    TaskScheduler.Default
                );
            }
        }
    }

    /// <inheritdoc/>
    public override void Dispose()
    {
        some.Dispose();
        base.Dispose();
    }

    private static async Task<T> As<T>(Item item)
        where T : class => (T)await item.Made.Task;

    private Item? Find(string key) =>
        current is { Dropped: false } now && now.Key == key ? now : waiting.Find(i => i.Key == key);

    private Item Add<T>(string key, Urgency urgency, Func<int, CancellationToken, T> make)
        where T : class
    {
        var item = new Item(key, (threads, cancel) => make(threads, cancel)) { Urgency = urgency, Asked = ++asked };
        waiting.Add(item);
        some.Release();
        return item;
    }

    private Item? Take()
    {
        lock (door)
        {
            // Among alike, what was asked for first: a coarse guess before the whole that is begun with it.
            current = waiting.OrderByDescending(i => i.Urgency).ThenBy(i => i.Asked).FirstOrDefault();
            if (current is { } item)
            {
                waiting.Remove(item);
                item.Stop = new CancellationTokenSource();
            }

            return current;
        }
    }

    private void Make(Item item, CancellationToken stopping)
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(item.Stop.Token, stopping);
        try
        {
            // One core is left to the pages while nobody waits for this.
            var threads =
                item.Urgency == Urgency.Ahead
                    ? Math.Max(1, Environment.ProcessorCount - 1)
                    : Environment.ProcessorCount;
            var made = item.Making(threads, stop.Token);
            Leave();
            item.Made.TrySetResult(made);
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            Leave(again: !item.Dropped && !stopping.IsCancellationRequested ? item : null);
            if (item.Dropped || stopping.IsCancellationRequested)
            {
                item.Made.TrySetCanceled(CancellationToken.None);
            }
        }
#pragma warning disable CA1031 // Whatever went wrong is told to whoever waits.
        catch (Exception e)
#pragma warning restore CA1031
        {
            log.LogError(e, "Working out {Key} failed, try {Try} of {Tries}.", item.Key, ++item.Tries, MostTries);
            Leave(again: item.Tries < MostTries ? item : null);
            if (item.Tries >= MostTries)
            {
                item.Made.TrySetException(new BuildFailedException(e));
            }
        }
    }

    private void Leave(Item? again = null)
    {
        lock (door)
        {
            current = null;
            if (again is not null)
            {
                waiting.Add(again);
                some.Release();
            }
        }
    }

    private sealed class Item(string key, Func<int, CancellationToken, object> making)
    {
        public string Key { get; } = key;

        public Func<int, CancellationToken, object> Making { get; } = making;

        public TaskCompletionSource<object> Made { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);

        public CancellationTokenSource Stop { get; set; } = new();

        public Urgency Urgency { get; set; }

        public long Asked { get; init; }

        public int Tries { get; set; }

        public bool Dropped { get; set; }
    }
}

/// <summary>Something could not be worked out, and was tried twice.</summary>
public sealed class BuildFailedException : Exception
{
    private const string Said =
        "What this machine would show could not be worked out, though it was tried twice. Nothing of the job is lost; ask again, and tell whoever keeps the program what its log says.";

    /// <summary>Something.</summary>
    public BuildFailedException()
        : base(Said) { }

    /// <summary>Something, and why.</summary>
    public BuildFailedException(Exception inner)
        : base(Said, inner) { }

    /// <summary>Something, in other words.</summary>
    public BuildFailedException(string message)
        : base(message) { }

    /// <summary>Something, in other words, and why.</summary>
    public BuildFailedException(string message, Exception inner)
        : base(message, inner) { }
}
