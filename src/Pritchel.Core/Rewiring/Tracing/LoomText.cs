using System.Globalization;
using System.Text.RegularExpressions;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring.Tracing;

/// <summary>
/// An unknown loom as a person lists it: a line a plug, "P1: red, black, ?, white", with how far it lies, "P2 2.5 m: …"; and a
/// line a switch left in, "key behind P3: OFF, RUN, START".
/// </summary>
public static partial class LoomText
{
    /// <summary>Fewest and most ends.</summary>
    public static (int Least, int Most) Ends => (2, 60);

    private const int MostSwitches = 6;
    private const int MostPositions = 6;
    private const int MostName = 30;
    private const double MostMetres = 50;

    /// <summary>Reads it.</summary>
    /// <param name="plugs">Plugs, a line each.</param>
    /// <param name="switches">Switches, a line each; may be empty.</param>
    /// <param name="error">What was wrong, with the line, and what is allowed; empty when nothing was.</param>
    /// <returns>The loom; null when something was wrong.</returns>
    public static Loom? Read(string? plugs, string? switches, out string error)
    {
        var ends = new List<LoomEnd>();
        var metres = new Dictionary<string, double>(StringComparer.Ordinal);
        foreach (var line in Lines(plugs))
        {
            var match = Plug().Match(line);
            if (!match.Success)
            {
                error =
                    $"Plugs: “{Excerpt.Of(line)}” is not a plug. Type its name, a colon and its leads’ colours, such as “P1: red, black, ?”.";
                return null;
            }

            var name = match.Groups["name"].Value.Trim();
            if (name.Length > MostName || !metres.TryAdd(name, Metres(match.Groups["metres"].Value)))
            {
                error = $"Plugs: “{Excerpt.Of(name)}”: a name of 1 to {MostName} characters, each plug once.";
                return null;
            }

            if (metres[name] is not (>= 0 and <= MostMetres))
            {
                error = $"Plugs: “{name}”: 0 to {MostMetres:0} m away.";
                return null;
            }

            ends.AddRange(
                match
                    .Groups["leads"]
                    .Value.Split(',')
                    .Select(
                        (lead, i) => new LoomEnd(name, (i + 1).ToString(CultureInfo.InvariantCulture), Colour(lead))
                    )
            );
        }

        if (ends.Count < Ends.Least || ends.Count > Ends.Most)
        {
            error = $"Plugs: {ends.Count} leads in all; {Ends.Least} to {Ends.Most}.";
            return null;
        }

        if (ends.FirstOrDefault(e => e.Colour.Length > MostName) is { } long1)
        {
            error = $"Plugs: “{long1.Plug}”: a colour of at most {MostName} letters; “?” where it cannot be told.";
            return null;
        }

        var controls = new List<LoomControl>();
        foreach (var line in Lines(switches))
        {
            var match = Switch().Match(line);
            string[] positions = match.Success
                ? match
                    .Groups["positions"]
                    .Value.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                : [];
            if (
                !match.Success
                || positions.Length is < 2 or > MostPositions
                || positions.Any(p => p.Length > MostName)
                || positions.Distinct().Count() < positions.Length
            )
            {
                error =
                    $"Switches: “{Excerpt.Of(line)}” is not a switch. Type “key behind P3: OFF, RUN, START”, the position at rest first, 2 to {MostPositions} of them.";
                return null;
            }

            var plug = match.Groups["plug"].Value.Trim();
            if (!metres.ContainsKey(plug) || controls.Count == MostSwitches)
            {
                error =
                    controls.Count == MostSwitches
                        ? $"Switches: at most {MostSwitches}."
                        : $"Switches: “{Excerpt.Of(plug)}” is not among the plugs; allowed: {string.Join(", ", metres.Keys)}.";
                return null;
            }

            controls.Add(new LoomControl(match.Groups["name"].Value.Trim(), positions, plug));
        }

        error = "";
        return new Loom(ends, controls, metres);
    }

    private static string[] Lines(string? text) =>
        (text ?? "").Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    private static double Metres(string text) =>
        text.Length == 0 ? 0 : double.Parse(text.Replace(',', '.'), CultureInfo.InvariantCulture);

    private static string Colour(string lead) =>
        lead.Trim() is var colour && colour == "?" ? "" : colour.ToLowerInvariant();

    [GeneratedRegex(
        @"^(?<name>[^:<>\p{C}]{1,100}?)(?:\s+(?<metres>[0-9]{1,3}(?:[.,][0-9]{1,2})?)\s*m)?\s*:(?<leads>[^:<>\p{C}]+)$",
        RegexOptions.CultureInvariant,
        Patterns.MostMilliseconds
    )]
    private static partial Regex Plug();

    [GeneratedRegex(
        @"^(?<name>[^:<>\p{C}]{1,30}?)\s+behind\s+(?<plug>[^:<>\p{C}]{1,100}?)\s*:(?<positions>[^:<>\p{C}]+)$",
        RegexOptions.CultureInvariant,
        Patterns.MostMilliseconds
    )]
    private static partial Regex Switch();
}
