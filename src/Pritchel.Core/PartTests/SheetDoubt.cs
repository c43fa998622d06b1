using Pritchel.Core.Observables;

namespace Pritchel.Core.PartTests;

/// <summary>How far a figure of a sheet may lie from what the part shows.</summary>
internal static class SheetDoubt
{
    // Two probes pressed anew, as a share of the leads' own ohms: from memory.
    private const double ContactShare = 0.1;

    // Between two of the parts drawn lie others: so much of a figure is not told apart.
    private const double GapShare = 0.01;

    /// <summary>
    /// Standard deviation on the observable's scale. The leads' own ohms are drawn with the part, once for all readings; what is
    /// left is the display and the contact of two probes.
    /// </summary>
    public static double Of(SheetTable table, int reading, SheetEntry entry, double expected)
    {
        var observable = table.Readings[reading].Observable;
        if (observable is not DeadOhms || double.IsInfinity(entry.Figure) || double.IsInfinity(expected))
        {
            var shown = observable.Noise(
                table.Meter,
                observable.Scaled(entry.Figure),
                observable.Scaled(expected),
                entry.Digits
            );
            var asked = table.Readings[reading];
            var besides = Math.Max(asked.Doubt, asked.DoubtShare * Finite(entry.Figure, expected));

            // Half-way, where a scale that bends is about as steep as the chord between the two.
            var halfway = (observable.Scaled(entry.Figure) + observable.Scaled(expected)) / 2;
            besides *= observable.Steepness(observable.Figure(halfway));
            return Math.Sqrt((shown * shown) + (besides * besides));
        }

        var middle = (entry.Figure + expected) / 2;
        var range = table.Meter.OhmsRanges.FirstOrDefault(r => middle < r, table.Meter.OhmsRanges[^1]);
        var step = Math.Max(entry.Digits?.Step ?? 0, range / table.Meter.DisplayCounts);
        var doubt = Math.Sqrt(
            Math.Pow(middle * table.Meter.OhmsAccuracyPercent / 200, 2)
                + Math.Pow(table.Meter.AccuracyCounts * step / 2, 2)
                + Math.Pow(ContactShare * table.Meter.Leads.Value, 2)
                + Math.Pow(GapShare * middle, 2)
        );
        return doubt * observable.Steepness(middle);
    }

    /// <summary>Number of the bin that a figure falls into: bins are as wide as its doubt, and figures of one tell no more than each other.</summary>
    public static int Bin(SheetTable table, int reading, double figure)
    {
        const double Narrowest = 0.05;
        var width = 2 * Of(table, reading, new SheetEntry("", figure), figure);
        return (int)Math.Round(table.Readings[reading].Observable.Scaled(figure) / Math.Max(width, Narrowest));
    }

    private static double Finite(double figure, double other) =>
        double.IsFinite(figure) ? Math.Abs(figure)
        : double.IsFinite(other) ? Math.Abs(other)
        : 0;
}
