using System.Globalization;
using System.Text.RegularExpressions;

namespace Pritchel.Core.Units;

/// <summary>What a typed meter display says.</summary>
/// <param name="Value">In the base unit; infinite when the meter showed over-range.</param>
/// <param name="Step">Worth of the last digit typed, in the base unit; zero when over-range.</param>
public readonly record struct TypedReading(double Value, double Step = 0)
{
    /// <summary>The meter showed OL: over-range, or open on ohms.</summary>
    public bool IsOverRange => double.IsInfinity(Value);
}

/// <summary>
/// Reads a figure the way it is typed at a bench: "12.6", "12,6", "-0.02", "4k7", "350m", "350 mV", "OL".
/// </summary>
public static partial class ReadingText
{
    private const int LongestText = 24;

    /// <summary>What may be typed, for error messages and hints.</summary>
    public const string Allowed = "a number such as 12.6, 12,6, -0.02, 350m (thousandths) or 4k7, or OL for over-range";

    /// <summary>Parses a typed reading.</summary>
    /// <param name="text">What was typed; null counts as empty.</param>
    /// <param name="largest">Largest size that makes sense, in the base unit; beyond it the text is refused.</param>
    /// <param name="reading">The parsed reading when the result is true.</param>
    /// <param name="error">What was wrong and what is allowed when the result is false.</param>
    public static bool TryParse(string? text, double largest, out TypedReading reading, out string error)
    {
        reading = default;
        error = "";
        var trimmed = (text ?? "").Trim();
        if (trimmed.Length == 0)
        {
            error = $"Nothing was typed. Type {Allowed}.";
            return false;
        }

        if (trimmed.Length > LongestText)
        {
            error = $"That is too long for a reading ({trimmed.Length} characters). Type {Allowed}.";
            return false;
        }

        // A space stands before a unit, or after a sign; between two digits it may have been a point.
        var plain = Spaces().Replace(trimmed.Replace('−', '-'), "");
        if (OverRange().IsMatch(plain))
        {
            reading = new TypedReading(plain.StartsWith('-') ? double.NegativeInfinity : double.PositiveInfinity);
            return true;
        }

        var match = Number().Match(plain);
        if (!match.Success)
        {
            error = $"“{trimmed}” is not a reading. Type {Allowed}.";
            return false;
        }

        var value = Value(match);
        if (Math.Abs(value) > largest)
        {
            error = string.Create(
                CultureInfo.InvariantCulture,
                $"“{trimmed}” is more than this meter can show here (at most {largest:0.###}). Type {Allowed}."
            );
            return false;
        }

        reading = new TypedReading(value, StepOf(match));
        return true;
    }

    private static double Value(Match match)
    {
        var infix = match.Groups["infix"];
        var whole = match.Groups["whole"].Value;
        var fraction = match.Groups["fraction"].Value;
        var scale = Scale(infix.Success ? infix.Value : match.Groups["prefix"].Value);
        var digits = (whole.Length == 0 ? "0" : whole) + "." + (fraction.Length == 0 ? "0" : fraction);
        var size = double.Parse(digits, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);
        return (match.Groups["sign"].Value == "-" ? -size : size) * scale;
    }

    /// <summary>Worth of the last digit: "12.4" is told to a tenth, "4k7" to a hundred. A bare zero is told to a tenth at best.</summary>
    private static double StepOf(Match match)
    {
        const double BareZero = 0.1;
        var infix = match.Groups["infix"];
        var fraction = match.Groups["fraction"].Value;
        var scale = Scale(infix.Success ? infix.Value : match.Groups["prefix"].Value);
        return fraction.Length == 0 && Value(match) == 0 ? BareZero * scale : Math.Pow(10, -fraction.Length) * scale;
    }

    private static double Scale(string prefix) =>
        prefix switch
        {
            "m" => 1e-3,
            "k" or "K" => 1e3,
            "M" => 1e6,
            _ => 1,
        };

    [GeneratedRegex(
        @"(?<![0-9]) +|(?<=[0-9]) +(?![0-9., ])",
        RegexOptions.None,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Spaces();

    [GeneratedRegex(
        @"^(?<sign>[+-]?)(?:(?<whole>[0-9]{1,9})(?<infix>[kKMm])(?<fraction>[0-9]{1,6})|(?<whole>[0-9]{0,9})(?:[.,](?<fraction>[0-9]{1,9}))?(?<=[0-9])[.,]?(?<prefix>[kKMm]?)(?:V|v|Ω|ohm|A)?)$",
        RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Number();

    [GeneratedRegex(
        @"^[+-]?(?:OL|0L|O\.L|1\.|∞)$",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex OverRange();
}
