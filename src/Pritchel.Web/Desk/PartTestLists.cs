using System.Globalization;
using Pritchel.Core.Exchange;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>A part test as a list for other programs.</summary>
public static class PartTestLists
{
    /// <summary>Readings as CSV: id, words, unit, typed, figure, agrees with a sound part.</summary>
    public static string Csv(OpenPartTest open) =>
        CsvText.Of(
            "reading,words,unit,typed,figure,agrees,meter",
            open.Table.Readings.Select<Core.PartTests.SheetReading, IEnumerable<string>>(
                (reading, index) =>
                {
                    var read = open.State.Read.FirstOrDefault(r => r.Reading == reading.Id);
                    return
                    [
                        reading.Id,
                        reading.Words,
                        reading.Observable.Unit,
                        read?.Typed ?? "",
                        read is null || read.Wavers is not null ? ""
                        : double.IsInfinity(read.Figure) ? "OL"
                        : read.Figure.ToString("R", CultureInfo.InvariantCulture),
                        read is null || reading.IsNoted ? ""
                        : open.Beliefs.Agrees(index, open.Weighed(read)) ? "yes"
                        : "no",
                        read?.Meter ?? "",
                    ];
                }
            )
        );
}
