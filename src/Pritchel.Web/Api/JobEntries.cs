using System.Text.Json;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Proving;
using Pritchel.Core.Units;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>What an entry is made against.</summary>
/// <param name="Open">The job.</param>
/// <param name="Desk">Where it is laid out.</param>
internal sealed record Entering(OpenJob Open, JobDesk Desk);

/// <summary>Turns what a request says into what happened on a job, refusing by field what cannot be.</summary>
internal static class JobEntries
{
    private const int MostNote = 300;

    public static JobEvent Complaint(Entering entering, ComplaintRequest wanted)
    {
        var (open, rules) = (entering.Open, entering.Desk.Rules(entering.Open));
        var complaint = open.State.Complaint! with
        {
            Heard = wanted.Heard,
            Failed = wanted.Failed,
            Tried = wanted.Tried,
            Words = (wanted.Words ?? "").ReplaceLineEndings(" ").Trim(),
            Bridged = [.. Each(wanted.Bridged, "bridged").Select(b => AlterationId.Of(b))],
            Setting = SettingOf(open, rules.Own, wanted.Setting),
            Speed = wanted.Speed == rules.Own.Speed ? null : wanted.Speed,
            Circumstances = wanted.Circumstances ?? Circumstances.Usual,
            Codes = wanted.Codes is null ? null : [.. Each(wanted.Codes, "codes")],
            Also = [.. Each(wanted.Also, "also").Select(a => new AlsoTold(new DutyId(a.Duty), a.Works))],
            JumpStarted = wanted.JumpStarted,
            WorseWhen = [.. (wanted.WorseWhen ?? []).Distinct()],
            Cures = [.. Each(wanted.Cures, "cures").Select(c => new CureTried(RepairId.Of(c.Repair ?? ""), c.Effect))],
            Batteries =
            [
                .. Each(wanted.Batteries, "batteries")
                    .Select(b => new BatteryAsFound(new PartId(b.Battery ?? ""))
                    {
                        Type = b.Type,
                        Charge = b.Charge,
                        Warmth = b.Celsius is { } celsius ? new Celsius(celsius) : null,
                    })
                    .Where(b => b.SaysAnything),
            ],
            Lamps = [.. Each(wanted.Lamps, "lamps").Select((l, i) => Lamp(open, l, $"lamps[{i}]"))],
        };
        foreach (var refusal in rules.Check(complaint))
        {
            throw new RefusedException(
                refusal.Field,
                refusal.Field == "heard"
                        ? $"Allowed for this complaint: {string.Join(", ", rules.MayBeHeard.Select(h => Named(h)))}."
                    : refusal.Field == "bridged"
                        ? refusal.Message
                            + " Write \"part/contact\" for a switch contact bridged, \"apart/part\" for a coupling left apart, \"off/wire\" for a wire off."
                    : refusal.Message
            );
        }

        return new ComplaintMade(complaint);
    }

    public static JobEvent Reading(Entering entering, ReadingRequest wanted)
    {
        var open = entering.Open;
        if (wanted.Quantity is { } quantity)
        {
            return Besides(open, quantity, wanted);
        }

        var at = At(open, wanted.Condition, wanted.Setting, wanted.Red, wanted.Black);
        var told = open.Kit.Told(at);
        if (wanted.Reading == "jumps")
        {
            return new ReadingTaken(told, "jumps", null, wanted.Symptom);
        }

        return open.Kit.Table.Conditions[at.Condition].Observable.Read(wanted.Reading, out var error) is { } figure
            ? new ReadingTaken(told, wanted.Reading.Trim(), figure.Value, wanted.Symptom)
            : throw new RefusedException("reading", error);
    }

    /// <summary>A reading that no test asks for: predicted for its own sake.</summary>
    private static ReadingTaken Besides(OpenJob open, string quantity, ReadingRequest wanted)
    {
        var any = new AnyReading(
            quantity,
            ApiSetting.Of(open.Circuit, wanted.Setting, "setting"),
            wanted.Speed,
            [.. Each(wanted.Off, "off").Select(Disconnection.Of)],
            PointId.Of(wanted.Red),
            PointId.Of(wanted.Black)
        );
        foreach (var refusal in any.Check(open.Circuit))
        {
            throw new RefusedException(refusal.Field, refusal.Message);
        }

        return any.Taken(open.Kit, wanted.Reading, out var error) ?? throw new RefusedException("reading", error);
    }

