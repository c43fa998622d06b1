using System.Globalization;
using Pritchel.Core.Exchange;
using Pritchel.Core.Rewiring;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>A rewire as lists for other programs.</summary>
public static class RewireLists
{
    /// <summary>The cut list as CSV, a row for each piece.</summary>
    public static string CutsCsv(CutList cuts) =>
        CsvText.Of(
            "wire,why,colours,gauge,laid m,cut m,one end,other end,strip mm,die,sleeve mm",
            cuts.Pieces.Select<CutPiece, IEnumerable<string>>(piece =>
                [
                    piece.Wire,
                    piece.Why,
                    string.Join('-', piece.Colours),
                    piece.Gauge,
                    Figure(piece.Laid.Value),
                    Figure(piece.Cut.Value),
                    .. piece.Ends,
                    Figure(piece.Barrel.StripMillimetres),
                    piece.Barrel.Die,
                    Figure(piece.Barrel.SleeveMillimetres),
                ]
            )
        );

    private static string Figure(double figure) => figure.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>The splice table as CSV, a row for each end.</summary>
    public static string Csv(OpenRewire open) =>
        CsvText.Of(
            "join,flag,side,where,colours,gauge,function,leads to,lands on,how",
            open.Lines.SelectMany(line =>
                line.Ends.Select<FlaggedEnd, IEnumerable<string>>(end =>
                    [
                        line.Number.ToString(CultureInfo.InvariantCulture),
                        end.Flag.ToString(CultureInfo.InvariantCulture),
                        open.Plan.Side(end.End.Side)!.Machine.Name,
                        end.Where,
                        string.Join('-', end.Colours),
                        end.Gauge,
                        RewireWords.Of(end.Function.Kind),
                        RewireWords.LeadsTo(end.Function),
                        line.Onto ?? "",
                        line.How,
                    ]
                )
            )
        );
}
