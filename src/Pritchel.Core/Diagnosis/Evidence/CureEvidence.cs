using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>
/// How much it tells what cures did. One without effect makes what was renewed less likely and clears nothing. One that helped
/// partly or for a while raises what was disturbed on the way to it, its joints, plugs and mount, and convicts no single piece:
/// the part may have been good. Chances are judgement: common practice, no source.
/// </summary>
public sealed class CureEvidence
{
    // A new part may be bad, or put in badly.
    private const double FailsWhenNew = 0.15;

    private static readonly Chances Partly = new(Own: 0.5, Disturbed: 0.8, Elsewhere: 0.25, ComesAndGoes: 0.3);
    private static readonly Chances ForAWhile = new(Own: 0.3, Disturbed: 0.6, Elsewhere: 0.12, ComesAndGoes: 0.35);

    private readonly List<Tried> tried;

    /// <summary>Gathers what was tried on a machine.</summary>
    public CureEvidence(Circuit circuit, IEnumerable<CureTried> cures)
    {
        tried = [.. cures.Select(c => new Tried(c, Touched(circuit, c.Repair)))];
        OfUnknown = tried.Aggregate(
            1.0,
            (chance, t) => chance * (t.Cure.Effect == CureEffect.None ? 1 : Of(t.Cure.Effect).ComesAndGoes)
        );
    }

    /// <summary>Chance of it all with a cause that is not among the faults.</summary>
    public double OfUnknown { get; }

    /// <summary>Chance of it all with a fault; null for the sound machine.</summary>
    public double Of(Fault? fault) => tried.Aggregate(1.0, (chance, t) => chance * Of(t, fault));

    private static double Of(Tried tried, Fault? fault)
    {
        var own = fault?.Repair.Id == tried.Cure.Repair;
        if (tried.Cure.Effect == CureEffect.None)
        {
            return own ? FailsWhenNew : 1;
        }

        var chances = Of(tried.Cure.Effect);
        return fault is null ? chances.Elsewhere
            : own ? chances.Own
            : tried.Touched.Contains(fault.Nodes.From) || tried.Touched.Contains(fault.Nodes.To) ? chances.Disturbed
            : fault.ComesAndGoes ? chances.ComesAndGoes
            : chances.Elsewhere;
    }

    private static Chances Of(CureEffect effect) => effect == CureEffect.Partly ? Partly : ForAWhile;

    /// <summary>Nodes of what a repair takes in hand: common ground left out, which everything meets.</summary>
    private static HashSet<int> Touched(Circuit circuit, RepairId repair)
    {
        var faults = circuit.Faults.Where(f => f.Repair.Id == repair).ToList();
        var parts = faults.Select(f => f.Id.Of.Owner.Part).OfType<PartId>().Distinct();
        var touched = faults.SelectMany(f => new[] { f.Nodes.From, f.Nodes.To }).ToHashSet();
        touched.UnionWith(
            parts.SelectMany(p => circuit.Machine.Index.Part(p)!.Addresses).Select(a => circuit.NodeOf(a))
        );
        touched.Remove(circuit.Reference);
        return touched;
    }

    private sealed record Tried(CureTried Cure, HashSet<int> Touched);

    private sealed record Chances(double Own, double Disturbed, double Elsewhere, double ComesAndGoes);
}
