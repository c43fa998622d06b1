using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring.Plugs;

/// <summary>A lead of a plug, as somebody draws it who has the plug in hand.</summary>
/// <param name="Cavity">Number or letter moulded beside it.</param>
/// <param name="Colours">Base colour, then tracer; none where it cannot be told.</param>
/// <param name="Function">What it is for.</param>
/// <param name="Known">How that is known.</param>
public sealed record HandLead(
    string Cavity,
    IReadOnlyList<string> Colours,
    LeadFunction Function,
    HowKnown Known = HowKnown.Followed
)
{
    /// <summary>Colours as typed: base, then tracer after a stroke; a question mark is none.</summary>
    public static IReadOnlyList<string> ColoursIn(string? typed) =>
        [
            .. (typed ?? "")
                .ToLowerInvariant()
                .Split('/', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Where(c => c != "?"),
        ];
}

/// <summary>
/// A plug drawn by hand: what is behind it is not at hand or not known, so that parts of the usual kinds and figures stand in for
/// it on both halves. The machine that comes of it is cut, joined, proved and drawn as any other.
/// </summary>
/// <param name="Half">Which half is in hand.</param>
/// <param name="Leads">Its leads.</param>
public sealed record HandPlug(PlugHalf Half, IReadOnlyList<HandLead> Leads)
{
    /// <summary>Most leads of one plug.</summary>
    public const int MostLeads = 40;

    private const int MostCavity = 6;

    /// <summary>What cannot be drawn so, with the lead it is about; none when all can.</summary>
    public IEnumerable<(int Lead, string Message)> Check()
    {
        if (Leads.Count is 0 or > MostLeads)
        {
            yield return (0, $"Leads: {Leads.Count} of them; 1 to {MostLeads}.");
        }

        foreach (var (i, lead) in Leads.Index())
        {
            if (lead.Cavity.Length is 0 or > MostCavity || !lead.Cavity.All(char.IsAsciiLetterOrDigit))
            {
                yield return (
                    i,
                    $"Cavity: “{lead.Cavity}” is not a cavity; 1 to {MostCavity} letters and digits, as moulded beside it."
                );
            }

            if (lead.Colours.Count > 2 || lead.Colours.FirstOrDefault(c => !WireColours.Names.Contains(c)) is not null)
            {
                yield return (
                    i,
                    $"Cavity {lead.Cavity}: “{string.Join('/', lead.Colours)}” is not a colour; type one, or base/tracer, of {string.Join(", ", WireColours.Names)}; leave it empty where it cannot be told."
                );
            }
        }

        foreach (var twice in Leads.GroupBy(l => l.Cavity, StringComparer.OrdinalIgnoreCase).Where(g => g.Count() > 1))
        {
            yield return (0, $"Cavity: “{twice.Key}” is told {twice.Count()} times; each once.");
        }

        foreach (var (function, most) in LeadsOfOne)
        {
            var count = Leads.Count(l => l.Function == function);
            if (count > most)
            {
                yield return (
                    0,
                    $"{LeadVocabulary.Of(function)}: {count} leads; one part has {most} at most. Say “{LeadVocabulary.Of(LeadFunction.Unknown)}” of the others until they are followed."
                );
            }
        }
    }

    /// <summary>The machine, whole as it was: the half in hand, and what the other was joined to.</summary>
    /// <param name="id">Id that it gets.</param>
    /// <param name="name">What it is called.</param>
    public Machine Machine(MachineId id, string name) => new StandIns(this).Build(id, name);

    /// <summary>
    /// What stays of a machine when it is taken into a rewire: of a plug drawn by hand the stand-ins on the half in hand, the plug
    /// cut off; null for a machine that is drawn as it is.
    /// </summary>
    public static IReadOnlyList<PartId>? Own(Machine machine) =>
        machine.Parts.Any(p => p.StandsIn == true)
            ? [.. machine.Parts.Where(p => p.StandsIn == true).Select(p => p.Id)]
            : null;

    // A part of the trade that has so many leads and no more: of two kills, two grounds or two feeds each is a part of its own.
    private static readonly (LeadFunction Function, int Most)[] LeadsOfOne =
    [
        (LeadFunction.ChargeWinding, 3),
        (LeadFunction.ChargeOutput, 1),
        (LeadFunction.LightingWinding, 1),
        (LeadFunction.Pickup, 2),
        (LeadFunction.StartFeed, 1),
        (LeadFunction.IgnitionFeed, 1),
    ];
}
