using Pritchel.Core.Metering;

namespace Pritchel.Core.Observables;

/// <summary>Readings of a simulated machine with a meter's own errors.</summary>
internal static class Simulated
{
    /// <summary>A reading with one of the meter's functions, its leads nulled; null when it jumps.</summary>
    public static double? OnMeter(
        Observable observable,
        ISimulatedCase @case,
        MeterFunction function,
        int red,
        int black
    )
    {
        var display = Metering.Bench.Read(@case.Case, @case.Meter with { LeadsNulled = true }, function, red, black);
        return display.Jumps ? null : Noisy(observable, @case, display.Value!.Value);
    }

    /// <summary>A figure as this meter happens to show it, on the scale.</summary>
    public static double Noisy(Observable observable, ISimulatedCase @case, double figure)
    {
        if (observable.Scaled(figure) >= Observable.Open - 0.01)
        {
            return Observable.Open;
        }

        var shown = figure + (observable.Doubt(@case.Meter, figure) * @case.Chance());
        return observable.Scaled(Math.Max(0, shown));
    }
}
