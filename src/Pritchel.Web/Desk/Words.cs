using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;
using Pritchel.Web.Pages.Machines.Making;

namespace Pritchel.Web.Desk;

/// <summary>How a failing duty is said.</summary>
public static class DutyWords
{
    /// <summary>"Does not crank" from "cranks".</summary>
    public static string Fails(Duty duty)
    {
        if (duty.Complaint is { } complaint)
        {
            return complaint;
        }

        var words = duty.Name.Split(' ');
        return words.Length == 1 ? $"Does not {Verb(duty)}"
            : words[^1].EndsWith('s') ? $"{string.Join(' ', words[..^1])} does not {Verb(duty)}"
            : $"{string.Join(' ', words[..^1])} do not {words[^1]}";
    }

    /// <summary>"it must not crank" from "cranks".</summary>
    public static string Forbidden(Duty duty) => $"it must not {Verb(duty)}";

    /// <summary>Answers that may be given to what happens, with their words.</summary>
    public static IReadOnlyList<(Heard Heard, string Words)> Choices(EffectKind sign, Duty duty) =>
        (sign, duty.Refuses) switch
        {
            (EffectKind.Turns, _) =>
            [
                (Heard.Nothing, "Nothing at all"),
                (Heard.OneClick, "One click, then nothing"),
                (Heard.Chatter, "Chatters"),
                (Heard.Slow, "Turns, but slowly"),
                (Heard.Works, "Works just now"),
            ],
            (EffectKind.Sparks, true) => [(Heard.Nothing, "Runs on"), (Heard.Works, "Stops just now")],
            (EffectKind.Sparks, _) =>
            [
                (Heard.Nothing, "No spark"),
                (Heard.Slow, "A weak spark"),
                (Heard.WillNotStart, "Turns over and will not start; spark not looked at yet"),
                (Heard.Works, "Sparks just now"),
            ],
            (EffectKind.LetsRun, false) =>
            [
                (Heard.Nothing, "Nothing: no click, no pull"),
                (Heard.WillNotStart, "Turns over and will not start; not looked at yet"),
                (Heard.Works, "Pulls in just now"),
            ],
            (EffectKind.Charges, true) => [(Heard.Nothing, "Flat after a night"), (Heard.Works, "Holds just now")],
            (EffectKind.Charges, _) =>
            [
                (Heard.Nothing, "Volts do not rise with the engine running"),
                (Heard.Slow, "They rise, but not enough"),
                (Heard.Works, "Charges just now"),
            ],
            (_, true) => [(Heard.Nothing, "It does it all the same"), (Heard.Works, "As it should just now")],
            _ =>
            [
                (Heard.Nothing, "Nothing"),
                (Heard.Chatter, "Comes and goes many times a second"),
                (Heard.Slow, "Dim or weak"),
                (Heard.Works, "Works just now"),
            ],
        };

    /// <summary>Name of a circuit that complaints are split into.</summary>
    public static string Of(CircuitGroup group) =>
        group switch
        {
            CircuitGroup.Starting => "Starting",
            CircuitGroup.Ignition => "Ignition and kill",
            CircuitGroup.Fuel => "Fuel cut and stop",
            CircuitGroup.Charging => "Charging",
            CircuitGroup.Alarms => "Alarms",
            _ => "Lamps and accessories",
        };

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
            Heard.WillNotStart => "Turns over and will not start",
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
    public static string Standing(FloorJob job) =>
        job.Stage switch
        {
            Stage.Complaint => "tell what it does",
            Stage.Measure when job.Diagnosis is { } diagnosis =>
                $"about {diagnosis.TestsLeft} to go · {diagnosis.MinutesLeft}",
            Stage.Measure => Taken(job.State.Readings.Count),
            Stage.Verdict when job.WorksAsDesigned => job.Design!.Altered.Count > 0 ? "altered" : "works as designed",
            Stage.Verdict => ShareWords.Of(job.Diagnosis!.Verdict.Suspect!.Share) + " sure",
            Stage.Repair when job.State.Verdict!.RepairId is OpenJob.AsDesigned or Suspect.Sound =>
                "nothing to mend here",
            Stage.Repair => "battery off, mend it",
            Stage.Prove => "run it before shrouds go on",
            _ => "closed",
        };

    private static string Taken(int readings) =>
        readings switch
        {
            0 => "nothing measured yet",
            1 => "one reading taken",
            _ => $"{readings} readings taken",
        };
}

/// <summary>What a clip lead over a doubted place has shown.</summary>
public static class LeadWords
{
    /// <summary>In a line, once the lead is off again.</summary>
    public static string Of(LeadPut lead, LeadOff off) =>
        (lead.Worked, off.FailsAgain) switch
        {
            (true, true) => "● With the lead it works, without it it fails again: the place is proved. Mend it.",
            (true, false) =>
                "◆ It works without the lead too: it comes and goes, or moving it mended it. Wiggle it before it is trusted.",
            (false, true) => "◆ The lead did not help: set the verdict aside and measure on.",
            _ => "◆ It failed with the lead and works without it: something else moved. Set the verdict aside.",
        };
}

