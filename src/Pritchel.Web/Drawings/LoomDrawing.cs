using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Web.Drawings;

/// <summary>One end of a wire where it meets a terminal, or a terminal without wires.</summary>
/// <param name="Y">Middle of its row.</param>
/// <param name="Address">Terminal it is at.</param>
/// <param name="Terminal">Terminal's letter, on its first row; empty on the rest.</param>
/// <param name="Wire">The wire, or null.</param>
/// <param name="Joint">How the wire is joined there.</param>
public sealed record LoomRow(double Y, TerminalAddress Address, string Terminal, Wire? Wire, string Joint)
{
    /// <summary>Whether a probe point is drawn on this row: its terminal, or its wire's own end.</summary>
    public bool Has(PointId point) =>
        point.WireEnd is { } end
            ? Wire?.Id == end.Wire && Address == (end.Side == WireSide.From ? Wire.From.At : Wire.To.At)
            : Terminal.Length > 0 && point.Terminal == Address;
}

/// <summary>A part as drawn on the loom.</summary>
/// <param name="Part">The part.</param>
/// <param name="X">Left edge.</param>
/// <param name="Y">Top edge.</param>
/// <param name="Height">Height.</param>
/// <param name="Name">Its name in one or two lines.</param>
/// <param name="Rows">Terminals and wire ends, from the top.</param>
public sealed record LoomPart(
    Part Part,
    double X,
    double Y,
    double Height,
    IReadOnlyList<string> Name,
    IReadOnlyList<LoomRow> Rows
);

/// <summary>Where a zone begins in a column.</summary>
/// <param name="Name">Its name.</param>
/// <param name="X">Left edge.</param>
/// <param name="Y">Baseline of its heading.</param>
public sealed record LoomZone(string Name, double X, double Y);

/// <summary>
/// The loom as it lies: parts by zone in columns, wire ends at their terminals in their colours, trunks between the
/// columns. A wire's number at both its ends tells where it goes; one that is chosen is drawn along its trunk.
/// </summary>
public sealed class LoomDrawing
{
    /// <summary>Width of a part.</summary>
    public const double PartWidth = 196;

    /// <summary>Width of a letter of a terminal's name: 11 px letters of one width, 0.6 em each.</summary>
    private const double LetterWidth = 6.6;

    /// <summary>Length of the coloured end that goes into a trunk.</summary>
    public const double EndLength = 20;

    private const int MostColumns = 4;
    private const double Gutter = 50;
    private const double RowHeight = 14;
    private const double NameHeight = 14;
    private const double ZoneHeight = 30;
    private const double Gap = 9;
    private const double Top = 8;
    private const double LeastHeight = 380;
    private const int LongestLine = 31;

    private readonly Machine machine;
    private readonly List<LoomPart> parts = [];
    private readonly List<LoomZone> zones = [];

    private LoomDrawing(Machine machine)
    {
        this.machine = machine;
        Place();
        Width = Columns * (PartWidth + Gutter);
        TrunkY = parts.Max(p => p.Y + p.Height) + 16;
    }

    /// <summary>Number of columns.</summary>
    public int Columns { get; private set; }

    /// <summary>Width of the drawing.</summary>
    public double Width { get; }

    /// <summary>Height of the drawing.</summary>
    public double Height => TrunkY + 16;

    /// <summary>Y of the trunk that joins the columns.</summary>
    public double TrunkY { get; }

    /// <summary>Parts in their places.</summary>
    public IReadOnlyList<LoomPart> Parts => parts;

    /// <summary>Headings of zones.</summary>
    public IReadOnlyList<LoomZone> Zones => zones;

    /// <summary>X of the trunk at the right of a part.</summary>
    public static double TrunkX(double partX) => partX + PartWidth + EndLength + 8;

    /// <summary>X at which a probe is marked on a row: just behind its terminal's name.</summary>
    public static double ProbeX(LoomPart part, LoomRow row) => part.X + 17 + (row.Terminal.Length * LetterWidth);

    /// <summary>X of every column's trunk, with the Y it begins at.</summary>
    public IEnumerable<(double X, double Y)> Trunks =>
        parts.GroupBy(p => p.X).Select(g => (TrunkX(g.Key), g.Min(p => p.Rows.Count == 0 ? p.Y : p.Rows[0].Y)));

