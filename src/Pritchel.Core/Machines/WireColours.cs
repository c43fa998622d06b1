namespace Pritchel.Core.Machines;

/// <summary>Wire colours a machine file may name.</summary>
public static class WireColours
{
    /// <summary>Names, in reading order.</summary>
    public static IReadOnlyList<string> Names { get; } =
    [
        "black",
        "brown",
        "red",
        "orange",
        "yellow",
        "green",
        "olive",
        "blue",
        "light blue",
        "violet",
        "grey",
        "dark grey",
        "white",
        "pink",
        "tan",
        "slate",
    ];
}
