using System.Globalization;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Leads;

/// <summary>Unknown leads as a part test of the record: leads numbered from 1 with their colours, then the core.</summary>
public static class LeadSheet
{
    /// <summary>Key that it is kept by.</summary>
    public const string Key = "unknown-leads";

    /// <summary>What the core is called.</summary>
    public const string CoreName = "core";

    private const int LongestColour = 24;

    /// <summary>Begins on the leads that somebody lists.</summary>
    /// <param name="name">What the part is called.</param>
    /// <param name="listed">Colours, parted by commas: "yellow, yellow, white/red".</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static SheetBegan? Begin(string? name, string? listed, out string error)
    {
        var colours = (listed ?? "").Split(',').Select(c => c.Trim().ToLowerInvariant()).ToList();
        var (fewest, most) = UnknownLeads.Leads;
        var called = string.IsNullOrWhiteSpace(name) ? "Unknown leads" : name.Trim();
        error =
            colours.Count < fewest || colours.Count > most || colours.Exists(c => c.Length == 0)
                ? $"Leads: {fewest} to {most} colours parted by commas, such as “yellow, yellow, white/red”."
            : colours.Find(c => c.Length > LongestColour || !c.All(IsColour)) is { } odd
                ? $"Leads: “{odd[..Math.Min(odd.Length, LongestColour)]}” is no colour; letters, spaces, “/” and “?”, {LongestColour} at the most."
            : called.Length > PartNameLength || called.Any(char.IsControl)
                ? $"Part: 1 to {PartNameLength} characters that print."
            : "";
        return error.Length > 0
            ? null
            : new SheetBegan(
                Key,
                TestedPart.Unknown("leads", called, [.. colours.Select((c, i) => $"{i + 1} {c}"), CoreName]),
                null,
                null
            );
    }

    /// <summary>What is known by the steps of a sheet.</summary>
    public static UnknownLeads Of(SheetState state) =>
        new(Colours(state), state.Read.Select(r => new LeadAnswer(Pair(r.Reading), new Ohms(r.Figure))));

    /// <summary>Colour of each lead.</summary>
    public static IReadOnlyList<string> Colours(SheetState state) =>
        [
            .. state
                .Began.Tested.Part.Terminals.SkipLast(1)
                .Select(t => t.Text[(t.Text.IndexOf(' ', StringComparison.Ordinal) + 1)..]),
        ];

    /// <summary>A figure as a step; null where it is none.</summary>
    /// <param name="known">What is known.</param>
    /// <param name="pair">Which two.</param>
    /// <param name="typed">As typed.</param>
    /// <param name="meter">The meter; ohms of its own leads are taken off where they are not nulled.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static SheetRead? Answered(UnknownLeads known, LeadPair pair, string? typed, Meter meter, out string error)
    {
        if (!known.Pairs.Contains(pair))
        {
            error = "Those two are not leads of this part.";
            return null;
        }

        return DeadOhms.Instance.Read(typed, out error) is { } figure
            ? new SheetRead(
                $"{pair.One}-{pair.Other}",
                typed!.Trim(),
                Math.Max(0, figure.Value - (meter.LeadsNulled ? 0 : meter.Leads.Value)),
                meter.Name
            )
            : null;
    }

    private const int PartNameLength = 60;

    private static bool IsColour(char c) => char.IsLetter(c) || c is ' ' or '/' or '-' or '?';

    private static LeadPair Pair(string reading)
    {
        int[] parts = [.. reading.Split('-').Select(p => int.Parse(p, CultureInfo.InvariantCulture))];
        return LeadPair.Of(parts[0], parts[1]);
    }
}
