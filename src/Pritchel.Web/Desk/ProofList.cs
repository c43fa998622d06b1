using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;
using Pritchel.Web.Pages.Machines.Making;

namespace Pritchel.Web.Desk;

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
public static class ProofList
{
    /// <summary>Checks of a job, in order.</summary>
    public static IReadOnlyList<StandingCheck> Of(OpenJob open)
    {
        var given = open.State.Proofs;
        return
        [
            .. Checks(open)
                .Select(c => new StandingCheck(
                    c,
                    Proof.PassedRunning(c, given),
                    given.Any(g => string.Equals(g.Check, c.Id, StringComparison.Ordinal))
                )),
        ];
    }

    /// <summary>The reading a check repeats.</summary>
    public static ProbePair? PairOf(OpenJob open, string checkId) =>
        FailedReadings(open)
            .Select(r => (ProbePair?)r.At)
            .FirstOrDefault(at => string.Equals(ReadingId(at!.Value), checkId, StringComparison.Ordinal));

    private static IEnumerable<ProofCheck> Checks(OpenJob open)
    {
        var (machine, table) = (open.Machine, open.Kit.Table);
        foreach (var failed in FailedReadings(open))
        {
            var sound = Staircase.Sound(open.Diagnosis.Beliefs, failed.At);
            var test = open.Kit.Plan.Plan(failed.At, open.Diagnosis.Situation, 0);
            yield return new ProofCheck(
                ReadingId(failed.At),
                ProofKind.Reading,
                TestWords.Title(test, open.Kit),
                $"black on {test.Black.Name} · {test.Condition.Words} · read {TestWords.Typed(failed.Taken)} before; now {TestWords.Range(sound.Quantity, sound.WorkingLow, sound.WorkingHigh)}",
                1
            );
        }

        foreach (var stirred in open.Diagnosis.Beliefs.SideEvidence.WiggleEvidence.Tried.Where(p => p.Changed))
        {
            yield return new ProofCheck(
                "stir:" + WiggleWords.Key(stirred.Reach, stirred.By),
                ProofKind.Stirred,
                WiggleWords.Title(stirred.Reach, stirred.By),
                "it came or went before; now nothing may change",
                1
            );
        }

        var complaint = open.State.Complaint!;
        var times = Proof.CleanTriesNeeded(complaint.Failed, complaint.Tried);
        var duty = table.Duty;
        yield return new ProofCheck(
            "repeats",
            ProofKind.Repeats,
            $"{duty.Name} with {table.Conditions[0].Words}",
            $"{times} clean {(times == 1 ? "try" : "tries")} running: fewer could be luck (5 % doubt)",
            times
        );
        foreach (
            var refusal in !Interlocked(open)
                ? []
                : Proof.Refusals(open.Circuit, table.Conditions[0].Setting, duty.Load, duty.Speed)
        )
        {
            var turned = duty.Speed == DutySpeed.Rest ? "" : " · " + Conditions.SpeedWords(duty.Speed);
            var words = refusal.AllWords(machine) + turned;
            yield return new ProofCheck("not:" + words, ProofKind.MustNot, words, DutyWords.Forbidden(duty), 1);
        }

        foreach (var path in Proof.KillPaths(open.Circuit))
        {
            var words = path.AllWords(machine);
            yield return new ProofCheck(
                "stop:" + words,
                ProofKind.Stops,
                $"Running, then {words}",
                "the engine must stop",
                1
            );
        }
    }

    /// <summary>The last reading at each place that a sound machine would not have shown.</summary>
    private static IEnumerable<JudgedReading> FailedReadings(OpenJob open) =>
        open.Diagnosis.Readings.Where(r => r.Agrees != true).GroupBy(r => r.At).Select(g => g.Last()).TakeLast(2);

    /// <summary>Whether the duty must be refused where its interlocks say so: what turns or works, not what charges or sparks.</summary>
    private static bool Interlocked(OpenJob open) =>
        !open.Kit.Table.Duty.Refuses && open.Kit.Table.Effect is EffectKind.Turns or EffectKind.Works;

    private static string ReadingId(ProbePair at) => $"reading:{at.Condition}:{at.Red}:{at.Black}";
}
