using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Drawings;

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
    private readonly LineLayout layout;

    private LineDrawing(OpenJobView view, LinePath path, int condition)
    {
        this.view = view;
        (Path, Condition) = (path, condition);
        layout = new LineLayout(view.Diagnosis.Kit.Circuit, path, Left, Right, condition == 0 ? null : Stands());
        Steps = Staircase.Of(view.Diagnosis.Beliefs, path, condition);
    }

    /// <summary>The line.</summary>
    public LinePath Path { get; }

    /// <summary>Number of the condition it is drawn in.</summary>
    public int Condition { get; }

    /// <summary>Pieces from left to right.</summary>
    public IReadOnlyList<DrawnPiece> Pieces => layout.Pieces;

    /// <summary>Volts along it.</summary>
    public IReadOnlyList<Step> Steps { get; }

    /// <summary>Top of the volts scale.</summary>
    public double MostVolts => Math.Ceiling(Math.Max(13, Steps.Max(s => s.High)));

    /// <summary>X of a node, or null when it is not on this line.</summary>
    public double? X(int node) => layout.X(node);

    /// <summary>
    /// Draws the line of a job as it stands in a test where that reads volts which are known all along it; as the duty fails where not.
    /// </summary>
    /// <param name="view">The job.</param>
    /// <param name="path">The line.</param>
    /// <param name="test">The test; null for none.</param>
    public static LineDrawing Of(OpenJobView view, LinePath path, PlannedTest? test)
    {
        var asTested = test is { Condition: { IsFree: true, Observable: DirectVolts }, At.Condition: > 0 }
            ? new LineDrawing(view, path, test.At.Condition)
            : null;
        return asTested?.Steps.All(s => double.IsFinite(s.Low + s.Middle + s.High + s.Suspected)) == true
            ? asTested
            : new LineDrawing(view, path, 0);
    }

    /// <summary>Readings taken in the setting drawn against a ground, at points on this line.</summary>
    public IEnumerable<DrawnReading> Readings()
    {
        var grounds = view.Diagnosis.Kit.Points.Grounds.Select(g => g.Node).ToHashSet();
        foreach (var reading in view.Diagnosis.Readings)
        {
            if (
                reading.At.Condition == Condition
                && grounds.Contains(reading.At.Black)
                && X(reading.At.Red) is { } x
                && reading.Taken.Figure is { } volts
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

    /// <summary>How the sound machine's contacts stand in the condition drawn.</summary>
    private CircuitState Stands()
    {
        var kit = view.Diagnosis.Kit;
        var state = new CircuitState(kit.Circuit);
        state.Begin(kit.Circuit.NominalParameters());
        state.Move(kit.Table.Conditions[Condition].Setting);
        return state;
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
}
