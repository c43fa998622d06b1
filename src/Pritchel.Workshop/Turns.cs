using System.Diagnostics;

namespace Pritchel.Workshop;

/// <summary>
/// Turns at the processors: so many requests work at once as there are processors, the others wait in line. What is light takes
/// none and so answers at once, however many wait; who waits for predictions steps aside for as long.
/// </summary>
public sealed class Turns(int atOnce) : IDisposable
{
    private static readonly AsyncLocal<Turn?> Own = new();
    private readonly SemaphoreSlim free = new(atOnce);

    /// <summary>The turn of whoever asks; null where it has none.</summary>
    internal static Turn? Current => Own.Value;

    /// <summary>Does something in its turn.</summary>
    /// <param name="work">It, with its turn; all that it calls has the turn.</param>
    /// <param name="cancel">Leaves the line.</param>
    public async Task TakeAsync(Func<Turn, Task> work, CancellationToken cancel)
    {
        using var turn = new Turn(free);
        await turn.TakeAsync(cancel);
        Own.Value = turn;
        await work(turn);
    }

    /// <inheritdoc/>
    public void Dispose() => free.Dispose();
}

/// <summary>One turn.</summary>
public sealed class Turn : IDisposable
{
    private readonly SemaphoreSlim free;
    private readonly Stopwatch work = new();

    internal Turn(SemaphoreSlim free) => this.free = free;

    /// <summary>How long it was held: without the line, and without what it stepped aside for.</summary>
    public TimeSpan Worked => work.Elapsed;

    /// <summary>Waits for it.</summary>
    internal async Task TakeAsync(CancellationToken cancel)
    {
        await free.WaitAsync(cancel);
        work.Start();
    }

    /// <summary>Lets the next one have it.</summary>
    public void Dispose()
    {
        if (work.IsRunning)
        {
            work.Stop();
            free.Release();
        }
    }
}

/// <summary>Waiting without a turn.</summary>
public static class Aside
{
    /// <summary>Waits for something, one's turn left to others meanwhile; where that fails or is given up, it is not taken again.</summary>
    public static async Task AsideAsync(this Task waited, CancellationToken cancel)
    {
        var turn = waited.IsCompleted ? null : Turns.Current;
        turn?.Dispose();
        await waited.WaitAsync(cancel);
        if (turn is not null)
        {
            await turn.TakeAsync(cancel);
        }
    }

    /// <summary>The same of what gives something back.</summary>
    public static async Task<T> AsideAsync<T>(this Task<T> waited, CancellationToken cancel)
    {
        await ((Task)waited).AsideAsync(cancel);
        return await waited;
    }
}
