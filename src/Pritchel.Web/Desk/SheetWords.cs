using System.Globalization;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.KeySwitch;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>How a part test's verdict and figures are said.</summary>
public static class SheetWords
{
    /// <summary>The verdict in a few words.</summary>
    public static string Title(OpenPartTest open)
    {
        var verdict = open.Verdict;
        return verdict.Outcome switch
        {
            SheetOutcome.Good => "Good, as far as this sheet sees",
            SheetOutcome.Bad => verdict.Named is { } named ? Upper(named.Words) : "Bad; which fault cannot be told yet",
            SheetOutcome.CannotBeTold when open.NothingSeen => "Nothing wrong that this meter sees",
            SheetOutcome.CannotBeTold => "Cannot be told with this meter",
            SheetOutcome.Contradicts => "No such part shows these readings",
            _ => open.State.Read.Count == 0 ? "Nothing read yet" : "Still open",
        };
    }

    /// <summary>The verdict in sentences.</summary>
    public static string Of(OpenPartTest open)
    {
        var (verdict, sound) = (open.Verdict, open.Beliefs.Sound);
        var among = string.Join("; or ", verdict.Among.Select(s => s.Words));
        return verdict.Outcome switch
        {
            SheetOutcome.Good =>
                $"Sound: {ShareWords.Of(sound)}. No reading left on this sheet would show anything wrong.",
            SheetOutcome.Bad when verdict.Named is not null =>
                $"{ShareWords.Of(verdict.Share)} of the belief. It is the cause only when mending it changes what failed: one change, then read again.{(verdict.Again ? Next(open) : "")}",
            SheetOutcome.Bad => $"Something is wrong ({ShareWords.Of(1 - sound)}): {among}.{Next(open)}",
            SheetOutcome.CannotBeTold when open.NothingSeen =>
                $"All reads as a sound one does. Too slight for this meter: {among}. {(open.Table.Readings.Any(r => r.Observable.WantsDeadCircuit) ? "Its own current through it, and millivolts across, would tell." : "A finer meter, or a test at work, would tell.")}",
            SheetOutcome.CannotBeTold =>
                $"What is left cannot be told from a sound one by these readings: {among}. Sound: {ShareWords.Of(sound)}. A finer meter, a known good part beside it, or a test at work would tell.",
            SheetOutcome.Contradicts =>
                "Look at the range and the leads, and take the odd one again; or it is another part than said above.",
            _ => open.State.Read.Count == 0
                ? "Readings may be taken in any order, and any left out."
                : $"Sound: {ShareWords.Of(sound)}.{Against(open)}{(among.Length > 0 ? $" If not: {among}." : "")}{Next(open)}",
        };
    }

    /// <summary>A figure as it was typed, with its unit.</summary>
    public static string Figure(SheetReading reading, SheetRead read) =>
        read.Wavers is { } wavers ? wavers.Words
        : double.IsInfinity(read.Figure) ? "OL"
        : reading.Observable.IsSeen
            ? reading.Observable.Answers.FirstOrDefault(a => a.Typed == read.Typed).Words ?? read.Typed
        : Engineering.Format(read.Figure, reading.Observable.Unit);

    /// <summary>What a sound part would show there.</summary>
    public static string Expected(OpenPartTest open, int reading)
    {
        var observable = open.Table.Readings[reading].Observable;
        var (low, high) = open.Beliefs.Expected(reading);
        return observable.SaidRange(observable.Scaled(low), observable.Scaled(high));
    }

    /// <summary>What its figures are taken from.</summary>
    public static string Origin(OpenPartTest open) =>
        open.Entry.MachineId is { } machine ? $"of {machine}, with the machine’s own figures"
        : open.State.Began.Tested.FiguresKnown ? "loose, with the figures you gave"
        : "loose, with figures usual for its kind (from memory)";

    /// <summary>What a post of a key switch is for, with its letter in the trade.</summary>
    public static string Role(SwitchRole? role) =>
        role switch
        {
            SwitchRole.Feed => "feed in, B",
            SwitchRole.Run => "run, I or A",
            SwitchRole.Start => "start, S",
            SwitchRole.Lights => "lights, L",
            SwitchRole.Charge => "charge in, R",
            SwitchRole.Kill => "kill, M",
            SwitchRole.Ground => "ground, G",
            SwitchRole.Accessory => "accessory",
            _ => "joins nothing",
        };

    /// <summary>The part whose own fault a suspect is, where a sheet is for it; null otherwise.</summary>
    public static string? PartOf(OpenJob job, Suspect suspect) =>
        suspect.Likeliest?.Id.Of.Owner.Part is { } id
        && job.Machine.Index.Part(id) is { } part
        && DeviceKinds.Named(part.Kind) is { } kind
        && SheetCatalogue.For(kind).Any()
            ? id.Text
            : null;

