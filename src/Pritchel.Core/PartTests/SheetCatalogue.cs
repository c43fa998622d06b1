using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests;

/// <summary>Every sheet, found by itself: a new one is one new file.</summary>
public static class SheetCatalogue
{
    private static readonly Lazy<IReadOnlyList<PartSheet>> Found = new(() =>
        [.. Extensions.Of<PartSheet>().OrderBy(s => s.Rank).ThenBy(s => s.Name, StringComparer.Ordinal)]
    );

    /// <summary>All of them, those for one kind before those for any.</summary>
    public static IReadOnlyList<PartSheet> All => Found.Value;

    /// <summary>The sheet of a key, or null.</summary>
    public static PartSheet? Named(string key) => All.FirstOrDefault(s => s.Key == key);

    /// <summary>
    /// Sheets worth offering for a kind of part, the best first: the one for any part only where no better one reads it dead, and
    /// what judges it at work besides.
    /// </summary>
    public static IEnumerable<PartSheet> Offered(DeviceKind kind)
    {
        var all = For(kind).ToList();
        return all.Where(s => s.Rank == 0 || s.IsAtWork || !all.Exists(b => b.Rank < s.Rank && !b.IsAtWork));
    }

    /// <summary>Sheets for a kind of part, the best first.</summary>
    public static IEnumerable<PartSheet> For(DeviceKind kind) => All.Where(s => s.Fits(kind));
}
