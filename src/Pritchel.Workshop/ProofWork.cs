using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Workshop;

/// <summary>A proof that is being worked out, or is done; shared by all who look at it.</summary>
public sealed class ProofWork : IDisposable
{
    private readonly CancellationTokenSource ends = new();
    private int done;
    private int all = 1;

    internal ProofWork(Machine after, Circuit before, Circuit? donor) =>
        Result = Task.Run(() => DesignProof.Of(Circuit.Compile(after), before, donor, Note, ends.Token), ends.Token);

    /// <summary>The proof, once it is done; ends as cancelled when it was given up.</summary>
    public Task<DesignProof> Result { get; }

    /// <summary>The proof, or null while it is not done.</summary>
    public DesignProof? Done => Result.IsCompletedSuccessfully ? Result.Result : null;

    /// <summary>How many settings and faults of how many are solved.</summary>
    public (int Done, int All) Solved => (Volatile.Read(ref done), Volatile.Read(ref all));

    /// <summary>Whether it came to nothing: given up, or broken off by an error.</summary>
    public bool CameToNothing => Result.IsCanceled || Result.IsFaulted;

    /// <summary>Gives it up.</summary>
    public void GiveUp()
    {
        if (!Result.IsCompleted)
        {
            ends.Cancel();
        }
    }

    /// <inheritdoc/>
    /// <remarks>The shelf lets go of it when others push it off: what is not done by then is given up.</remarks>
    public void Dispose()
    {
        GiveUp();
        ends.Dispose();
    }

    private void Note(int solved, int of)
    {
        Volatile.Write(ref all, of);
        Volatile.Write(ref done, solved);
    }

    /// <summary>Waits for it, but no longer than so.</summary>
    public async Task WaitAsync(TimeSpan most, CancellationToken cancel) =>
        await Task.WhenAny(Result, Task.Delay(most, cancel));
}

/// <summary>What a rewire makes, and how far its proof is.</summary>
/// <param name="Made">The machine, jumpers out.</param>
/// <param name="Lacks">What it lacks.</param>
/// <param name="Work">The proof; null where something is wrong with the machine itself.</param>
/// <param name="Service">The proof with the jumpers in; null where there are none.</param>
public sealed record RewireProof(
    Marriage Made,
    IReadOnlyList<MachineProblem> Lacks,
    ProofWork? Work,
    ProofWork? Service
)
{
    /// <summary>Whether all that is to be proved is.</summary>
    public bool IsDone => Works.All(w => w.Done is not null);

    /// <summary>Whether some of it was given up or broken off, so that nothing more comes of it.</summary>
    public bool CameToNothing => Works.Any(w => w.CameToNothing);

    /// <summary>How many settings and faults of how many are solved.</summary>
    public (int Done, int All) Solved => (Works.Sum(w => w.Solved.Done), Works.Sum(w => w.Solved.All));

    private IEnumerable<ProofWork> Works => new[] { Work, Service }.OfType<ProofWork>();

    /// <summary>Gives up what is not done.</summary>
    public void GiveUp()
    {
        foreach (var work in Works.Where(w => !w.Result.IsCompleted))
        {
            work.GiveUp();
        }
    }

    /// <summary>Waits for all of it, but no longer than so.</summary>
    public async Task WaitAsync(TimeSpan most, CancellationToken cancel) =>
        await Task.WhenAll(Works.Select(w => w.WaitAsync(most, cancel))).AsideAsync(cancel);
}
