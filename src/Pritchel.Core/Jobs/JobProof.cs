using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Proving;

namespace Pritchel.Core.Jobs;

/// <summary>A check with how it stands.</summary>
/// <param name="Check">The check.</param>
/// <param name="Running">Times running it has passed.</param>
/// <param name="Tried">Whether it has been tried at all.</param>
public sealed record StandingCheck(ProofCheck Check, int Running, bool Tried)
{
    /// <summary>Whether it has passed often enough.</summary>
    public bool Passed => Running >= Check.Times;
}

/// <summary>What a job must show before it is proved, and how far it is.</summary>
/// <param name="Checks">Checks, in the order in which they are made.</param>
/// <param name="AllStopsTried">Whether every combination of controls was looked at for kill paths.</param>
/// <param name="BypassesOpen">Bypasses left in.</param>
public sealed record JobProof(IReadOnlyList<StandingCheck> Checks, bool AllStopsTried, int BypassesOpen)
{
    /// <summary>Whether everything passed and no bypass is left.</summary>
    public bool Proved => BypassesOpen == 0 && Checks.All(c => c.Passed);

    /// <summary>What a job must show.</summary>
    public static JobProof Of(JobDiagnosis diagnosis)
    {
        var (state, table) = (diagnosis.State, diagnosis.Kit.Table);
        var failed = diagnosis
            .Readings.Where(r => r.Agrees != true)
            .GroupBy(r => r.At)
            .Select(g => g.Last().Taken.At)
            .Concat(diagnosis.BeforeRepair.Select(r => r.Reading.At))
            .Distinct()
            .Select(at => new ReadingCheck(at.Condition, at.Red, at.Black))
            .ToList();
        var plan = ProofPlan.Of(
            table,
            state.Complaint!,
            failed,
            diagnosis.Beliefs.SideEvidence.WiggleEvidence.Tried.Where(w => w.Changed)
        );
        return new JobProof(
            [
                .. plan.Checks.Select(c => new StandingCheck(
                    c,
                    Proof.PassedRunning(c, [.. state.Proofs.Select(p => (p.Check, p.Passed))]),
                    state.Proofs.Any(p => p.Check == c.Id)
                )),
            ],
            plan.AllStopsTried,
            state.OpenBypasses.Count
        );
    }

    /// <summary>Where the reading that a check repeats is taken; null when it repeats none.</summary>
    public static ProbePair? PairOf(DiagnosisKit kit, CheckId check) =>
        check is ReadingCheck reading ? kit.Pair(AtOf(reading)) : null;

    /// <summary>Whether a reading taken again shows the machine mended.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="at">Where it was taken.</param>
    /// <param name="read">What was read, on the scale of what is read there.</param>
    public static bool Passes(Beliefs beliefs, ProbePair at, double read) => Staircase.Mended(beliefs, at).Agrees(read);

    /// <summary>Where the reading of a check is taken, as it is recorded.</summary>
    public static ProbedAt AtOf(ReadingCheck reading) => new(reading.Condition, reading.Red, reading.Black);
}
