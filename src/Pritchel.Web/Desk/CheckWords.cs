using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>How checks of a proof are said.</summary>
public static class CheckWords
{
    /// <summary>Heading over checks of one kind.</summary>
    public static string Heading(CheckId check) =>
        check switch
        {
            ReadingCheck => "The reading that failed, again",
            WiggleCheck => "Stirred again, as before",
            RepeatsCheck => "Does its duty, several times running",
            RefusalCheck => "Refuses where it must",
            _ => "Every kill path stops the engine",
        };

    /// <summary>What was last read at a check, as its meter had it; null when no reading was taken at it.</summary>
    public static string? LastRead(CheckId check, JobState state) =>
        state.Proofs.LastOrDefault(p => p.Check == check) is { Typed: { } typed, At: { } at }
            ? TestWords.Typed(
                at.Condition.Observable,
                typed,
                ObservableCatalogue.Named(at.Condition.Observable)?.Read(typed, out _)?.Value
            )
            : null;

    /// <summary>What is done.</summary>
    public static string Of(CheckId check, OpenJob open) =>
        check switch
        {
            ReadingCheck reading => TestWords.Title(JobProof.AtOf(reading), open.Kit),
            WiggleCheck wiggle => Reach(wiggle, open) is { } reach
                ? WiggleWords.Title(reach, wiggle.By)
                : wiggle.Place.Text,
            RepeatsCheck => open.Kit.Table.Duty.Name + DutyWords.With(open.Kit.Table),
            RefusalCheck refusal => Stood(refusal.Setting, open)
                + (refusal.Speed == DutySpeed.Rest ? "" : " · " + SpeedWords.Of(refusal.Speed)),
            StopCheck stop => $"Running, then {Stood(stop.Setting, open)}",
            _ => "",
        };

    /// <summary>What must come of it.</summary>
    public static string Expected(ProofCheck check, OpenJob open) =>
        check.Id switch
        {
            ReadingCheck reading => Expected(reading, open),
            WiggleCheck => "it came or went before; now nothing may change",
            RepeatsCheck =>
                $"{check.Times} clean {(check.Times == 1 ? "try" : "tries")} running: fewer could be luck (5 % doubt)",
            RefusalCheck => DutyWords.Forbidden(open.Kit.Table.Duty),
            _ => "the engine must stop",
        };

    /// <summary>The answers that pass and fail it.</summary>
    public static (string Passed, string Failed) Answers(CheckId check) =>
        check switch
        {
            RepeatsCheck => ("It did", "It failed"),
            RefusalCheck => ("It refused", "It did it"),
            WiggleCheck => ("Nothing changed", "It changed"),
            _ => ("It stopped", "It ran on"),
        };

    private static string Expected(ReadingCheck reading, OpenJob open)
    {
        var at = JobProof.AtOf(reading);
        var before = open.Diagnosis.Readings.LastOrDefault(r => r.Taken.At == at)?.Taken;
        var read = before is null ? "" : $" · read {TestWords.Typed(before)} before";
        if (open.Kit.Pair(at) is not { } pair)
        {
            return TestWords.Stood(open.Machine, reading.Condition) + read;
        }

        var mended = Staircase.Mended(open.Diagnosis.Beliefs, pair);
        var condition = open.Kit.Table.Conditions[pair.Condition];
        // What is not read between two points has no black one: how it is set up says where.
        var black = condition.Observable.IsToldByPoints ? $"black on {open.Kit.Points.At(pair.Black).Name} · " : "";
        return $"{black}{condition.Words}{read}; now {TestWords.Sound(mended)}";
    }

    private static Reach? Reach(WiggleCheck wiggle, OpenJob open) =>
        open.Kit.WiggleTests.Find(wiggle.Place, wiggle.Repair);

    private static string Stood(NamedSetting setting, OpenJob open) =>
        open.Circuit.Setting(setting).AllWords(open.Machine);
}
