using System.Globalization;
using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Points;

/// <summary>What a reading should come to: within a range that may be open at either end.</summary>
/// <param name="Least">Least allowed, in the reading's unit; negative infinity where nothing is.</param>
/// <param name="Most">Most allowed; infinite where nothing is. Both infinite: it must read OL.</param>
public readonly record struct Wanted(double Least, double Most)
{
    /// <summary>Nothing may join the two points.</summary>
    public static Wanted Open => new(double.PositiveInfinity, double.PositiveInfinity);

    /// <summary>How it may be typed.</summary>
    public const string Allowed = "“12.6 ± 0.1”, “0.42 ± 10 %”, “9.6 to 12”, “at least 9.6”, “at most 0.2”, or “OL”";

    /// <summary>Reads a target as typed.</summary>
    /// <param name="typed">As typed.</param>
    /// <param name="observable">What is read: its figures may carry k, m and the like.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static Wanted? Parse(string? typed, Observable observable, out string error)
    {
        var text = (typed ?? "").Trim();
        error = "";
        Wanted? wanted =
            text.Equals("OL", StringComparison.OrdinalIgnoreCase) ? (observable.WantsDeadCircuit ? Open : null)
            : After(text, "at least", ">=", "≥", ">") is { } least
                ? Figure(least, observable) is { } l ? new Wanted(l, double.PositiveInfinity)
                    : null
            : After(text, "at most", "<=", "≤", "<") is { } most
                ? Figure(most, observable) is { } m ? new Wanted(double.NegativeInfinity, m)
                    : null
            : Parted(text, "±", "+/-", "+-") is var (target, off) ? About(target, off, observable)
            : Parted(text, " to ", "–", "…") is var (from, to)
                ? Figure(from, observable) is { } a && Figure(to, observable) is { } b && a <= b ? new Wanted(a, b)
                    : null
            : null;
        if (wanted is null)
        {
            error = $"Should read: “{Excerpt.Of(text)}” is no target; type {Allowed}.";
        }

        return wanted;
    }

    /// <summary>It, in words.</summary>
    public string Words(string unit) =>
        Least == double.PositiveInfinity ? "OL"
        : double.IsInfinity(Most) ? $"at least {Said(Least)} {unit}"
        : double.IsInfinity(Least) ? $"at most {Said(Most)} {unit}"
        : $"{Said(Least)} to {Said(Most)} {unit}";

    private static string Said(double figure) => figure.ToString("0.######", CultureInfo.InvariantCulture);

    private static Wanted? About(string target, string off, Observable observable)
    {
        if (Figure(target, observable) is not { } middle)
        {
            return null;
        }

        var share = off.EndsWith('%') ? Figure(off[..^1].TrimEnd(), observable) / 100 * Math.Abs(middle) : null;
        return (share ?? Figure(off, observable)) is { } by and >= 0 ? new Wanted(middle - by, middle + by) : null;
    }

    private static double? Figure(string text, Observable observable) =>
        observable.Read(text.Trim(), out _) is { Value: var value } && double.IsFinite(value) ? value : null;

    private static string? After(string text, params string[] begins) =>
        begins.FirstOrDefault(b => text.StartsWith(b, StringComparison.OrdinalIgnoreCase)) is { } begin
            ? text[begin.Length..]
            : null;

    private static (string, string)? Parted(string text, params string[] by) =>
        by.Select(b => text.Split(b, 2, StringSplitOptions.TrimEntries)).FirstOrDefault(p => p.Length == 2)
            is [var one, var other]
            ? (one, other)
            : null;
}