    /// <summary>Page that a part test, a survey or a loom is worked on.</summary>
    public static string Address(PartTestEntry entry) =>
        entry.Sheet switch
        {
            SwitchSheet.Key => $"/part-tests/{entry.Tag}/switch",
            Core.PartTests.Leads.LeadSheet.Key => $"/part-tests/{entry.Tag}/leads",
            Core.PartTests.Points.PointSheet.Key => $"/part-tests/{entry.Tag}/points",
            Core.PartTests.Grounds.GroundSheet.Key => $"/part-tests/{entry.Tag}/grounds",
            Core.PartTests.Looms.LoomSheet.Key => $"/rewires/looms/{entry.Tag}",
            _ => $"/part-tests/{entry.Tag}",
        };

    /// <summary>A point that a probe is on: a terminal of the part, or what it stands in.</summary>
    public static string Point(OpenPartTest open, Core.Identity.TerminalAddress at) =>
        at.Part == open.State.Began.Tested.Part.Id ? at.Terminal.Text
        : at.Text == BenchMachine.Ground ? "ground cable"
        : at.Part.Text == BenchMachine.SupplyId ? $"battery {at.Terminal}"
        : at.Part.Text == BenchMachine.CurrentId ? "bulb’s lead"
        : at.Part.Text == BenchMachine.SwitchId ? $"feed {at.Terminal}"
        : $"{at.Part.Text.Replace('-', ' ')} {at.Terminal}";

    /// <summary>What is read, short enough for the margin of a drawing.</summary>
    public static string Short(OpenPartTest open, SheetReading reading)
    {
        // What several readings of one pair differ by is said last.
        var tail = reading.Words[(reading.Words.IndexOf(", ", StringComparison.Ordinal) + 1)..].Trim();
        return reading.Words.Length <= MostShort ? reading.Words
            : tail.Length <= MostShort && open.Table.Readings.Count(r => IsSamePair(r, reading)) > 1 ? tail
            : $"{reading.Observable.Name}, {Point(open, reading.Red)} to {Point(open, reading.Black)}";
    }

    private static bool IsSamePair(SheetReading one, SheetReading other) =>
        one.Observable == other.Observable && one.Red == other.Red && one.Black == other.Black;

    private const int MostShort = 24;

    private static readonly Dictionary<string, string> Kinds = new(StringComparer.Ordinal)
    {
        ["agm-battery"] = "AGM battery",
        ["load"] = "Coil or heater: injector, clutch, pump, glow plug",
        ["stator-1"] = "Single-phase stator",
        ["stator-3"] = "Three-phase stator",
        ["start-solenoid"] = "Start relay or remote solenoid",
        ["starter-solenoid"] = "Solenoid on the starter, two windings",
        ["sender"] = "Gauge sender, temperature sensor",
        ["spark-plug"] = "Spark plug",
        ["pressure-switch"] = "Oil pressure switch",
        ["rectifier"] = "Charge diode",
        ["regulator-1-series"] = "Regulator, single phase, series",
        ["regulator-1"] = "Regulator, single phase, shunt",
        ["regulator-3"] = "Regulator, three phases, shunt",
        ["regulator-3-series"] = "Regulator, three phases, series",
        ["regulator-half-wave"] = "Regulator, half wave",
        ["regulator-tapped"] = "Regulator, lamps and battery",
        ["timer-after-release"] = "Timer: closes after key-off",
        ["timer-off-delay"] = "Timer: opens after key-off",
        ["timer-pulse"] = "Timer: closes for a while at key-on",
        ["stop-solenoid"] = "Stop solenoid, fed to stop",
        ["run-solenoid"] = "Stop solenoid, fed to run",
    };

    /// <summary>What a kind of part is called, for lists.</summary>
    public static string Kind(string kind) => Kinds.GetValueOrDefault(kind) ?? Upper(kind.Replace('-', ' '));

    /// <summary>Readings that a sound part would not show, while being sound is still the likeliest: slips, more often than not.</summary>
    private static string Against(OpenPartTest open)
    {
        var odd = open
            .State.Read.Select(r => (Read: r, At: SheetBeliefs.IndexOf(open.Table, r.Reading)))
            .Where(r => r.At >= 0 && !open.Beliefs.Agrees(r.At, open.Weighed(r.Read)))
            .Select(r => open.Table.Readings[r.At].Words)
            .ToList();
        return odd.Count == 0 || open.Beliefs.Sound < 0.5
            ? ""
            : $" Against it stands {string.Join(", ", odd)}: take that again.";
    }

    private static string Next(OpenPartTest open) =>
        open.Verdict.Next < 0 ? ""
        : open.Verdict.Again
            ? $" Read once, it may be a slip. Before anything is condemned read it again, elsewhere on bright metal: {open.Table.Readings[open.Verdict.Next].Words}."
        : $" Most telling now: {open.Table.Readings[open.Verdict.Next].Words}.";

    private static string Upper(string words) =>
        words.Length == 0 ? words : char.ToUpper(words[0], CultureInfo.InvariantCulture) + words[1..];
}
