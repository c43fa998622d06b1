using System.Collections.Concurrent;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <content>The sound machine whose load draws nothing.</content>
public sealed partial class PredictionTable
{
    private readonly ConcurrentDictionary<PartId, Hypothesis> opened = new();

    /// <summary>
    /// The sound machine while its load draws nothing (a starter that is not turning): what wiring looks like that is
    /// good up to where it stops. A battery that is not charged is no such load: without it the wiring is dead, not idle.
    /// </summary>
    public Hypothesis Idle => OpenIn(Duty.Load);

    /// <summary>The sound machine while not even the part that commands draws anything: wiring with no current in it.</summary>
    public Hypothesis Unloaded => Duty.Control is { } control ? OpenIn(control) : Idle;

    /// <summary>
    /// The sound machine with a part drawing nothing: as its one winding open leaves it, and where several meet at a post (pull-in and
    /// hold) with all of them open; looked for, and solved, when it is first asked for.
    /// </summary>
    private Hypothesis OpenIn(PartId part) => opened.GetOrAdd(part, FindOpenIn);

    private Hypothesis FindOpenIn(PartId part)
    {
        bool IsOpen(Fault? fault) => fault is { Kind: FaultKind.Open } && fault.Repair.Id == RepairId.OfPart(part);
        if (
            Circuit.PartsThat(PartTraits.StoresCharge).Any(p => p.Id == part)
            || Hypotheses.FirstOrDefault(h => h.HasPredictions && IsOpen(h.Fault)) is not { Fault: { } first } open
        )
        {
            return Healthy;
        }

        var windings = Circuit.Faults.Where(f => IsOpen(f) && Meet(f.Nodes, first.Nodes)).ToList();
        return windings.Count < 2 ? open : AllOpen(first, windings);
    }

    private static bool Meet((int From, int To) one, (int From, int To) other) =>
        one.From == other.From || one.From == other.To || one.To == other.From || one.To == other.To;

    private Hypothesis AllOpen(Fault first, IEnumerable<Fault> windings)
    {
        var all = first with { Changes = [.. windings.SelectMany(w => w.Changes)] };
        return new CaseRunner(this, Circuit, DutyWaves.BeliefTolerance)
            .Planted(all, draws ??= new ParticleDraws(Circuit, Particles, Seed))
            .Pack(Healthy, new ConcurrentDictionary<float, float[]>());
    }
}