    public static JobEvent Look(Entering entering, LookRequest wanted)
    {
        var repair = RepairId.Of(wanted.Repair);
        return entering.Open.Circuit.Faults.Any(f => f.Repair.Id == repair)
            ? new LookedAt(repair, wanted.Found)
            : throw new RefusedException(
                "repair",
                $"“{Excerpt.Of(wanted.Repair)}” is nothing that is mended on this machine; /suspects and /faults name what is."
            );
    }

    public static JobEvent Wiggle(Entering entering, WiggleRequest wanted)
    {
        var wiggles = entering.Open.Kit.WiggleTests;
        var place = new PlaceId(wanted.Place);
        RepairId? alone = wanted.Repair is null ? null : RepairId.Of(wanted.Repair);
        if (wiggles.Find(place, null) is null)
        {
            throw new RefusedException(
                "place",
                $"“{Excerpt.Of(wanted.Place)}” has nothing that comes and goes; allowed: {string.Join(", ", wiggles.Places.Select(r => r.Place.Id))}."
            );
        }

        if (!wiggles.Ways.Contains(wanted.By))
        {
            throw new RefusedException("by", "Nothing is wetted on a machine that makes mains volts.");
        }

        return wiggles.Find(place, alone) is null
            ? throw new RefusedException(
                "repair",
                $"“{Excerpt.Of(wanted.Repair)}” is not at that place, or does not come and go."
            )
            : new Wiggled(place, alone, wanted.By, wanted.Changed, null);
    }

    public static JobEvent PassedOver(Entering entering, PassedOverRequest wanted)
    {
        var (open, machine) = (entering.Open, entering.Open.Machine);
        PlaceId? place = wanted.Place is null ? null : new PlaceId(wanted.Place);
        if (place is { } named && machine.Index.Place(named) is null)
        {
            throw new RefusedException(
                "place",
                $"“{Excerpt.Of(wanted.Place)}” is no place of this machine; allowed: {string.Join(", ", machine.Places.Select(p => p.Id))}."
            );
        }

        return new TestPassedOver(
            open.Kit.Told(At(open, wanted.Condition, wanted.Setting, wanted.Red, wanted.Black)),
            place,
            place is null ? Core.Jobs.PassedOver.NotSure : Core.Jobs.PassedOver.CannotReach
        );
    }

    public static JobEvent Undo(Entering entering, NothingRequest nothing) =>
        entering.Open.State.Undoable is { } last
            ? new Undone(last.Sequence)
            : throw new RefusedException("", "Nothing is left to take back.");

    public static JobEvent Verdict(Entering entering, NothingRequest nothing)
    {
        var open = entering.Open;
        if (!open.State.ComplaintTold)
        {
            throw new RefusedException("", "Write the complaint down first.");
        }

        return JobVerdict.Standing(open)
            ?? throw new RefusedException("", "Nothing stands clear yet: measure on. /next-test says what.");
    }

    public static JobEvent Truth(Entering entering, NothingRequest nothing) =>
        !entering.Open.State.ComplaintTold
            ? throw new RefusedException("", "Write the complaint down first.")
            : JobVerdict.Truth(entering.Open)
                ?? throw new RefusedException("", "Only a lamp, a gauge or an alarm can tell the truth; this is none.");

    public static JobEvent Lead(Entering entering, LeadRequest wanted)
    {
        var open = entering.Open;
        if (wanted.FailsAgain is { } again)
        {
            return new LeadOff(again);
        }

        if (wanted.Worked is not { } worked)
        {
            throw new RefusedException(
                "worked",
                "Say \"worked\" for the lead on, or \"failsAgain\" for the lead off again."
            );
        }

        var fault = open.Diagnosis.Beliefs.Suspects.FirstOrDefault(s => s.Id == open.State.Verdict?.On)?.Likeliest;
        return fault is not null && ClipLead.For(open.Kit, fault) is { } clip
            ? new LeadPut(clip.From, clip.To, worked)
            : throw new RefusedException("", "No lead stands in for what the verdict names.");
    }

    public static JobEvent Repair(Entering entering, RepairRequest wanted) =>
        RepairText.Check(wanted.Done, wanted.Parts ?? "", wanted.Minutes) is { } refusal
            ? throw new RefusedException(refusal.Field, refusal.Message)
            : new RepairDone(RepairText.Plain(wanted.Done), RepairText.Plain(wanted.Parts), wanted.Minutes);

