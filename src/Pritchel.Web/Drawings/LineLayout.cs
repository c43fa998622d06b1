using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

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

    /// <summary>A box with its contact.</summary>
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
)
{
    /// <summary>Whether a contact is open as it is drawn.</summary>
    public bool IsOpen { get; init; }
}

/// <summary>A line's pieces measured out from left to right.</summary>
public sealed class LineLayout
{
    private readonly Circuit circuit;
    private readonly LinePath path;
    private readonly CircuitState? stands;
    private readonly double left;
    private readonly double right;
    private readonly Dictionary<int, double> nodeX = [];

    /// <summary>Lays a line out between two edges.</summary>
    /// <param name="circuit">The circuit.</param>
    /// <param name="path">The line.</param>
    /// <param name="left">Where it begins.</param>
    /// <param name="right">Where it ends.</param>
    /// <param name="stands">How contacts stand, where that is otherwise than the line was followed in; null for closed.</param>
    public LineLayout(Circuit circuit, LinePath path, double left, double right, CircuitState? stands = null)
    {
        (this.circuit, this.path, this.left, this.right, this.stands) = (circuit, path, left, right, stands);
        Pieces = LayOut();
    }

    /// <summary>Pieces from left to right.</summary>
    public IReadOnlyList<DrawnPiece> Pieces { get; }

    /// <summary>X of a node, or null when it is not on this line.</summary>
    public double? X(int node) => nodeX.TryGetValue(node, out var x) ? x : null;

    private List<DrawnPiece> LayOut()
    {
        if (path.Pieces.Count == 0)
        {
            return [];
        }

        var shapes = path.Pieces.Select(p => (Piece: p, Kind: ShapeOf(p))).ToList();
        var natural = Stretched([.. shapes.Select(s => (s.Kind, NaturalWidth(s.Kind)))]);
        var x = left;
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
    private List<double> Stretched(IReadOnlyList<(PieceShape Kind, double Width)> pieces)
    {
        const double MostScale = 1.25;
        var scale = Math.Min(MostScale, (right - left) / pieces.Sum(p => p.Width));
        var slack = right - left - (scale * pieces.Sum(p => p.Width));
        var wires = pieces.Count(p => p.Kind == PieceShape.Wire);
        return [.. pieces.Select(p => (p.Width * scale) + (p.Kind == PieceShape.Wire ? slack / wires : 0))];
    }

    private DrawnPiece Draw(LinePiece piece, PieceShape shape, double x, double width)
    {
        var (machine, owner) = (circuit.Machine, piece.Of.Owner);
        if (owner.Wire is { } its && machine.Index.Wire(its) is { } wire)
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
                owner.Mount is { } mount ? machine.Index.Mount(mount)!.Name : owner.Text,
                "",
                "",
                "",
                null
            );
        }

        var part = machine.Index.Part(owner.Part!.Value)!;
        if (shape == PieceShape.Coupling)
        {
            var cavity = piece.Of.Name;
            return new(shape, x, width, [], $"{part.Name}, cavity {cavity}", $"{part.Id}·{cavity}", "", "", null);
        }

        return new(
            shape,
            x,
            width,
            [.. Capitalised(part.Name).Split(' ', 2)],
            part.Name,
            MachineWords.Letter(TerminalOn(piece.From, part)),
            MachineWords.Letter(TerminalOn(piece.To, part)),
            "",
            null
        )
        {
            IsOpen = shape == PieceShape.Contact && stands is not null && !piece.Conducts(stands),
        };
    }

    private TerminalId TerminalOn(int node, Part part) =>
        circuit.NodePoints[node].Select(p => p.Terminal).FirstOrDefault(t => t?.Part == part.Id)?.Terminal
        ?? new TerminalId("");

    private PieceShape ShapeOf(LinePiece piece) =>
        piece.Role switch
        {
            BranchRole.Conductor => PieceShape.Wire,
            BranchRole.Joint => PieceShape.Joint,
            BranchRole.Cavity => PieceShape.Coupling,
            BranchRole.Contact => PieceShape.Contact,
            _ when piece.Of.Owner.Part is null => PieceShape.Mount,
            _ when circuit.Is(piece.Of.Owner.Part!.Value, PartTraits.IsSwitched | PartTraits.PullsOut) =>
                PieceShape.Contact,
            _ => PieceShape.Winding,
        };

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
