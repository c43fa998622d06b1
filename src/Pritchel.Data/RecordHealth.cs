namespace Pritchel.Data;

/// <summary>Whether the record's file is whole. One that is not is read, as far as it can be, and never written to.</summary>
public sealed class RecordHealth
{
    /// <summary>What is wrong with the file, as its check says it; null while nothing is known to be.</summary>
    public string? Damage { get; private set; }

    /// <summary>Says that the file is damaged.</summary>
    /// <param name="what">What its check says.</param>
    public void Tell(string what) => Damage ??= what;
}
