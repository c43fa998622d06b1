using System.Globalization;
using System.Text;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>A part test as a list for other programs.</summary>
public static class PartTestLists
{
    /// <summary>Readings as CSV (RFC 4180): id, words, unit, typed, figure, agrees with a sound part.</summary>
    public static string Csv(OpenPartTest open)
    {
        var text = new StringBuilder("reading,words,unit,typed,figure,agrees,meter\r\n");
        foreach (var (index, reading) in open.Table.Readings.Index())
        {
            var read = open.State.Read.FirstOrDefault(r => r.Reading == reading.Id);
            text.AppendJoin(
                    ',',
                    new[]
                    {
                        reading.Id,
                        reading.Words,
                        reading.Observable.Unit,
                        read?.Typed ?? "",
                        read is null ? ""
                        : double.IsInfinity(read.Figure) ? "OL"
                        : read.Figure.ToString("R", CultureInfo.InvariantCulture),
                        read is null ? ""
                        : open.Beliefs.Agrees(index, OpenPartTest.Weighed(open.Table, read)) ? "yes"
                        : "no",
                        read?.Meter ?? "",
                    }.Select(Cell)
                )
                .Append("\r\n");
        }

        return text.ToString();
    }

    // A cell that a spreadsheet would take for a formula is told as text.
    private static string Cell(string text)
    {
        var safe = text.Length > 0 && text[0] is '=' or '+' or '@' or '\t' ? "'" + text : text;
        return safe.IndexOfAny([',', '"', '\r', '\n']) < 0
            ? safe
            : $"\"{safe.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
    }
}
