using System.Globalization;
using Pritchel.Core.Exchange;
using Pritchel.Core.PartTests.Points;
using Pritchel.Core.Units;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>How points of one's own and what was read of them are said.</summary>
public static class PointWords
{
    /// <summary>A sign and a word for how a figure lies to its target.</summary>
    public static (string Sign, string Words) Of(PointOutcome outcome) =>
        outcome switch
        {
            PointOutcome.Within => ("●", "as it should"),
            PointOutcome.Outside => ("◆", "not as it should"),
            PointOutcome.CannotTell => ("○", "too near the limit for this meter"),
            _ => ("○", "not read"),
        };

    /// <summary>What was read, with the meter's doubt: "0.31 Ω ± 0.05 Ω".</summary>
    public static string Figure(PointRead point) =>
        point.Read is not { } read ? ""
        : double.IsInfinity(read.Figure) ? "OL"
        : $"{Engineering.Format(read.Figure, point.Point.Reads.Unit)} ± {Engineering.Format(point.Doubt, point.Point.Reads.Unit)}";

    /// <summary>The sheet as CSV.</summary>
    public static string Csv(OpenPoints open) =>
        CsvText.Of(
            "point,meter,should read,typed,figure,unit,doubt,outcome,with",
            open.Points.Select<PointRead, IEnumerable<string>>(p =>
                [
                    p.Point.Words,
                    p.Point.Reads.Name,
                    p.Point.Wanted.Words(p.Point.Reads.Unit),
                    p.Read?.Typed ?? "",
                    p.Read is null ? ""
                    : double.IsInfinity(p.Read.Figure) ? "OL"
                    : Said(p.Read.Figure),
                    p.Point.Reads.Unit,
                    p.Read is null ? "" : Said(p.Doubt),
                    Of(p.Outcome).Words,
                    p.Read?.Meter ?? "",
                ]
            )
        );

    private static string Said(double figure) => figure.ToString("R", CultureInfo.InvariantCulture);
}
