using System.Text.RegularExpressions;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests;

/// <summary>
/// A reading that came now so, now otherwise: a contact cycled, a lead moved, a part warmed. The worst of them counts, and what
/// comes and goes is itself telling.
/// </summary>
/// <param name="Right">How often it was as it should be; 0 of 0 where it was only seen to jump.</param>
/// <param name="Tried">How often it was tried.</param>
public sealed partial record Wavering(int Right, int Tried)
{
    /// <summary>Most tries that are counted.</summary>
    public const int MostTried = 50;

    /// <summary>Seen to jump, uncounted.</summary>
    public static readonly Wavering Jumps = new(0, 0);

    // A joint or contact that fails now and then shows it under the hand about so often; a fault of any other kind hardly does,
    // and a sound part only by a probe that slips: once and again. From memory.
    private const double OfOneThatWould = 0.4;
    private const double OfAnyOther = 0.04;
    private const double Slip = 0.03;
    private const int MostSlips = 2;

    /// <summary>As typed, "jumps" or "2 of 5"; null where it is meant as neither.</summary>
    /// <param name="typed">What was typed.</param>
    /// <param name="error">What is wrong with it; null for nothing.</param>
    public static Wavering? Read(string? typed, out string? error)
    {
        error = null;
        var text = (typed ?? "").Trim();
        if (string.Equals(text, "jumps", StringComparison.OrdinalIgnoreCase))
        {
            return Jumps;
        }

        if (Counted().Match(text) is not { Success: true } counted)
        {
            return null;
        }

        var (right, tried) = (Number(counted.Groups["right"].Value), Number(counted.Groups["tried"].Value));
        if (tried is >= 2 and <= MostTried && right > 0 && right < tried)
        {
            return new Wavering(right, tried);
        }

        error =
            tried > MostTried ? $"{text}: at most {MostTried} tries are counted."
            : right >= tried ? $"{text}: right each time. Type what it read."
            : $"{text}: wrong each time. Type what it read.";
        return null;
    }

    /// <summary>How likely it is seen, up to a factor common to all states.</summary>
    /// <param name="state">The state.</param>
    /// <param name="shows">Whether the state shows at this reading at all.</param>
    public double Likelihood(PartState state, bool shows) =>
        shows && state.Faults.Any(f => f.ComesAndGoes) ? OfOneThatWould
        : shows ? OfAnyOther
        : Math.Pow(Slip, Math.Clamp(Tried - Right, 1, MostSlips));

    /// <summary>In words.</summary>
    public string Words => Tried == 0 ? "jumps" : $"{Right} of {Tried} right";

    private static int Number(string digits) => digits.Length > 3 ? MostTried + 1 : int.Parse(digits, null);

    [GeneratedRegex(
        @"\A(?<right>[0-9]{1,9})\s?(of|/)\s?(?<tried>[0-9]{1,9})\z",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: Patterns.MostMilliseconds
    )]
    private static partial Regex Counted();
}