/// <summary>How tests and what they point to are said: one place for all of it.</summary>
public static class TestWords
{
    /// <summary>Title of a test.</summary>
    public static string Title(PlannedTest test, DiagnosisKit kit)
    {
        var ground = kit.Points.Grounds.Any(g => g.Node == test.At.Black);
        var what = test.Condition.Quantity switch
        {
            Quantity.Spark => "Look for a spark",
            Quantity.Amps => "Amps out of the battery",
            Quantity.AcVolts => "AC volts",
            Quantity.PeakVolts => "Peak volts",
            Quantity.Action => "Join and see",
            Quantity.Glow => "Bulb",
            Quantity.Beep => "Beep",
            Quantity.Ohms => "Ohms",
            Quantity.Diode => "Diode range",
            _ => "Volts",
        };
        if (test.Condition is { Quantity: Quantity.Glow, Jump.Kind: JumpKind.TestLamp })
        {
            return char.ToUpperInvariant(test.Condition.Words[0]) + test.Condition.Words[1..];
        }

        if (
            test.Condition.Quantity == Quantity.Amps
            || (test.Condition.Quantity != Quantity.Beep && Scale.IsSeen(test.Condition.Quantity))
        )
        {
            return $"{what}: {test.Condition.Words}";
        }

        if (ground)
        {
            return test.Condition.Quantity != Quantity.Volts
                ? $"{what} from {test.Red.Name} to {test.Black.Name}"
                : $"Volts at {test.Red.Name}";
        }

        var machine = kit.Circuit.Machine;
        var (red, black) = (MachineWords.Split(test.Red.Address), MachineWords.Split(test.Black.Address));
        return red.Terminal.Length > 0 && string.Equals(red.Part, black.Part, StringComparison.Ordinal)
            ? $"{what} across the {MachineWords.PartAt(machine, test.Red.Address).Name}, {MachineWords.Letter(red.Terminal)} to {MachineWords.Letter(black.Terminal)}"
            : $"{what} from {test.Red.Name} to {test.Black.Name}";
    }

