using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests;

/// <summary>
/// A figure that no such part would show and another reading of the same digits would: ohms typed for kilohms, leads that were
/// not taken off. Nothing is refused for it.
/// </summary>
public static class Plausibility
{
    private const double FarOff = 4;

    /// <summary>What may have been meant; null when the figure is as good as any.</summary>
    public static string? Of(SheetTable table, int reading, double figure)
    {
        var observable = table.Readings[reading].Observable;
        if (!double.IsFinite(figure) || figure <= 0 || Distance(table, reading, figure) < FarOff)
        {
            return null;
        }

        foreach (var factor in new[] { 1000.0, 0.001 })
        {
            if (observable is DeadOhms && Distance(table, reading, figure * factor) < 1)
            {
                return $"{Engineering.Format(figure, observable.Unit)} here? {Engineering.Format(figure * factor, observable.Unit)} would be usual: look at the range.";
            }
        }

        return $"Far from what such a part shows, sound or not ({observable.SaidRange(Least(table, reading), Most(table, reading))}): take it again, elsewhere on bright metal.";
    }

    /// <summary>How far a figure lies from the nearest that any state shows, on the observable's scale.</summary>
    private static double Distance(SheetTable table, int reading, double figure)
    {
        var observable = table.Readings[reading].Observable;
        var scaled = observable.Scaled(figure);
        return All(table, reading).Min(f => Math.Abs(observable.Scaled(f) - scaled));
    }

    private static double Least(SheetTable table, int reading) =>
        All(table, reading).Min(f => table.Readings[reading].Observable.Scaled(f));

    private static double Most(SheetTable table, int reading) =>
        All(table, reading)
            .Where(double.IsFinite)
            .Select(f => table.Readings[reading].Observable.Scaled(f))
            .DefaultIfEmpty(0)
            .Max();

    private static IEnumerable<double> All(SheetTable table, int reading) =>
        from s in Enumerable.Range(0, table.States.Count)
        from p in Enumerable.Range(0, table.Particles)
        select table.Figure(s, p, reading);
}
