namespace Pritchel.Core.Units;

/// <summary>What holds for every pattern that text is matched with.</summary>
public static class Patterns
{
    /// <summary>
    /// How long one may take, in milliseconds. It is told by the clock, which runs on while the collector or another program holds the
    /// thread up: on a laden machine two hundred were not enough for a dozen letters. What is hostile is kept short before it is matched.
    /// </summary>
    public const int MostMilliseconds = 10_000;
}
