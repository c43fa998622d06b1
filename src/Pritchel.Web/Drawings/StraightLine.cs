using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Web.Drawings;

/// <summary>A line laid out straight, in a circuit as it stands.</summary>
/// <param name="State">The circuit solved.</param>
/// <param name="Path">The line.</param>
/// <param name="IsKill">Whether it is the way from a kill terminal to its metal, which has no volts to tell at rest.</param>
public sealed record StraightLine(CircuitState State, LinePath Path, bool IsKill)
{
    /// <summary>Where it begins in the drawing.</summary>
    public const double Left = 40;

    /// <summary>Where it ends.</summary>
    public const double Right = 880;

    private readonly StandingVolts standing = new(State);

    /// <summary>Its pieces where they are drawn.</summary>
    public LineLayout Layout { get; } = new(State.Circuit, Path, Left, Right);

    /// <summary>Volts at a node; null where nothing steady stands there.</summary>
    public string? Volts(int node) => standing.Direct(node) is { } volts ? Engineering.Format(volts, "V") : null;

    /// <summary>Ohms of a piece as it stands; null where it has none of its own.</summary>
    public string? Ohms(LinePiece piece)
    {
        var branch = State.Circuit.BranchKeys.ToList().FindIndex(k => k.Of == piece.Of);
        return branch >= 0 && State.Conductances[branch] > 0
            ? Engineering.Format(1 / State.Conductances[branch], "Ω")
            : null;
    }
}
