using System.Text;

namespace Pritchel.Core.Exchange;

/// <summary>Lists for other programs: CSV (RFC 4180) that no spreadsheet takes for formulas.</summary>
public static class CsvText
{
    /// <summary>A list with its headings.</summary>
    public static string Of(string headings, IEnumerable<IEnumerable<string>> rows)
    {
        var text = new StringBuilder(headings).Append("\r\n");
        foreach (var row in rows)
        {
            text.AppendJoin(',', row.Select(Cell)).Append("\r\n");
        }

        return text.ToString();
    }

    // A cell that a spreadsheet would take for a formula is told as text; a figure below zero is none.
    private static string Cell(string text)
    {
        var safe =
            text.Length > 0
            && (text[0] is '=' or '+' or '@' or '\t' || (text[0] == '-' && !(text.Length > 1 && char.IsDigit(text[1]))))
                ? "'" + text
                : text;
        return safe.IndexOfAny([',', '"', '\r', '\n']) < 0
            ? safe
            : $"\"{safe.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
    }
}
