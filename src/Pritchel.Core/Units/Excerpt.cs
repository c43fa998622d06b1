namespace Pritchel.Core.Units;

/// <summary>What an error shows of what was typed: enough to know it again, never a page of it.</summary>
public static class Excerpt
{
    /// <summary>Most characters shown before "…".</summary>
    public const int Most = 60;

    /// <summary>The text, cut short where it is long; empty where there is none.</summary>
    public static string Of(string? text) => text is { Length: > Most } ? text[..Most] + "…" : text ?? "";
}
