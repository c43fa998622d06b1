namespace Pritchel.Web.Desk;

/// <summary>
/// A few things that are slow to make: each made once however many ask, the longest unused let go first. What is made beside,
/// for nobody who waits, gives way to what somebody waits for.
/// </summary>
/// <typeparam name="T">What is kept.</typeparam>
/// <param name="most">How many are kept.</param>
internal sealed class Kept<T>(int most)
    where T : class
{
    private readonly Lock door = new();
    private readonly Dictionary<string, Entry> kept = new(StringComparer.Ordinal);
    private long asked;

    /// <summary>The thing of a key, made now if it is not there; waits while another is making it.</summary>
    public T Get(string key, Func<CancellationToken, T> make)
    {
        while (true)
        {
            var entry = Find(key, make, beside: false);
            try
            {
                return entry.Made.Value;
            }
            catch (OperationCanceledException)
            {
                // Given up for something more urgent just before it was asked for in earnest.
                Forget(key, entry);
            }
        }
    }

    /// <summary>The thing of a key when it is there, or null; it is then begun beside.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="make">Makes it.</param>
    /// <param name="wanted">Whether somebody will want it soon, so that what nobody waits for gives way.</param>
    public T? IfReady(string key, Func<CancellationToken, T> make, bool wanted = false)
    {
        var entry = Find(key, make, beside: !wanted);
        if (entry.Made.IsValueCreated)
        {
            return entry.Made.Value;
        }

        _ = Task.Run(() =>
        {
            try
            {
                _ = entry.Made.Value;
            }
            catch (OperationCanceledException)
            {
                Forget(key, entry);
            }
        });
        return null;
    }

    /// <summary>
    /// Begins the thing of a key beside, in place of whatever else is being made beside: somebody has changed his mind.
    /// </summary>
    public void Begin(string key, Func<CancellationToken, T> make)
    {
        lock (door)
        {
            GiveWay(key);
        }

        IfReady(key, make);
    }

    /// <summary>The thing of a key when it is there, or null; nothing is begun.</summary>
    public T? InHand(string key)
    {
        lock (door)
        {
            return kept.TryGetValue(key, out var entry) && entry.Made.IsValueCreated ? entry.Made.Value : null;
        }
    }

    private Entry Find(string key, Func<CancellationToken, T> make, bool beside)
    {
        lock (door)
        {
            if (
                !kept.TryGetValue(key, out var entry)
                || entry is { GiveUp.IsCancellationRequested: true, Made.IsValueCreated: false }
            )
            {
                entry = new Entry(make);
                kept[key] = entry;
            }

            entry.Used = ++asked;
            entry.Beside &= beside;
            if (!beside && !entry.Made.IsValueCreated)
            {
                GiveWay(key);
            }

            if (kept.Count > most)
            {
                kept.Remove(kept.MinBy(k => k.Value.Used).Key);
            }

            return entry;
        }
    }

    /// <summary>Gives up what is being made beside, but for one key. Held by the door.</summary>
    private void GiveWay(string key)
    {
        foreach (var (_, other) in kept.Where(k => k.Key != key && k.Value.Beside && !k.Value.Made.IsValueCreated))
        {
            other.GiveUp.Cancel();
        }
    }

    private void Forget(string key, Entry entry)
    {
        lock (door)
        {
            if (kept.TryGetValue(key, out var now) && ReferenceEquals(now, entry))
            {
                kept.Remove(key);
            }
        }
    }

    private sealed class Entry
    {
        public Entry(Func<CancellationToken, T> make)
        {
            Made = new Lazy<T>(() => make(GiveUp.Token));
        }

        public CancellationTokenSource GiveUp { get; } = new();

        public Lazy<T> Made { get; }

        public long Used { get; set; }

        public bool Beside { get; set; } = true;
    }
}
