using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Proving;

/// <summary>All that has to be proved of a repair, in the order in which it is done.</summary>
/// <param name="Checks">The checks.</param>
/// <param name="AllStopsTried">Whether every combination of controls was looked at for kill paths.</param>
public sealed record ProofPlan(IReadOnlyList<ProofCheck> Checks, bool AllStopsTried)
{
    private const int MostReadingsAgain = 2;

    /// <summary>What has to be proved after a complaint.</summary>
    /// <param name="table">Its duty, in the setting it failed in.</param>
    /// <param name="complaint">How often it failed.</param>
    /// <param name="failed">Readings that a sound machine would not have shown, last of each place, first to last.</param>
    /// <param name="changed">What made it come or go.</param>
    public static ProofPlan Of(
        PredictionTable table,
        Complaint complaint,
        IReadOnlyList<ReadingCheck> failed,
        IEnumerable<Wiggle> changed
    )
    {
        var checks = new List<ProofCheck>();
        checks.AddRange(failed.TakeLast(MostReadingsAgain).Select(r => new ProofCheck(r)));
        checks.AddRange(
            changed.Select(w => new ProofCheck(new WiggleCheck(w.Reach.Place.Id, w.Reach.Alone?.Id, w.By)))
        );
        checks.Add(new ProofCheck(new RepeatsCheck(), Proof.CleanTriesNeeded(complaint.Failed, complaint.Tried)));
        var (circuit, duty) = (table.Circuit, table.Duty);
        if (IsInterlocked(table))
        {
            checks.AddRange(
                Proof
                    .Refusals(circuit, table.Conditions[0].Setting, duty.Load, duty.Speed)
                    .Select(s => new ProofCheck(new RefusalCheck(s.Named(circuit.Machine), duty.Speed)))
            );
        }

        var kills = Proof.KillPaths(circuit);
        checks.AddRange(kills.Settings.Select(s => new ProofCheck(new StopCheck(s.Named(circuit.Machine)))));
        return new ProofPlan(checks, kills.AllTried);
    }

    /// <summary>Whether the duty must be refused where its interlocks say so: what turns or works, not what charges or sparks.</summary>
    private static bool IsInterlocked(PredictionTable table) =>
        !table.Duty.Refuses && table.Effect is EffectKind.Turns or EffectKind.Works;
}
