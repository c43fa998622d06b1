using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// What need not be looked at for a complaint: parts and wires of which no single fault, however bad, keeps the duty from
/// being done.
/// </summary>
/// <param name="Parts">The parts, in the order of the machine's file.</param>
/// <param name="Wires">The wires.</param>
public sealed record LeftAlone(IReadOnlyList<Part> Parts, IReadOnlyList<Wire> Wires)
{
    /// <summary>What a duty leaves alone, by its predictions; nothing where no single fault gives the complaint.</summary>
    public static LeftAlone Of(PredictionTable table)
    {
        var machine = table.Circuit.Machine;
        var can = table.Circuit.Faults.Select(f => Owner(f.Id)).ToHashSet(StringComparer.Ordinal);
        var doubted = table
            .Hypotheses.Where(h => h is { HasPredictions: true, Fault: not null })
            .Select(h => Owner(h.Fault!.Id))
            .ToHashSet(StringComparer.Ordinal);
        return doubted.Count == 0
            ? new LeftAlone([], [])
            : new LeftAlone(
                [.. machine.Parts.Where(p => can.Contains(p.Id) && !doubted.Contains(p.Id))],
                [.. machine.Wires.Where(w => can.Contains(w.Id) && !doubted.Contains(w.Id))]
            );
    }

    /// <summary>Part or wire that a fault lies in: its id leads the fault's, up to an end or a place within.</summary>
    private static string Owner(string fault) => fault.Split('/', '@')[0];
}
