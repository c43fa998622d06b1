using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

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
        var can = table.Circuit.Faults.Select(f => f.Id.Of.Owner).ToHashSet();
        var doubted = table
            .Hypotheses.Where(h => h is { HasPredictions: true, Fault: not null })
            .Select(h => h.Fault!.Id.Of.Owner)
            .ToHashSet();
        return doubted.Count == 0
            ? new LeftAlone([], [])
            : new LeftAlone(
                [.. machine.Parts.Where(p => Alone(Owner.Of(p.Id)))],
                [
                    .. machine.Wires.Where(w =>
                        can.Contains(Owner.Of(w.Id))
                        && new[] { Owner.Of(w.Id), Owner.Of(w.Id.From), Owner.Of(w.Id.To) }.All(o =>
                            !doubted.Contains(o)
                        )
                    ),
                ]
            );
        bool Alone(Owner owner) => can.Contains(owner) && !doubted.Contains(owner);
    }
}
