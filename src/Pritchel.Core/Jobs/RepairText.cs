namespace Pritchel.Core.Jobs;

/// <summary>What may be written down of a repair.</summary>
public static class RepairText
{
    /// <summary>Most characters of what was done, and of the parts.</summary>
    public const int Most = 400;

    /// <summary>Longest repair, in minutes.</summary>
    public const double MostMinutes = 2000;

    /// <summary>What cannot be written so; null when all can.</summary>
    /// <param name="done">What was done.</param>
    /// <param name="parts">Parts used; may be empty.</param>
    /// <param name="minutes">Minutes it took.</param>
    public static Refusal? Check(string? done, string? parts, double minutes) =>
        Plain(done).Length is 0 or > Most
            ? new Refusal("done", $"What was done: write 1 to {Most} characters, so that next year's reader knows.")
        : Plain(parts).Length > Most ? new Refusal("parts", $"Parts: {Plain(parts).Length} characters; at most {Most}.")
        : minutes is not (>= 0 and <= MostMinutes)
            ? new Refusal("minutes", $"Minutes: type minutes from 0 to {MostMinutes}.")
        : null;

    /// <summary>On one line.</summary>
    public static string Plain(string? text) => (text ?? "").ReplaceLineEndings(" ").Trim();
}
