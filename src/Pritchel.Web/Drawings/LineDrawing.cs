using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;

namespace Pritchel.Web.Drawings;

/// <summary>What a piece of a line is drawn as.</summary>
public enum PieceShape
{
    /// <summary>A coloured band.</summary>
    Wire,

    /// <summary>A push-on, ring or crimp.</summary>
    Joint,

    /// <summary>Two halves facing.</summary>
    Coupling,

    /// <summary>A box with its contact closed.</summary>
    Contact,

    /// <summary>A box with a winding.</summary>
    Winding,

    /// <summary>Metal on metal.</summary>
    Mount,
}

/// <summary>One piece as drawn.</summary>
/// <param name="Shape">Shape.</param>
/// <param name="X">Left edge.</param>
/// <param name="Width">Width.</param>
/// <param name="Label">Two lines at most, above; may be empty.</param>
/// <param name="Title">Full words, on hovering and for screen readers.</param>
/// <param name="Left">Terminal letter under its left end.</param>
/// <param name="Right">Terminal letter under its right end.</param>
/// <param name="Paint">Base colour of a wire.</param>
/// <param name="Tracer">Tracer colour, or null.</param>
public sealed record DrawnPiece(
    PieceShape Shape,
    double X,
    double Width,
    IReadOnlyList<string> Label,
    string Title,
    string Left,
    string Right,
    string Paint,
    string? Tracer
);

/// <summary>A reading as drawn on the staircase.</summary>
/// <param name="X">Place.</param>
/// <param name="Volts">Volts above battery negative.</param>
/// <param name="Agrees">Whether a sound machine would read so.</param>
/// <param name="Title">In words.</param>
public sealed record DrawnReading(double X, double Volts, bool Agrees, string Title);

/// <summary>Where suspicion lies.</summary>
/// <param name="X">Left edge.</param>
/// <param name="Width">Width.</param>
/// <param name="Share">How much.</param>
public sealed record DrawnSuspicion(double X, double Width, double Share);

/// <summary>A line and its staircase, measured out for drawing 640 wide.</summary>
public sealed class LineDrawing
{
    /// <summary>Width of the drawing.</summary>
    public const double Width = 640;

    /// <summary>Where the line begins.</summary>
    public const double Left = 46;

    /// <summary>Where the line ends.</summary>
    public const double Right = 622;

    private readonly OpenJobView view;
    private readonly Dictionary<int, double> nodeX = [];

    private LineDrawing(OpenJobView view, LinePath path)
    {
        this.view = view;
        Path = path;
        Pieces = LayOut();
        Steps = Staircase.Of(view.Diagnosis.Beliefs, path, 0);
    }

    /// <summary>The line.</summary>
    public LinePath Path { get; }

    /// <summary>Pieces from left to right.</summary>
    public IReadOnlyList<DrawnPiece> Pieces { get; }

    /// <summary>Volts along it.</summary>
    public IReadOnlyList<Step> Steps { get; }

    /// <summary>Top of the volts scale.</summary>
    public double MostVolts => Math.Ceiling(Math.Max(13, Steps.Max(s => s.High)));

    /// <summary>X of a node, or null when it is not on this line.</summary>
    public double? X(int node) => nodeX.TryGetValue(node, out var x) ? x : null;

    /// <summary>Draws the line of a job.</summary>
    public static LineDrawing Of(OpenJobView view, LinePath path) => new(view, path);

    /// <summary>Readings taken in the duty's own setting against a ground, at points on this line.</summary>
    public IEnumerable<DrawnReading> Readings()
    {
        var grounds = view.Diagnosis.Kit.Points.Grounds.Select(g => g.Node).ToHashSet();
        foreach (var reading in view.Diagnosis.Readings)
        {
            if (
                reading.At.Condition == 0
                && grounds.Contains(reading.At.Black)
                && X(reading.At.Red) is { } x
                && reading.Taken.Volts is { } volts
            )
            {
                yield return new DrawnReading(
                    x,
                    volts,
                    reading.Agrees == true,
                    $"{view.PointName(reading.At.Red)}: {reading.Taken.Typed} V"
                );
            }
        }
    }

    /// <summary>Suspicion on this line, from the faults that sit on it.</summary>
    public IEnumerable<DrawnSuspicion> Suspicions()
    {
        const double LeastShare = 0.03;
        const double LeastWidth = 12;
        var beliefs = view.Diagnosis.Beliefs;
        return beliefs
            .Table.Hypotheses.Select((h, i) => (h.Fault, Share: beliefs.Share(i)))
            .Where(x => x.Fault is not null && X(x.Fault.Nodes.From) is not null && X(x.Fault.Nodes.To) is not null)
            .GroupBy(x => x.Fault!.Nodes)
            .Select(g => (From: X(g.Key.From)!.Value, To: X(g.Key.To)!.Value, Share: g.Sum(x => x.Share)))
            .Where(x => x.Share > LeastShare)
            .Select(x =>
            {
                var width = Math.Max(LeastWidth, Math.Abs(x.To - x.From));
                return new DrawnSuspicion(((x.From + x.To) / 2) - (width / 2), width, x.Share);
            });
    }