    /// <summary>Why this test, in one line.</summary>
    public static string Why(PlannedTest test)
    {
        // Less is not worth a word.
        const double Minute = 1;
        var bits = test.Bits > TestPlan.LeastBits ? $" ({test.Bits:0.0} bit)" : "";
        var wanted =
            test.WantedAnyway.Value >= Minute ? $"; {test.WantedAnyway} of it the repair is likely to want anyway" : "";
        var there = test.Minutes.Value > 2 ? ", getting there included" : "";
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{Splits(test.Bits)}{bits} in {test.Minutes}{there}{wanted}."
        );
    }

    /// <summary>The same reading on the other of two like engines; null where there is none.</summary>
    public static string? Compare(PlannedTest test, DiagnosisKit kit)
    {
        var machine = kit.Circuit.Machine;
        if (
            Scale.IsSeen(test.Condition.Quantity)
            || test.Condition.Quantity == Quantity.Amps
            || test.Condition.Off.Count > 0
            || TwinEngine.Of(machine) is not { } twin
            || (twin.Opposite(test.Red.Address), twin.Opposite(test.Black.Address)) is not ({ } red, { } black)
            || twin.Opposite(test.Condition.Setting.Named(machine)) is not { } setting
        )
        {
            return null;
        }

        var (from, to) = (kit.Points.At(kit.Circuit.NodeOf(red)), kit.Points.At(kit.Circuit.NodeOf(black)));
        return $"{from.Name} to {to.Name}, {kit.Circuit.Setting(setting).Words(machine)}: the {(twin.OtherThan(test.Red.Address) ?? twin.OtherThan(test.Black.Address))?.Name ?? "other engine"} reads what this one should, if it works.";
    }

    /// <summary>How the meter is set for a test.</summary>
    public static string Meter(Condition condition) =>
        condition.Quantity switch
        {
            Quantity.Diode => "diode range; red and black as said, for it reads one way only",
            Quantity.Ohms => "ohms; short the leads first and note what they add",
            Quantity.Amps => "DC amps, 10 A jack, in series: never across the posts; type OL if its fuse goes",
            Quantity.AcVolts => "AC volts, 200 V range first",
            Quantity.PeakVolts =>
                "DC volts through a peak adapter, red in the adapter’s red; without an adapter pass this test over",
            Quantity.Spark => "a spark tester with its gap set",
            Quantity.Action when condition.Jump!.IsHeavy =>
                "a starting lead or a remote button made for it, never a spanner or a screwdriver",
            Quantity.Action => "a lead with a 15 A fuse and a button in it",
            Quantity.Glow when condition.Jump!.Kind == JumpKind.TestLamp =>
                "a test lamp of about a quarter of an amp, proved on the battery first",
            Quantity.Glow => "a 12 V 21 W bulb on two leads",
            Quantity.Beep => "the beep range; touch the leads together first",
            _ => "DC volts, 20 V range",
        };

    /// <summary>Unit typed for a quantity.</summary>
    public static string Unit(Quantity quantity) =>
        quantity switch
        {
            Quantity.Ohms => "Ω",
            Quantity.Amps => "A",
            _ when Scale.IsSeen(quantity) => "",
            _ => "V",
        };

    // From here on a figure is written with its prefix, however its zeros were typed.
    private const double Kilo = 1000;

    /// <summary>A figure that was typed, with its unit.</summary>
    public static string Typed(ReadingTaken taken) =>
        taken.Figure is null ? taken.Typed
        : Scale.IsSeen(taken.At.Quantity) ? Seen(taken.At.Quantity, taken.Figure.Value)
        : taken.Figure >= ReadingTaken.OpenCircuit ? "OL"
        : taken.Figure >= Kilo ? Engineering.Format(taken.Figure.Value, Unit(taken.At.Quantity))
        : $"{taken.Typed} {Unit(taken.At.Quantity)}";

    /// <summary>What was seen, in words.</summary>
    public static string Seen(Quantity quantity, double figure)
    {
        var step = figure switch
        {
            >= 1.5 => 2,
            >= 0.5 => 1,
            _ => 0,
        };
        return Answers(quantity)[2 - step].Words.ToLowerInvariant();
    }

    /// <summary>Answers to a test that is seen, best first, with what is typed for each.</summary>
    public static IReadOnlyList<(string Typed, string Words)> Answers(Quantity quantity) =>
        quantity switch
        {
            Quantity.Glow => [("2", "Bright"), ("1", "Dim"), ("0", "Out")],
            Quantity.Action => [("2", "It does"), ("1", "Weak, or clicks"), ("0", "Nothing")],
            Quantity.Beep => [("2", "Beeps"), ("1", "Now and then"), ("0", "Silent")],
            _ => [("2", "Sparks"), ("1", "Weak spark"), ("0", "No spark")],
        };

    /// <summary>What can hurt while a spark is looked for.</summary>
    public const string SparkCaution =
        "Ignition fires with the battery off too: hands and petrol away from the tester, tester clipped to the block, blades or propeller clear. Never run it on with the kill disconnected.";

    /// <summary>What can hurt in a test that joins two points or fires a spark; null where nothing more than usual can.</summary>
    public static string? Caution(Condition condition) =>
        condition.Quantity switch
        {
            Quantity.Spark => SparkCaution,
            Quantity.Action => Caution(condition.Jump!),
            Quantity.AcVolts =>
                "An open stator gives a hundred volts and more when the engine is revved: clip both leads on first, hands off, nothing near belts, blades and exhaust. Outdoors.",
            Quantity.PeakVolts =>
                "Hundreds of volts on exciter and kill wires: clips on first, nobody touching, then pull it over. Plug leads off and grounded.",
            Quantity.Glow when condition.Jump!.Kind == JumpKind.TestLamp =>
                "Never on a kill wire, a controller or an injector. A lit lamp clears what feeds a quarter of an amp, not what feeds a starter.",
            Quantity.Beep =>
                "A beep is anything under 30 to 50 Ω, and no proof of a good joint; silence through a diode is not an open.",
            Quantity.Glow => "Bulb and fuse holder get hot. Bright is a short or a stalled load, dim an ordinary load.",
            _ => null,
        };

    /// <summary>What can hurt with a lead between two points.</summary>
    public static string Caution(Jump jump) =>
        jump.IsHeavy
            ? "It goes round interlocks: neutral, brake, blades and belts by hand first, wheels blocked, eyes covered. No petrol vapour about. Touch for a second; take the lead off before anything else."
            : "It goes round switches and interlocks: make sure by hand that nothing can move. Fused lead, seconds only on a stop or pull-in winding; never to a kill wire, a controller or an injector. Take it off before anything else.";

    /// <summary>A range of a quantity, given on its scale.</summary>
    public static string Range(Quantity quantity, double low, double high)
    {
        var (a, b) = (Scale.Figure(quantity, low), Scale.Figure(quantity, high));
        if (quantity == Quantity.Volts)
        {
            return Range(a, b);
        }

        if (Scale.IsSeen(quantity))
        {
            var (from, to) = (Seen(quantity, a), Seen(quantity, b));
            return string.Equals(from, to, StringComparison.Ordinal) ? from : $"{from} to {to}";
        }

        // Two leads cannot tell tenths of an ohm apart, nor a battery milliamps.
        var least = quantity switch
        {
            Quantity.Ohms => 0.3,
            Quantity.AcVolts or Quantity.PeakVolts => 0.1,
            _ => 0.001,
        };
        string Said(double figure) =>
            double.IsInfinity(figure) ? "OL"
            : figure < least ? "nearly 0"
            : Engineering.Format(Rounded(figure), Unit(quantity));
        return string.Equals(Said(a), Said(b), StringComparison.Ordinal) ? Said(a) : $"{Said(a)} to {Said(b)}";
    }

    /// <summary>Two figures of a reading whose doubt is in the second.</summary>
    private static double Rounded(double figure)
    {
        var step = Math.Pow(10, Math.Floor(Math.Log10(figure)) - 1);
        return Math.Round(figure / step) * step;
    }

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
        if (sound.Quantity != Quantity.Volts)
        {
            return Range(sound.Quantity, sound.WorkingLow, sound.WorkingHigh);
        }

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
