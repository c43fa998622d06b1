using System.Globalization;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Web.Desk;

/// <summary>How a failing duty is said.</summary>
public static class DutyWords
{
    /// <summary>"Does not crank" from "cranks".</summary>
    public static string Fails(Duty duty)
    {
        var words = duty.Name.Split(' ');
        var verb = words[^1].EndsWith('s') ? words[^1][..^1] : words[^1];
        return words.Length == 1
            ? $"Does not {verb.ToLowerInvariant()}"
            : $"{string.Join(' ', words[..^1])} do not {words[^1]}";
    }

    /// <summary>What may be heard, in words.</summary>
    public static string Of(Heard heard) =>
        heard switch
        {
            Heard.Nothing => "Nothing at all",
            Heard.OneClick => "One click, then nothing",
            Heard.Chatter => "Chatters",
            Heard.Slow => "Turns, but slowly",
            Heard.Works => "Works just now",
            _ => "Not said",
        };
}

/// <summary>How a job's standing is said on its tag.</summary>
public static class StageWords
{
    /// <summary>Short words for the bench.</summary>
    public static string Standing(OpenJob job) =>
        job.Stage switch
        {
            Stage.Complaint => "tell what it does",
            Stage.Measure => $"about {job.Diagnosis.TestsLeft} to go · {job.Diagnosis.MinutesLeft}",
            Stage.Verdict => job.Diagnosis.Verdict.Suspect!.Share.ToString("P0", CultureInfo.InvariantCulture) + " sure",
            Stage.Repair => "battery off, mend it",
            Stage.Prove => "run it before shrouds go on",
            _ => "closed",
        };
}

/// <summary>How tests and what they point to are said: one place for all of it.</summary>
public static class TestWords
{
    /// <summary>Title of a test.</summary>
    public static string Title(PlannedTest test, DiagnosisKit kit)
    {
        var ground = kit.Points.Grounds.Any(g => g.Node == test.At.Black);
        var state = test.Condition.Words;
        return ground ? $"Volts at {test.Red.Name}, {state}" : $"Volts across, {test.Red.Name} to {test.Black.Name}, {state}";
    }

    /// <summary>Why this test, in one line.</summary>
    public static string Why(PlannedTest test) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Splits(test.Bits)} ({test.Bits:0.0} bit) in {test.Minutes}{(test.Minutes.Value > 2 ? ", getting there included" : "")}."
        );

    /// <summary>A range of volts: "12.1 to 12.4 V", "near 0 V".</summary>
    public static string Range(double low, double high)
    {
        var (a, b) = (Engineering.Reading(new Volts(low)), Engineering.Reading(new Volts(high)));
        return string.Equals(a, b, StringComparison.Ordinal) ? a
            : Math.Abs(low) < 0.03 && Math.Abs(high) < 0.03 ? "0 V, nearly"
            : a.EndsWith(" V", StringComparison.Ordinal) && b.EndsWith(" V", StringComparison.Ordinal) ? $"{a[..^2]} to {b}"
            : $"{a} to {b}";
    }

    private static string Splits(double bits) =>
        bits switch
        {
            > 0.85 => "Halves what is left",
            > 0.5 => "Splits what is left",
            > 0.2 => "Trims what is left",
            _ => "Makes sure",
        };
}
