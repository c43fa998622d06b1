namespace Pritchel.Core.Simulation;

/// <summary>How work is spread over the processor's cores.</summary>
internal static class Cores
{
    /// <summary>
    /// As many at once as there are cores. Without a bound the loops of this library take on a thread more for each that the pool lends, and
    /// each builds working memory of its own.
    /// </summary>
    public static ParallelOptions All { get; } = new() { MaxDegreeOfParallelism = Environment.ProcessorCount };

    /// <summary>The same, until it is stopped.</summary>
    public static ParallelOptions Until(CancellationToken cancel) =>
        new() { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel };
}
