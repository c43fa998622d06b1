using Pritchel.Core.Faults;

namespace Pritchel.Core.PartTests;

/// <summary>A way in which the part may be: some of its faults at once, or none.</summary>
/// <param name="Faults">The faults; none when it is sound.</param>
/// <param name="Rate">How often, against other states; a sound part's is told apart.</param>
public sealed record PartState(IReadOnlyList<Fault> Faults, double Rate)
{
    /// <summary>Whether nothing is wrong with it.</summary>
    public bool IsSound => Faults.Count == 0;

    /// <summary>What it is called; its faults' own words when null.</summary>
    public string? Said { get; init; }

    /// <summary>In words.</summary>
    public string Words => Said ?? (IsSound ? "sound" : string.Join(" and ", Faults.Select(f => f.Words)));
}