    public static JobEvent Proof(Entering entering, ProofRequest wanted)
    {
        var open = entering.Open;
        if (open.State.Repair is null)
        {
            throw new RefusedException("", "Write down what was done first; then it is proved.");
        }

        var checks = JobProof.Of(open.Diagnosis).Checks;
        if (checks.FirstOrDefault(c => c.Check.Id.Text == wanted.Check)?.Check is not { } check)
        {
            throw new RefusedException("check", "Not a check of this job; GET proof lists them.");
        }

        if (check.Id is not ReadingCheck reading || JobProof.PairOf(open.Kit, reading) is not { } at)
        {
            return wanted.Passed is { } passed
                ? new ProofGiven(check.Id, passed && !wanted.Better, null)
                {
                    IsBetter = wanted.Better && check.Id is RepeatsCheck,
                }
                : throw new RefusedException("passed", "Say whether it passed.");
        }

        if (open.Kit.Table.Conditions[at.Condition].Observable.Read(wanted.Reading, out var error) is not { } figure)
        {
            throw new RefusedException("reading", error);
        }

        var scaled = JobDiagnosis.Scaled(open.Kit, open.Meter, at, figure.Value)!.Value;
        return new ProofGiven(
            check.Id,
            JobProof.Passes(open.Diagnosis.Beliefs, at, scaled),
            wanted.Reading!.Trim(),
            JobProof.AtOf(reading)
        );
    }

    public static JobEvent BypassRemoved(Entering entering, BypassRequest wanted) =>
        new BypassRemoved(BypassId.Of(wanted.Bypass));

    public static JobEvent Close(Entering entering, CloseRequest wanted)
    {
        var note = (wanted.Note ?? "").ReplaceLineEndings(" ").Trim();
        return note.Length > MostNote ? throw new RefusedException("note", $"At most {MostNote} characters.")
            : entering.Open.State.Repair is null
                ? throw new RefusedException("", "Write down what was done before the job is closed.")
            : new JobClosed(JobProof.Of(entering.Open.Diagnosis).Proved, note);
    }

    private static string Named<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());

    private static IEnumerable<T> Each<T>(IReadOnlyList<T>? items, string field) =>
        (items ?? []).Select((item, i) => item ?? throw new RefusedException($"{field}[{i}]", "Must not be null."));

    private static NamedSetting? SettingOf(OpenJob open, Duty own, Dictionary<string, string>? given)
    {
        if (given is null)
        {
            return null;
        }

        var told = ApiSetting.Of(open.Circuit, given, "setting");
        return told.Equals(open.Circuit.Setting(own.Setting)) ? null : told.Named(open.Machine);
    }

    private static LampSeen Lamp(OpenJob open, LampRequest lamp, string field) =>
        new(
            new PartId(lamp.Lamp),
            ApiSetting.Of(open.Circuit, lamp.Setting, field + ".setting").Named(open.Machine),
            lamp.Speed,
            lamp.Look
        );

    /// <summary>
    /// Where a reading was taken: in a condition by number, as next-test gives it, or by setting for volts. What is not read
    /// for this complaint would weigh nothing, and is refused.
    /// </summary>
    private static ProbePair At(
        OpenJob open,
        int? condition,
        Dictionary<string, string>? setting,
        string red,
        string black
    )
    {
        var conditions = open.Kit.Table.Conditions;
        if (condition is { } given && (given < 0 || given >= conditions.Count))
        {
            throw new RefusedException("condition", $"Allowed: 0 to {conditions.Count - 1}.");
        }

        var at = new ProbePair(
            condition ?? ConditionOf(open, setting),
            MachineApi.Point(open.Circuit, red, "red"),
            MachineApi.Point(open.Circuit, black, "black")
        );
        return open.Kit.Reads(at)
            ? at
            : throw new RefusedException(
                "red",
                $"In this condition ({conditions[at.Condition].Words}) nothing is read between these two points; next-test says what is."
            );
    }

    private static int ConditionOf(OpenJob open, Dictionary<string, string>? setting)
    {
        var wanted = ApiSetting.Of(open.Circuit, setting, "setting");
        var conditions = open.Kit.Table.Conditions.ToList();
        var index = conditions.FindIndex(c => c.IsFree && c.Setting.Equals(wanted));
        return index >= 0
            ? index
            : throw new RefusedException(
                "setting",
                $"Volts for this complaint are read in: {string.Join("; ", conditions.Where(c => c.IsFree).Select(c => c.Words))}."
            );
    }
}
