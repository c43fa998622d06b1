using System.Collections;
using System.Diagnostics.CodeAnalysis;

namespace Pritchel.Core.Identity;

/// <summary>Positions of controls by name, alike when every control named is in the same position.</summary>
#pragma warning disable CA1710 // The trade says setting; that it is looked up by control is how it is used, not what it is.
public sealed class NamedSetting : IReadOnlyDictionary<ControlId, PositionId>, IEquatable<NamedSetting>
#pragma warning restore CA1710
{
    private readonly SortedDictionary<ControlId, PositionId> positions;

    /// <summary>A setting of the positions given.</summary>
    public NamedSetting(IEnumerable<KeyValuePair<ControlId, PositionId>> positions) =>
        this.positions = new SortedDictionary<ControlId, PositionId>(
            positions.ToDictionary(p => p.Key, p => p.Value),
            Comparer<ControlId>.Create((a, b) => string.CompareOrdinal(a.Text, b.Text))
        );

    /// <inheritdoc/>
    public IEnumerable<ControlId> Keys => positions.Keys;

    /// <inheritdoc/>
    public IEnumerable<PositionId> Values => positions.Values;

    /// <inheritdoc/>
    public int Count => positions.Count;

    /// <inheritdoc/>
    public PositionId this[ControlId key] => positions[key];

    /// <inheritdoc/>
    public bool ContainsKey(ControlId key) => positions.ContainsKey(key);

    /// <inheritdoc/>
    public bool TryGetValue(ControlId key, [MaybeNullWhen(false)] out PositionId value) =>
        positions.TryGetValue(key, out value);

    /// <inheritdoc/>
    public IEnumerator<KeyValuePair<ControlId, PositionId>> GetEnumerator() => positions.GetEnumerator();

    /// <inheritdoc/>
    public bool Equals(NamedSetting? other) =>
        other is not null && positions.Count == other.positions.Count && positions.SequenceEqual(other.positions);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as NamedSetting);

    /// <inheritdoc/>
    public override int GetHashCode() => positions.Aggregate(17, (hash, p) => HashCode.Combine(hash, p.Key, p.Value));

    /// <summary>As written: "key=START, brake=down".</summary>
    public override string ToString() => string.Join(", ", positions.Select(p => $"{p.Key}={p.Value}"));

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
