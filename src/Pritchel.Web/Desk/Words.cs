using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Workshop;

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

    /// <summary>" with key LIGHTS": the setting a complaint is tried in; empty where the duty's own words name it.</summary>
    public static string With(PredictionTable table) =>
        table.Effect == EffectKind.Holds || table is { Effect: EffectKind.Charges, Duty.Refuses: true }
            ? ""
            : $" with {table.Conditions[0].Words}";

    /// <summary>"it must not crank" from "cranks".</summary>
    public static string Forbidden(Duty duty) => $"it must not {Verb(duty)}";

    /// <summary>Answers that may be given to what happens, with their words.</summary>
    public static IReadOnlyList<(Heard Heard, string Words)> Choices(EffectKind effect, Duty duty) =>
        [.. Symptoms.MayBeHeard(effect, duty).Select(h => (h, Of(h, effect, duty)))];

    /// <summary>What was heard of a duty, in the words it was chosen by.</summary>
    public static string Of(Heard heard, EffectKind effect, Duty duty) =>
        (heard, effect, duty.Refuses) switch
        {
            (Heard.Nothing, _, false) when duty.GoesOn => "It goes out",
            (Heard.Works, _, false) when duty.GoesOn => "Runs on just now",
            (Heard.Nothing, EffectKind.Turns, true) => "It turns all the same",
            (Heard.Works, EffectKind.Turns, true) => "Stays still just now",
            (_, EffectKind.Turns, _) => Of(heard),
            (Heard.Nothing, EffectKind.Sparks or EffectKind.LetsRun, true) => "Runs on",
            (Heard.Works, EffectKind.Sparks or EffectKind.LetsRun, true) => "Stops just now",
            (Heard.Nothing, EffectKind.Sparks, _) => "No spark",
            (Heard.Slow, EffectKind.Sparks, _) => "A weak spark",
            (Heard.WillNotStart, EffectKind.Sparks, _) => "Turns over and will not start; spark not looked at yet",
            (Heard.Works, EffectKind.Sparks, _) => "Sparks just now",
            (Heard.Nothing, EffectKind.LetsRun, false) when duty.LetsGo => "Held at stop: it pulls in, or stays in",
            (Heard.Works, EffectKind.LetsRun, false) when duty.LetsGo => "Lets go just now",
            (Heard.Nothing, EffectKind.LetsRun, false) => "Nothing: no click, no pull",
            (Heard.WillNotStart, _, _) => "Turns over and will not start; not looked at yet",
            (Heard.Works, EffectKind.LetsRun, false) => "Pulls in just now",
            (Heard.Nothing, EffectKind.Charges, true) => "Flat after a night",
            (Heard.Works, EffectKind.Charges, true) => "Holds just now",
            (Heard.Nothing, EffectKind.Charges, _) => "Volts do not rise with the engine running",
            (Heard.Slow, EffectKind.Charges, _) => "They rise, but not enough",
            (Heard.Nothing, EffectKind.Reads, _) => "Dead: the needle stays at rest",
            (Heard.Slow, EffectKind.Reads, _) => "Reads low",
            (Heard.TooMuch, EffectKind.Reads, _) => "Reads high, or pegged",
            (Heard.Works, EffectKind.Reads, _) => "Reads right just now",
            (Heard.TooMuch, _, _) => "Too much: over 15 V, it boils or bulbs blow",
            (Heard.Works, EffectKind.Charges, _) => "Charges just now",
            (Heard.Nothing, EffectKind.Holds, _) => "It goes each time",
            (Heard.Works, EffectKind.Holds, _) => "Holds just now",
            (Heard.Nothing, _, true) => "It does it all the same",
            (Heard.Works, _, true) => "As it should just now",
            (Heard.Nothing, _, _) => "Nothing",
            (Heard.Chatter, _, _) => "Comes and goes many times a second",
            (Heard.Slow, _, _) => "Dim or weak",
            _ => Of(heard),
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
            CircuitGroup.Protection => "Fuses and breakers",
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
            _ when job.Unreadable is { } unreadable => unreadable,
            Stage.Complaint => "tell what it does",
            Stage.Measure when job.Standing is { } standing =>
                $"about {standing.TestsLeft} to go · {standing.MinutesLeft}",
            Stage.Measure => Taken(job.State.Readings.Count),
            Stage.Verdict when job.WorksAsDesigned => job.Design!.Altered.Count > 0 ? "altered"
            : job.Design.MayBeTrue ? "check what it warns of"
            : "works as designed",
            Stage.Verdict => ShareWords.Of(job.Standing!.Sure!.Value) + " sure",
            Stage.Repair when job.State.Verdict!.On.Kind is SuspectKind.AsDesigned or SuspectKind.Sound =>
                "nothing to mend here",
            Stage.Repair when job.State.Priced is not null => "priced; mend it when the part is there",
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
        var observable = test.Condition.Observable;
        if (test.Condition.Jump is { Kind: JumpKind.TestLamp })
        {
            return char.ToUpperInvariant(test.Condition.Words[0]) + test.Condition.Words[1..];
        }

        if (!observable.IsToldByPoints)
        {
            return $"{observable.Name}: {test.Condition.Words}";
        }

        if (kit.Points.Grounds.Any(g => g.Node == test.At.Black))
        {
            return observable is DirectVolts
                ? $"{observable.Name} at {test.Red.Name}"
                : $"{observable.Name} from {test.Red.Name} to {test.Black.Name}";
        }

        return
            (test.Red.Address.Terminal, test.Black.Address.Terminal) is ({ } red, { } black) && red.Part == black.Part
            ? $"{observable.Name} across the {MachineWords.PartAt(kit.Circuit.Machine, red).Name}, {MachineWords.Letter(red.Terminal)} to {MachineWords.Letter(black.Terminal)}"
            : $"{observable.Name} from {test.Red.Name} to {test.Black.Name}";
    }

    /// <summary>
    /// How a card says what is set up and how the controls stand; null where its title, which is a condition's own words for what is not told
    /// by two points, has said all of it and nothing is held.
    /// </summary>
    public static (string Label, string Words)? Controls(Condition condition, Machine machine)
    {
        if (condition.Observable.IsToldByPoints || condition.Jump is not null)
        {
            var isSetUp =
                condition.Off.Count > 0 || condition.Tester != SparkTesterAt.Nowhere || condition.Jump is not null;
            return (isSetUp ? "Set up" : "Controls", condition.Words);
        }

        var setting = condition.Setting.Words(machine);
        return condition.Held.Count > 0 || !condition.Words.Contains(setting, StringComparison.Ordinal)
            ? ("Controls", setting)
            : null;
    }

    /// <summary>Title of the test that a reading was taken by, whether it is asked for now or not.</summary>
    public static string Title(ProbedAt at, DiagnosisKit kit)
    {
        if (kit.Pair(at) is { } pair)
        {
            return Title(kit.Plan.Plan(pair, new Situation(), 0), kit);
        }

        var machine = kit.Circuit.Machine;
        return $"{ObservableCatalogue.Named(at.Condition.Observable)?.Name} from {Point(machine, at.Red)} to {Point(machine, at.Black)}";
    }

    /// <summary>A point by its name on the machine; as it is written where the machine has it no more.</summary>
    public static string Point(Machine machine, PointId point) =>
        point.Terminal is { } terminal
        && machine.Index.PartAt(terminal) is { } part
        && part.Terminals.Contains(terminal.Terminal)
            ? MachineWords.Terminal(machine, terminal)
            : point.Text;

    /// <summary>Why a reading says nothing here.</summary>
    public static string WhyNotWeighed(ReadingTaken taken) =>
        taken.At.Condition.Speed == DutySpeed.Rest
            ? "taken otherwise than this complaint asks"
            : "with the engine running, volts are followed for complaints about charging only";

    /// <summary>How controls and engine stood for a reading.</summary>
    public static string Stood(Machine machine, ConditionKey condition)
    {
        var said = condition
            .Setting.OrderBy(s => machine.Index.ControlNumber(s.Key))
            .Select(s => machine.Index.Control(s.Key)?.Said(s.Value) ?? $"{s.Key} {s.Value}");
        var speed = condition.Speed == DutySpeed.Rest ? [] : new[] { SpeedWords.Of(condition.Speed) };
        return string.Join(" · ", said.Concat(speed).Concat(condition.Off.Select(o => $"{o} off")));
    }

    /// <summary>Why this test, in one line.</summary>
    public static string Why(PlannedTest test)
    {
        // Less is not worth a word.
        const double Minute = 1;
        var wanted =
            test.WantedAnyway.Value >= Minute ? $"; {test.WantedAnyway} of it the repair is likely to want anyway" : "";
        var there = test.Minutes.Value > 2 ? ", getting there included" : "";
        if (test is { IsToMakeSure: true, IsOnceMore: false })
        {
            return $"So far it is what is left over when all else reads well: this reads it itself, in {test.Minutes}{there}{wanted}.";
        }

        var again =
            !test.IsOnceMore ? ""
            : test.Condition.Observable.IsSeen ? "Once more, set up anew: what is left hangs on this one answer. "
            : "Once more, probes put on anew: what is left hangs on this one figure. ";
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{again}{Splits(test.Bits)} in {test.Minutes}{there}{wanted}."
        );
    }

    /// <summary>The same reading on the other of two like engines; null where there is none.</summary>
    public static string? Compare(PlannedTest test, DiagnosisKit kit)
    {
        var machine = kit.Circuit.Machine;
        if (
            test.Condition.Observable is { IsSeen: true } or { IsToldByPoints: false }
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

    // From here on a figure is written with its prefix, however its zeros were typed; so is one typed with a prefix.
    private const double Kilo = 1000;

    /// <summary>A figure that was typed, with its unit.</summary>
    public static string Typed(ReadingTaken taken) => Typed(taken.At.Condition.Observable, taken.Typed, taken.Figure);

    /// <summary>What was typed for an observable, with its unit.</summary>
    /// <param name="key">The observable's key.</param>
    /// <param name="typed">As typed.</param>
    /// <param name="figure">As understood; null when it jumped about.</param>
    public static string Typed(string key, string typed, double? figure) =>
        figure is not { } read || ObservableCatalogue.Named(key) is not { } observable ? typed
        : observable.IsSeen ? observable.Said(read)
        : double.IsInfinity(read) ? "OL"
        : read >= Kilo || typed.Any(char.IsLetter) ? Engineering.Format(read, observable.Unit)
        : $"{typed} {observable.Unit}";

    /// <summary>Where sound wiring reads: one range, or two when it matters whether the load draws.</summary>
    public static string Sound(SoundBands sound)
    {
        var observable = sound.Observable;
        var (idle, working) = (
            observable.SaidRange(sound.IdleLow, sound.IdleHigh),
            observable.SaidRange(sound.WorkingLow, sound.WorkingHigh)
        );
        return idle == working ? idle : $"{idle}, or {working} at work";
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
