using System.Globalization;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;

namespace Pritchel.Core.PartTests.Points;

/// <summary>A point was put on the sheet.</summary>
/// <param name="Point">It.</param>
public sealed record PointPlaced(Point Point) : SheetStep;

/// <summary>A point with what was read of it last.</summary>
/// <param name="Point">It.</param>
/// <param name="Read">What was read; null where nothing was.</param>
/// <param name="Doubt">What the figure lies off by at the most.</param>
/// <param name="Outcome">How it lies to its target.</param>
public sealed record PointRead(Point Point, SheetRead? Read, double Doubt, PointOutcome Outcome);

/// <summary>A sheet of somebody's own: any two points, a target and a tolerance for each.</summary>
public static class PointSheet
{
    /// <summary>Key that it is kept by.</summary>
    public const string Key = "points";

    /// <summary>Most points of one sheet.</summary>
    public const int MostPoints = 40;

    private const int LongestWords = 100;

    /// <summary>What may be read: everything that a meter shows between two points.</summary>
    public static IReadOnlyList<Observable> Offered { get; } =
    [
        DirectVolts.Instance,
        DeadOhms.Instance,
        DirectAmps.Instance,
        ClampAmps.Instance,
        DiodeVolts.Instance,
        AlternatingVolts.Instance,
        PeakVolts.Instance,
    ];

    /// <summary>Begins a sheet.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static SheetBegan? Begin(string? name, out string error)
    {
        var called = (name ?? "").ReplaceLineEndings(" ").Trim();
        error = FigureRules.OfName(called) ?? "";
        return error.Length > 0
            ? null
            : new SheetBegan(Key, TestedPart.Unknown("points", called, ["bolt"]), null, null);
    }

    /// <summary>A point as a step; null where something is wrong with it.</summary>
    /// <param name="state">What the sheet stands at.</param>
    /// <param name="words">Where the probes go.</param>
    /// <param name="reads">Key of what is read.</param>
    /// <param name="wanted">What it should come to, as typed.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static PointPlaced? Placed(SheetState state, string? words, string? reads, string? wanted, out string error)
    {
        var where = (words ?? "").ReplaceLineEndings(" ").Trim();
        var observable = Offered.FirstOrDefault(o => o.Key == reads);
        error =
            where.Length is 0 or > LongestWords || where.Any(char.IsControl)
                ? $"From where to where: 1 to {LongestWords} characters, such as “battery + to starter stud, cranking”."
            : observable is null ? $"Meter: choose one of {string.Join(", ", Offered.Select(o => o.Name))}."
            : PointsOf(state).Count() >= MostPoints ? $"A sheet holds {MostPoints} points; begin another."
            : "";
        return error.Length == 0 && Wanted.Parse(wanted, observable!, out error) is { } target
            ? new PointPlaced(new Point($"p{Number(state)}", where, observable!, target))
            : null;
    }

    /// <summary>A figure as a step; null where it is none.</summary>
    /// <param name="state">What the sheet stands at.</param>
    /// <param name="point">Id of the point.</param>
    /// <param name="typed">As typed.</param>
    /// <param name="meter">The meter; ohms of its own leads are taken off where they are not nulled.</param>
    /// <param name="error">What was wrong and what is allowed; empty when nothing was.</param>
    public static SheetRead? Answered(SheetState state, string? point, string? typed, Meter meter, out string error)
    {
        if (PointsOf(state).FirstOrDefault(p => p.Id == point) is not { } at)
        {
            error = "Point: choose one of this sheet.";
            return null;
        }

        if (at.Reads.Read(typed, out var wrong) is not { } figure)
        {
            error = "Reading: " + wrong;
            return null;
        }

        error = "";
        var leads = at.Reads is DeadOhms && !meter.LeadsNulled ? meter.Leads.Value : 0;
        return new SheetRead(
            at.Id,
            typed!.Trim(),
            leads > 0 ? Math.Max(0, figure.Value - leads) : figure.Value,
            meter.Name
        );
    }

    /// <summary>Points that stand, in the order in which they were placed, with what was read of each.</summary>
    /// <param name="state">What the sheet stands at.</param>
    /// <param name="meter">The meter in use, whose doubt is believed in.</param>
    public static IReadOnlyList<PointRead> Of(SheetState state, Meter meter)
    {
        var read = state.Read.ToDictionary(r => r.Reading, StringComparer.Ordinal);
        return
        [
            .. PointsOf(state)
                .Select(p =>
                {
                    if (!read.TryGetValue(p.Id, out var figure))
                    {
                        return new PointRead(p, null, 0, PointOutcome.NotRead);
                    }

                    var doubt = double.IsFinite(figure.Figure) ? p.DoubtOf(figure.Figure, figure.Typed, meter) : 0;
                    return new PointRead(p, figure, doubt, p.Judge(figure.Figure, doubt));
                }),
        ];
    }

    private static IEnumerable<Point> PointsOf(SheetState state) => state.Stand<PointPlaced>().Select(p => p.Point);

    // Never again the number of one that was taken back: what was read of that is not this one's.
    private static string Number(SheetState state) =>
        (state.History.Count(h => h.Step is PointPlaced) + 1).ToString(CultureInfo.InvariantCulture);
}
