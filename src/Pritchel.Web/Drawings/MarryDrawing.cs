using Pritchel.Core.Rewiring;
using Pritchel.Workshop;

namespace Pritchel.Web.Drawings;

/// <summary>Loose ends of two sides face to face, with the joins between them: every measure in the drawing's own units.</summary>
public sealed record MarryDrawing
{
    /// <summary>Width of the whole.</summary>
    public const double Width = 860;

    /// <summary>Where the left column of flags stands.</summary>
    public const double Left = 268;

    /// <summary>Where the right one stands.</summary>
    public const double Right = Width - Left;

    private const double Top = 44;
    private const double Step = 46;
    private const double Ashore = 84;

    // What a lone side shows of the other half: stubs, sleeves and what they land on.
    private const double Beyond = 90;

    /// <summary>Whether ends stand on one side only.</summary>
    public bool IsHalf => Hosts.Count == 0 || Donors.Count == 0;

    /// <summary>Left edge and width of what is drawn: half, where ends stand on one side only.</summary>
    public (double Left, double Width) View =>
        !IsHalf ? (0, Width)
        : Hosts.Count == 0 ? ((Width / 2) - Beyond, (Width / 2) + Beyond)
        : (0, (Width / 2) + Beyond);

    /// <summary>Its height.</summary>
    public required double Height { get; init; }

    /// <summary>Ends on the left, with where they stand.</summary>
    public required IReadOnlyList<(FlaggedEnd End, double Y)> Hosts { get; init; }

    /// <summary>Ends on the right.</summary>
    public required IReadOnlyList<(FlaggedEnd End, double Y)> Donors { get; init; }

    /// <summary>Joins: number, where its sleeve lies, the ends that meet there, what it lands on, whether something is gravely wrong.</summary>
    public required IReadOnlyList<MarryJoin> Joins { get; init; }

    /// <summary>The drawing of a rewire. Without a donor, its ends stand in two columns by turns.</summary>
    public static MarryDrawing Of(OpenRewire open)
    {
        var hosts = open.Ends.Where(e => e.End.Side == SideKey.Host).ToList();
        var donors = open.Ends.Where(e => e.End.Side == SideKey.Donor).ToList();
        if (open.Plan.Donor is null)
        {
            donors = [.. hosts.Where((_, i) => i % 2 == 1)];
            hosts = [.. hosts.Where((_, i) => i % 2 == 0)];
        }

        static List<(FlaggedEnd End, double Y)> Placed(List<FlaggedEnd> ends) =>
            [.. ends.Select((e, i) => (e, Top + (Step * i)))];
        var (left, right) = (Placed(hosts), Placed(donors));
        var places = left.Select(e => (e.End.End, X: Left, e.Y))
            .Concat(right.Select(e => (e.End.End, X: Right, e.Y)))
            .ToDictionary(e => e.End, e => (e.X, e.Y));
        var flags = open.Flags;
        var lines = open.Lines;
        var joins = lines.Select(line =>
        {
            var meets = line.Ends.Select(e => (End: e, At: places[e.End])).ToList();
            var y = meets.Average(m => m.At.Y);
            // What lands on metal or a stud lies nearer to its own side: another may land the other way in the same row.
            var x =
                (Width / 2)
                + (
                    line.Onto is null ? (line.Number % 3 - 1) * 44
                    : meets[0].At.X < Width / 2 ? -Ashore
                    : Ashore
                );
            return new MarryJoin(
                line.Number,
                x,
                y,
                meets,
                line.Join.Onto is { } onto ? $"{onto.PartIn(open.Plan)?.Name} {onto.At.Terminal}" : null,
                flags.Any(f => f.Grave && f.Join is { } join && join.Ends.SequenceEqual(line.Join.Ends))
            );
        });
        return new MarryDrawing
        {
            Hosts = left,
            Donors = right,
            Joins = [.. joins],
            Height = Top + (Step * Math.Max(1, Math.Max(left.Count, right.Count))),
        };
    }
}

/// <summary>A join as drawn.</summary>
/// <param name="Number">Its number.</param>
/// <param name="X">Where its sleeve lies.</param>
/// <param name="Y">The same, down.</param>
/// <param name="Ends">Ends that meet there, with where they come from.</param>
/// <param name="Onto">What it lands on; null for nothing.</param>
/// <param name="Wrong">Whether something is gravely wrong with it.</param>
public sealed record MarryJoin(
    int Number,
    double X,
    double Y,
    IReadOnlyList<(FlaggedEnd End, (double X, double Y) At)> Ends,
    string? Onto,
    bool Wrong
);
