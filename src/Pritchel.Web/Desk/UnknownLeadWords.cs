using System.Globalization;
using Pritchel.Core.PartTests.Leads;

namespace Pritchel.Web.Desk;

/// <summary>What groups of unknown leads are, in words.</summary>
internal static class UnknownLeadWords
{
    /// <summary>A lead by its number and colour; the core by its name.</summary>
    public static string Lead(IReadOnlyList<string> colours, int point) =>
        point == colours.Count ? LeadSheet.CoreName : $"{point + 1} {colours[point]}";

    /// <summary>What a group is.</summary>
    public static string Of(LeadGroup group, IReadOnlyList<string> colours, Func<int, int, double?> ohms)
    {
        string Lead(int point) => UnknownLeadWords.Lead(colours, point);
        string All(IEnumerable<int> points) => string.Join(", ", points.Select(Lead));
        return group.Kind switch
        {
            LeadGroupKind.Alone =>
                $"{Lead(group.Points[0])} joins nothing: broken off inside, or of electronics, which ohms do not tell of.",
            LeadGroupKind.CoreAlone => "Nothing meets the core.",
            LeadGroupKind.OneCopper =>
                $"{All(group.Points)}: one piece of copper{(Meets(group, colours) ? ", a ground lead" : "")}.",
            LeadGroupKind.Floating =>
                $"{All(group.Points)}: a winding clear of the core, {Ohms(group.Whole)}. {Likely(group.Whole)}",
            LeadGroupKind.Grounded =>
                $"{All(group.Points)}: a winding with its other end on the core, {Ohms(group.Whole)}. {Likely(group.Whole)} If it should float, it is grounded: its own doubt.",
            LeadGroupKind.ThreePhase =>
                $"{All(group.Points)}: three like legs, {Ohms(group.Whole)} from lead to lead: three-phase. Star or delta, and any order of the leads, are all the same to the regulator.",
            LeadGroupKind.StarPointOut =>
                $"{All(group.Points.Where(p => p != group.Order[0]))}: three like legs; {Lead(group.Order[0])} is where they meet.",
            LeadGroupKind.ThreePhaseGrounded =>
                $"{All(group.Points.Where(p => p != group.Order[0]))}: three like legs, and one of them meets the core: such a stator is grounded in a winding. Judge it on its own sheet.",
            LeadGroupKind.Tapped => Tapped(group, Lead, ohms),
            LeadGroupKind.DoesNotAddUp =>
                $"{All(group.Points)}: a tap to one end and to the other should make the whole ({Ohms(group.Whole)}), and these do not. One of them slipped, or more than one winding meets here: read them again, leads nulled.",
            _ => $"{All(group.Points)} join; not all pairs are read yet.",
        };
    }

    private static string Tapped(LeadGroup group, Func<int, string> lead, Func<int, int, double?> ohms)
    {
        var same = group.OneCopper(ohms).ToList();
        var taps = group
            .Order.Skip(1)
            .SkipLast(1)
            .Where(p => !same.Exists(s => (s.One == p || s.Other == p) && (Ends(s.One) || Ends(s.Other))))
            .ToList();
        var ends = $"One winding from {lead(group.Order[0])} to {lead(group.Order[^1])}, {Ohms(group.Whole)}";
        var between = taps.Count == 0 ? "" : $"; tapped at {string.Join(" and ", taps.Select(lead))}";
        var twice = string.Concat(same.Select(s => $"; {lead(s.One)} and {lead(s.Other)} are one copper"));
        return $"{ends}{between}{twice}. {(taps.Count > 0 ? "The part with the fewer ohms mostly charges, the other lights." : Likely(group.Whole))}";

        bool Ends(int point) => point == group.Order[0] || point == group.Order[^1];
    }

    /// <summary>What has ohms of that order: common practice, no source. Only peaks while it is turned tell for sure.</summary>
    private static string Likely(double ohms) =>
        ohms switch
        {
            < 3 => "So few are a charge winding’s.",
            < 15 => "So few are a lighting or charge winding’s, or a coil’s of a relay.",
            < 100 =>
                "A pickup’s, or a low exciter’s: peak volts while it is turned tell, some for the one, tens and hundreds for the other.",
            < 1500 =>
                "A pickup’s or an exciter’s: peak volts while it is turned tell, some for the one, tens and hundreds for the other.",
            _ => "An exciter’s, or what goes through a module: peak volts while it is turned tell.",
        };

    private static bool Meets(LeadGroup group, IReadOnlyList<string> colours) => group.Points.Contains(colours.Count);

    private static string Ohms(double ohms) =>
        ohms >= 1000
            ? (ohms / 1000).ToString("0.##", CultureInfo.InvariantCulture) + " kΩ"
            : ohms.ToString(ohms < 10 ? "0.##" : "0.#", CultureInfo.InvariantCulture) + " Ω";
}
