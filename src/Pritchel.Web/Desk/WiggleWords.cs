using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Identity;

namespace Pritchel.Web.Desk;

/// <summary>How it is said what to move, warm or wet.</summary>
public static class WiggleWords
{
    /// <summary>Every treatment, with its words.</summary>
    public static IReadOnlyList<(WiggledBy By, string Words)> Ways { get; } =
    [(WiggledBy.Moving, "moved"), (WiggledBy.Warming, "warmed"), (WiggledBy.Wetting, "wetted")];

    /// <summary>Title of the card: "Move every joint: handlebar".</summary>
    public static string Title(Reach reach, WiggledBy by)
    {
        var (everything, one) = by switch
        {
            WiggledBy.Moving => ("Move every joint", "Move"),
            WiggledBy.Warming => ("Warm every part", "Warm"),
            _ => ("Wet every joint", "Wet"),
        };
        return reach.Alone is { } repair ? $"{one}: {repair.Name}" : $"{everything}: {reach.Place.Name}";
    }

    /// <summary>For the list of readings: "front cover, moved".</summary>
    public static string Done(Reach reach, WiggledBy by) =>
        $"{reach.Alone?.Name ?? reach.Place.Name}, {Ways.First(w => w.By == by).Words}";

    /// <summary>What came of it.</summary>
    public static string Came(bool changed) => changed ? "◆ it changed" : "● nothing changed";

    /// <summary>What to do with the hands.</summary>
    public static string How(WiggledBy by) =>
        by switch
        {
            WiggledBy.Moving =>
                "one thing at a time, a finger’s breadth: bend the loom, push and pull couplings and wire ends, tap cases",
            WiggledBy.Warming =>
                "a hair dryer, half a minute to each thing, no hotter than the hand bears; then let it cool and watch on",
            _ => "a mist of clean water from a spray bottle, one thing at a time; dry it after",
        };

    /// <summary>What can hurt.</summary>
    public static string Caution(WiggledBy by) =>
        by switch
        {
            WiggledBy.Moving =>
                "Bare hands, no tool: a spanner across live battery cables burns. Off belts, fan, exhaust and plug leads.",
            WiggledBy.Warming =>
                "Never a flame or a heat gun; no petrol or its vapour about. The dryer on a residual-current device, off wet ground.",
            _ =>
                "Battery circuits only, never anything on the mains or shore power. Spark leads: stop the engine, mist, hands away, then start.",
        };

    /// <summary>Why, in a line.</summary>
    public static string Why(PlannedWiggle stir, Complaint complaint)
    {
        const double Minute = 1;
        var wanted =
            stir.WantedAnyway.Value >= Minute ? $"; {stir.WantedAnyway} of it the repair is likely to want anyway" : "";
        return string.Create(
            CultureInfo.InvariantCulture,
            $"Tells {stir.Bits:0.0} bit in {stir.Minutes}{wanted}. It failed {complaint.Failed} {(complaint.Failed == 1 ? "time" : "times")} in {complaint.Tried}: made to fail, it need not be waited for."
        );
    }

    /// <summary>The likeliest of what is got hold of, shortly.</summary>
    public static string PointsTo(Reach reach, Beliefs beliefs)
    {
        const int MostNamed = 3;
        var named = beliefs
            .Suspects.Where(s => s.Repair is { } repair && reach.Repairs.Contains(repair.Id))
            .Select(s => s.Repair!.Short)
            .ToList();
        return named.Count <= MostNamed
            ? string.Join(" or ", named)
            : $"{string.Join(", ", named.Take(MostNamed))} or {named.Count - MostNamed} more";
    }

    /// <summary>Address part that asks for it on the diagnosis page.</summary>
    public static string Key(Reach reach, WiggledBy by) =>
        string.Join(';', new[] { reach.Place.Id.Text, by.ToString(), reach.Alone?.Id.Text }.Where(x => x is not null));

    /// <summary>The treatment of a place that such a part asks for; null when it is none of this machine's.</summary>
    public static (Reach Reach, WiggledBy By)? Read(WiggleTests wiggleTests, string? key) =>
        key?.Split(';') is [var place, var said, .. var rest]
        && rest.Length < 2
        && Enum.TryParse<WiggledBy>(said, out var by)
        && Enum.IsDefined(by)
        && wiggleTests.Ways.Contains(by)
        && wiggleTests.Find(new PlaceId(place), rest is [var alone] ? RepairId.Of(alone) : null) is { } reach
            ? (reach, by)
            : null;
}