    private List<DrawnPiece> LayOut()
    {
        var shapes = Path.Pieces.Select(p => (Piece: p, Kind: ShapeOf(p))).ToList();
        var natural = Stretched([.. shapes.Select(s => (s.Kind, NaturalWidth(s.Kind)))]);
        var x = Left;
        var drawn = new List<DrawnPiece>();
        for (var i = 0; i < shapes.Count; i++)
        {
            var width = natural[i];
            nodeX.TryAdd(shapes[i].Piece.From, x);
            drawn.Add(Draw(shapes[i].Piece, shapes[i].Kind, x, width));
            x += width;
            nodeX.TryAdd(shapes[i].Piece.To, x);
        }

        return drawn;
    }

    /// <summary>Widths that fill the line. On a short line the wires take the slack, so that boxes keep their shape.</summary>
    private static List<double> Stretched(IReadOnlyList<(PieceShape Kind, double Width)> pieces)
    {
        const double MostScale = 1.25;
        var scale = Math.Min(MostScale, (Right - Left) / pieces.Sum(p => p.Width));
        var slack = Right - Left - (scale * pieces.Sum(p => p.Width));
        var wires = pieces.Count(p => p.Kind == PieceShape.Wire);
        return [.. pieces.Select(p => (p.Width * scale) + (p.Kind == PieceShape.Wire ? slack / wires : 0))];
    }

    private DrawnPiece Draw(LinePiece piece, PieceShape shape, double x, double width)
    {
        var name = piece.Name.Split('/', '@')[0];
        var machine = view.Machine;
        if (machine.Wires.FirstOrDefault(w => string.Equals(w.Id, name, StringComparison.Ordinal)) is { } wire)
        {
            var title =
                shape == PieceShape.Joint
                    ? "joint, " + MachineWords.WireRun(machine, wire)
                    : MachineWords.WireRun(machine, wire);
            return new(
                shape,
                x,
                width,
                [],
                title,
                "",
                "",
                WirePaint.Of(wire.Colours[0]),
                wire.Colours.Count > 1 ? WirePaint.Of(wire.Colours[1]) : null
            );
        }

        if (shape == PieceShape.Mount)
        {
            return new(
                shape,
                x,
                width,
                [],
                machine.Mounts.First(m => string.Equals(m.Id, name, StringComparison.Ordinal)).Name,
                "",
                "",
                "",
                null
            );
        }

        var part = machine.Parts.First(p => string.Equals(p.Id, name, StringComparison.Ordinal));
        if (shape == PieceShape.Coupling)
        {
            var cavity = piece.Name.Split('/')[^1];
            return new(shape, x, width, [], $"{part.Name}, cavity {cavity}", $"{part.Id}·{cavity}", "", "", null);
        }

        return new(
            shape,
            x,
            width,
            [.. Capitalised(part.Name).Split(' ', 2)],
            part.Name,
            MachineWords.Letter(TerminalOn(piece.From, part)),
            TerminalOn(piece.To, part),
            "",
            null
        );
    }

    private string TerminalOn(int node, Part part)
    {
        var address = view
            .Diagnosis.Kit.Circuit.NodeAddresses[node]
            .FirstOrDefault(a => a.StartsWith(part.Id + ".", StringComparison.Ordinal));
        return address is null ? "" : MachineWords.Split(address).Terminal;
    }

    private PieceShape ShapeOf(LinePiece piece)
    {
        var name = piece.Name.Split('/', '@')[0];
        if (view.Machine.Wires.Any(w => string.Equals(w.Id, name, StringComparison.Ordinal)))
        {
            return piece.Name.EndsWith("/joint", StringComparison.Ordinal) ? PieceShape.Joint : PieceShape.Wire;
        }

        var part = view.Machine.Parts.FirstOrDefault(p => string.Equals(p.Id, name, StringComparison.Ordinal));
        return part switch
        {
            null => PieceShape.Mount,
            { Kind: PartKinds.Coupling } => PieceShape.Coupling,
            { Kind: PartKinds.Switch or PartKinds.Fuse } => PieceShape.Contact,
            _ when piece.Name.EndsWith("/contact", StringComparison.Ordinal) => PieceShape.Contact,
            _ => PieceShape.Winding,
        };
    }

    private static double NaturalWidth(PieceShape shape) =>
        shape switch
        {
            PieceShape.Wire => 19,
            PieceShape.Joint => 4,
            PieceShape.Coupling => 15,
            PieceShape.Mount => 8,
            _ => 48,
        };

    private static string Capitalised(string text) => char.ToUpperInvariant(text[0]) + text[1..];
}