    /// <summary>
    /// Left edge and width of each column's own view. Side by side they make the whole drawing; on a narrow screen they
    /// stand one above the other.
    /// </summary>
    public IEnumerable<(double X, double Width)> Views =>
        Enumerable.Range(0, Columns).Select(c => (c * (PartWidth + Gutter), PartWidth + Gutter));

    /// <summary>Draws a machine's loom.</summary>
    public static LoomDrawing Of(Machine machine) => new(machine);

    /// <summary>The way of a wire along its trunks, as an SVG path; empty when an end is not drawn.</summary>
    public string Way(Wire wire)
    {
        var ends = parts
            .SelectMany(p => p.Rows.Select(r => (p.X, Row: r)))
            .Where(r => r.Row.Wire == wire)
            .OrderBy(r => r.Row.Address == wire.From.At ? 0 : 1)
            .ToList();
        if (ends.Count != 2)
        {
            return "";
        }

        var ((ax, a), (bx, b)) = (ends[0], ends[1]);
        var (start, end) = ($"M{N(ax + PartWidth)} {N(a.Y)}H{N(TrunkX(ax))}", $"V{N(b.Y)}H{N(bx + PartWidth)}");
        return ax == bx ? start + end : $"{start}V{N(TrunkY)}H{N(TrunkX(bx))}{end}";
    }

    private void Place()
    {
        var grouped = machine
            .Places.Select(p => p.Zone)
            .Distinct(StringComparer.Ordinal)
            .Select(z =>
                (
                    Zone: z,
                    Parts: machine
                        .Places.Where(p => p.Zone == z)
                        .SelectMany(p => machine.Parts.Where(x => x.Place == p.Id))
                        .ToList()
                )
            )
            .Where(z => z.Parts.Count > 0)
            .ToList();
        var whole = grouped.Sum(z => ZoneHeight + z.Parts.Sum(p => HeightOf(p) + Gap));
        var most = Math.Max(LeastHeight, (whole / MostColumns) + 60);
        var (column, y) = (0, Top);
        foreach (var (zone, members) in grouped)
        {
            var headed = false;
            foreach (var part in members)
            {
                var height = HeightOf(part) + Gap + (headed ? 0 : ZoneHeight);
                if (y > Top && y + height > most && column < MostColumns - 1)
                {
                    (column, y, headed) = (column + 1, Top, false);
                }

                var x = 2 + (column * (PartWidth + Gutter));
                if (!headed)
                {
                    zones.Add(new LoomZone(zone, x, y + 19));
                    (y, headed) = (y + ZoneHeight, true);
                }

                parts.Add(Draw(part, x, y));
                y += HeightOf(part) + Gap;
            }
        }

        Columns = column + 1;
    }

    private LoomPart Draw(Part part, double x, double y)
    {
        var rows = new List<LoomRow>();
        var name = NameOf(part);
        var at = y + 5 + (name.Count * NameHeight) + (RowHeight / 2);
        foreach (var (address, terminal, wire, joint) in Ends(part))
        {
            rows.Add(new LoomRow(at, address, terminal, wire, joint));
            at += RowHeight;
        }

        return new LoomPart(part, x, y, HeightOf(part), name, rows);
    }

    private double HeightOf(Part part) => 9 + (NameOf(part).Count * NameHeight) + (Ends(part).Count() * RowHeight);

    private IEnumerable<(TerminalAddress Address, string Terminal, Wire? Wire, string Joint)> Ends(Part part)
    {
        foreach (var terminal in part.Terminals)
        {
            var address = part.At(terminal);
            var ends = machine
                .Wires.SelectMany(w => new[] { (Wire: w, End: w.From), (Wire: w, End: w.To) })
                .Where(e => e.End.At == address)
                .ToList();
            for (var e = 0; e < Math.Max(1, ends.Count); e++)
            {
                yield return ends.Count == 0
                    ? (address, terminal.Text, null, "")
                    : (address, e == 0 ? terminal.Text : "", ends[e].Wire, ends[e].End.Joint);
            }
        }
    }

    private static List<string> NameOf(Part part)
    {
        var name = char.ToUpperInvariant(part.Name[0]) + part.Name[1..];
        var cut = name.Length <= LongestLine ? -1 : name.LastIndexOf(' ', LongestLine);
        return cut < 0 ? [name] : [name[..cut], name[(cut + 1)..]];
    }

    private static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
