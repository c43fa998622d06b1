using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>
/// Which faults can matter to a duty whose waves take long to follow: those that sit in what carries a fair share of the
/// sound machine's current there, or that lay a path from it. The rest are not solved one by one.
/// </summary>
internal static class Relevance
{
    private const double FairShare = 0.02;

    public static IEnumerable<Fault> Of(Circuit circuit, Duty duty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.SetSpeeds(duty.Speed);

        state.MoveThrough(duty);
        var amps = circuit
            .Network.Branches.Select((b, i) => (b.From, b.To, Amps: Carries(state, i)))
            .Where(b => double.IsFinite(b.Amps))
            .ToList();
        var fair = FairShare * OwnAmps(circuit, duty.Load, amps);
        var carrying = amps.Where(b => b.Amps >= fair).ToList();
        var pairs = carrying.SelectMany(b => new[] { (b.From, b.To), (b.To, b.From) }).ToHashSet();
        var touched = carrying.SelectMany(b => new[] { b.From, b.To }).ToHashSet();
        return circuit.Faults.Where(f =>
            f.Paths.Count > 0
                ? touched.Contains(f.Nodes.From) && (f.Kind != FaultKind.Chafed || !IsGround(circuit, f.Nodes.From))
                : LetsThrough(f.Kind)
                    && (duty.Refuses || touched.Contains(f.Nodes.From) || touched.Contains(f.Nodes.To))
                    || pairs.Contains(f.Nodes)
                    || !amps.Exists(b => (b.From, b.To) == f.Nodes || (b.To, b.From) == f.Nodes)
        );
    }

    /// <summary>Whether a fault lets through what the sound machine holds back: no current marks its place.</summary>
    private static bool LetsThrough(FaultKind kind) =>
        kind is FaultKind.StuckClosed or FaultKind.Overcharging or FaultKind.ShortedToNeighbour or FaultKind.WrongPart;

    /// <summary>Most that flows in any branch at the load's terminals.</summary>
    private static double OwnAmps(Circuit circuit, PartId load, List<(int From, int To, double Amps)> amps)
    {
        var part = circuit.Machine.Index.Part(load)!;
        var own = part.Addresses.Select(a => circuit.NodeOf(a)).ToHashSet();
        return amps.Where(b => own.Contains(b.From) || own.Contains(b.To)).Select(b => b.Amps).DefaultIfEmpty(0).Max();
    }

    /// <summary>Effective amps in a branch, the alternating ones included.</summary>
    private static double Carries(CircuitState state, int branch) =>
        state.Heating(new BranchId(branch)) * state.Conductances[branch];

    private static bool IsGround(Circuit circuit, int node) =>
        circuit.TerminalsAt(node).Any(a => circuit.Is(a.Part, PartTraits.IsMetal));
}
