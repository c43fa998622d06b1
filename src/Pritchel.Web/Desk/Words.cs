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
        return words.Length == 1 ? $"Does not {Verb(duty)}" : $"{string.Join(' ', words[..^1])} do not {words[^1]}";
    }

    /// <summary>"it must not crank" from "cranks".</summary>
    public static string Forbidden(Duty duty) => $"it must not {Verb(duty)}";

    private static string Verb(Duty duty)
    {
        var last = duty.Name.Split(' ')[^1].ToLowerInvariant();
        return last.EndsWith('s') ? last[..^1] : last;
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

/// <summary>How a share of belief is said: never all, never none.</summary>
public static class ShareWords
{
    /// <summary>"57 %", "over 99 %", "under 1 %".</summary>
    public static string Of(double share) =>
        share > 0.995 ? "over 99 %"
        : share < 0.005 ? "under 1 %"
        : share.ToString("P0", CultureInfo.InvariantCulture);
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
            Stage.Verdict => ShareWords.Of(job.Diagnosis.Verdict.Suspect!.Share) + " sure",
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
        if (ground)
        {
            return $"Volts at {test.Red.Name}";
        }

        var machine = kit.Circuit.Machine;
        var (red, black) = (MachineWords.Split(test.Red.Address), MachineWords.Split(test.Black.Address));
        return red.Terminal.Length > 0 && string.Equals(red.Part, black.Part, StringComparison.Ordinal)
            ? $"Volts across the {MachineWords.PartAt(machine, test.Red.Address).Name}, {MachineWords.Letter(red.Terminal)} to {MachineWords.Letter(black.Terminal)}"
            : $"Volts from {test.Red.Name} to {test.Black.Name}";
    }

    /// <summary>Why this test, in one line.</summary>
    public static string Why(PlannedTest test) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Splits(test.Bits)}{(test.Bits > TestPlan.LeastBits ? $" ({test.Bits:0.0} bit)" : "")} in {test.Minutes}{(test.Minutes.Value > 2 ? ", getting there included" : "")}."
        );

    /// <summary>A range of volts: "12.1 to 12.4 V", "near 0 V".</summary>
    public static string Range(double low, double high)
    {
        var (a, b) = (Engineering.Reading(new Volts(low)), Engineering.Reading(new Volts(high)));
        return string.Equals(a, b, StringComparison.Ordinal) ? a
            : Math.Abs(low) < 0.03 && Math.Abs(high) < 0.03 ? "0 V, nearly"
            : a.EndsWith(" V", StringComparison.Ordinal) && b.EndsWith(" V", StringComparison.Ordinal)
                ? $"{a[..^2]} to {b}"
            : a.EndsWith(" mV", StringComparison.Ordinal) && b.EndsWith(" mV", StringComparison.Ordinal)
                ? $"{a[..^3]} to {b}"
            : $"{a} to {b}";
    }

    /// <summary>Where sound wiring reads: one range, or two when it matters whether the load draws.</summary>
    public static string Sound(SoundBands sound)
    {
        var (idle, working) = (Range(sound.IdleLow, sound.IdleHigh), Range(sound.WorkingLow, sound.WorkingHigh));
        return string.Equals(idle, working, StringComparison.Ordinal) ? idle : $"{idle}, or {working} at work";
    }

    private static string Splits(double bits) =>
        bits switch
        {
            > 0.85 => "Halves what is left",
            > 0.5 => "Splits what is left",
            > 0.2 => "Trims what is left",
            > TestPlan.LeastBits => "Helps a little",
            _ => "Makes sure: the first suspect would show here",
        };
}
