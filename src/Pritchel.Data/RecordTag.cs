using System.Globalization;

namespace Pritchel.Data;

/// <summary>Tags as written on paper: a letter for the kind of record, and its number in four digits or more.</summary>
public static class RecordTag
{
    /// <summary>Tag of a number: T-0147.</summary>
    public static string Of(char letter, int number) => $"{letter}-{number:0000}";

    /// <summary>Number of a tag; null when it is not one of that letter.</summary>
    public static int? NumberOf(char letter, string tag) =>
        tag.StartsWith($"{letter}-", StringComparison.OrdinalIgnoreCase)
        && int.TryParse(tag.AsSpan(2), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : null;
}
