using System.Globalization;

namespace Pritchel.Web.Desk;

/// <summary>A number as people type it: a point or a comma, spaces about it.</summary>
public static class TypedNumber
{
    /// <summary>The number; null where it is none.</summary>
    /// <param name="typed">As typed.</param>
    /// <param name="signed">Whether it may be below zero.</param>
    public static double? Read(string? typed, bool signed = false) =>
        double.TryParse(
            (typed ?? "").Trim().Replace(',', '.').Replace('−', '-'),
            NumberStyles.AllowDecimalPoint | (signed ? NumberStyles.AllowLeadingSign : NumberStyles.None),
            CultureInfo.InvariantCulture,
            out var figure
        )
            ? figure
            : null;
}
