using System.Text.Json;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Core.Units;
using static Pritchel.Data.Events.StoredThings;

namespace Pritchel.Data.Events;

/// <summary>Writes and reads events of jobs in the record's own format, which docs/architecture.md describes.</summary>
public static class EventFormat
{
    /// <summary>Version written.</summary>
    public const int Version = 2;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        RespectNullableAnnotations = true,
        AllowOutOfOrderMetadataProperties = true,
        DefaultIgnoreCondition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull,
    };

    /// <summary>An event as the record keeps it.</summary>
    /// <exception cref="ArgumentException">It is one that could not be read.</exception>
    public static string Write(JobEvent what) => JsonSerializer.Serialize(Store(what), Json);

    /// <summary>An event as kept. What cannot be read comes back as <see cref="UnreadableEvent"/>, with the reason.</summary>
    public static JobEvent Read(string body)
    {
        try
        {
            var version = VersionOf(body);
            return version == Version ? Read(JsonSerializer.Deserialize<StoredEvent>(body, Json)!)
                : version < Version
                    ? new UnreadableEvent("it is still in the first format, from which it could not be brought over")
                : new UnreadableEvent($"it was written in format {version}, by a newer version of this program");
        }
        catch (UnreadableException e)
        {
            return new UnreadableEvent(e.Message.TrimEnd('.'));
        }
        catch (Exception e)
            when (e is JsonException or NotSupportedException or InvalidOperationException or NullReferenceException)
        {
            return new UnreadableEvent("its text is damaged");
        }
    }

    /// <summary>Version of an event's format.</summary>
    internal static int VersionOf(string body)
    {
        using var parsed = JsonDocument.Parse(body);
        return parsed.RootElement.TryGetProperty("v", out var v) ? v.GetInt32() : 1;
    }

    private static StoredEvent Store(JobEvent what) =>
        what switch
        {
            ComplaintMade made => Store(made.Complaint),
            ReadingTaken taken => new StoredReading(
                Keep(taken.At),
                taken.Typed,
                taken.Figure is { } figure ? FigureOf(taken.At, figure) : null,
                Names.Symptom.Of(taken.Symptom),
                taken.Besides ? true : null
            ),
            TestPassedOver passed => new StoredPassedOver(
                Keep(passed.At),
                passed.Place?.Text,
                Names.PassedOver.Of(passed.Why)
            ),
            LookedAt look => new StoredLook(Keep(look.Repair), Names.Found.Of(look.Found)),
            Wiggled wiggled => new StoredWiggle(
                wiggled.Place.Text,
                wiggled.Repair is { } alone ? Keep(alone) : null,
                Names.WiggledBy.Of(wiggled.By),
                wiggled.Changed,
                wiggled.Watched is { } watched ? Keep(watched) : null
            ),
            PartTested tested => new StoredPartTested(
                tested.Part.Text,
                tested.Good,
                tested.Words,
                tested.Sheet,
                [.. tested.Unseen.Select(f => new StoredFault(f.Of.Name ?? "", f.Role))]
            ),
            HelpChanged help => new StoredHelp(help.Alone),
            Undone undone => new StoredUndo(undone.Sequence),
            VerdictTaken verdict => new StoredVerdict(
                Names.Suspect.Of(verdict.On.Kind),
                verdict.On.Repair is { } repair ? Keep(repair) : null,
                verdict.Words,
                verdict.Share
            ),
            MeasuredOn => new StoredMeasureOn(),
            PartsPriced priced => new StoredPrices(
                [.. priced.Prices.Select(p => new StoredPrice(Keep(p.Key), p.Value.Value))],
                priced.Terms.Hour.Value,
                priced.Terms.Trip.Value,
                priced.Terms.Days,
                priced.Terms.Day.Value,
                priced.WorthMended?.Value,
                priced.WorthInParts?.Value
            ),
            LeadPut put => new StoredLeadPut(Keep(put.From), Keep(put.To), put.Worked),
            LeadOff off => new StoredLeadOff(off.FailsAgain),
            RepairDone done => new StoredRepairDone(done.Done, done.Parts, done.Minutes),
            ProofGiven proof => new StoredProof(
                Store(proof.Check),
                proof.Passed,
                proof.Typed,
                proof.At is { } at ? Keep(at) : null,
                proof.IsBetter ? true : null
            ),
            BypassRemoved removed => new StoredBypassRemoved(Keep(removed.Bypass)),
            JobClosed closed => new StoredClosed(closed.Proved, closed.Note),
            _ => throw new ArgumentException($"{what.GetType().Name} is not kept.", nameof(what)),
        };

    private static JobEvent Read(StoredEvent stored) =>
        stored switch
        {
            StoredComplaint complaint => new ComplaintMade(ReadComplaint(complaint)),
            StoredReading taken => new ReadingTaken(
                Restore(taken.At),
                taken.Typed,
                taken.Figure is { } figure ? Figure(taken.At, figure) : null,
                Names.Symptom.Read(taken.Symptom),
                taken.Besides ?? false
            ),
            StoredPassedOver passed => new TestPassedOver(
                Restore(passed.At),
                passed.Place is { } place ? new PlaceId(place) : null,
                Names.PassedOver.Read(passed.Why)
            ),
            StoredLook look => new LookedAt(Restore(look.Repair), Names.Found.Read(look.Found)),
            StoredWiggle wiggled => new Wiggled(
                new PlaceId(wiggled.Place),
                wiggled.Repair is { } alone ? Restore(alone) : null,
                Names.WiggledBy.Read(wiggled.By),
                wiggled.Changed,
                wiggled.Watched is { } watched ? Restore(watched) : null
            ),
            StoredPartTested tested => new PartTested(
                new PartId(tested.Part),
                tested.Good,
                tested.Words,
                tested.Sheet,
                [
                    .. tested.Unseen.Select(f => new FaultId(
                        new Element(Owner.Of(new PartId(tested.Part)), f.Element),
                        f.Role
                    )),
                ]
            ),
            StoredHelp help => new HelpChanged(help.Alone),
            StoredUndo undone => new Undone(undone.Sequence),
            StoredVerdict verdict => new VerdictTaken(On(verdict), verdict.Words, verdict.Share),
            StoredMeasureOn => new MeasuredOn(),
            StoredPrices priced => new PartsPriced(
                priced.Prices.ToDictionary(p => Restore(p.Repair), p => new Money(p.Price)),
                new OrderTerms(new Money(priced.Hour), new Money(priced.Trip), priced.Days, new Money(priced.Day)),
                priced.WorthMended is { } mended ? new Money(mended) : null,
                priced.WorthInParts is { } parts ? new Money(parts) : null
            ),
            StoredLeadPut put => new LeadPut(Restore(put.From), Restore(put.To), put.Worked),
            StoredLeadOff off => new LeadOff(off.FailsAgain),
            StoredRepairDone done => new RepairDone(done.Done, done.Parts, done.Minutes),
            StoredProof proof => new ProofGiven(
                Read(proof.Check),
                proof.Passed,
                proof.Typed,
                proof.At is { } at ? Restore(at) : null
            )
            {
                IsBetter = proof.Better == true,
            },
            StoredBypassRemoved removed => new BypassRemoved(Restore(removed.Bypass)),
            StoredClosed closed => new JobClosed(closed.Proved, closed.Note),
            _ => throw new UnreadableException("it is of a kind that this version does not know"),
        };

    private static StoredComplaint Store(Complaint complaint) =>
        new(
            complaint.Duty.Text,
            Names.Heard.Of(complaint.Heard),
            [
                .. complaint.Lamps.Select(l => new StoredLamp(
                    l.Lamp.Text,
                    Keep(l.Setting),
                    Names.Speed.Of(l.Speed),
                    Names.LampLook.Of(l.Look)
                )),
            ],
            complaint.Failed,
            complaint.Tried,
            [.. complaint.Bridged.Select(Keep)],
            complaint.Setting is { } setting ? Keep(setting) : null,
            complaint.Speed is { } speed ? Names.Speed.Of(speed) : null,
            [.. complaint.Also.Select(a => new StoredAlso(a.Duty.Text, a.Works))],
            complaint.Codes,
            Store(complaint.Circumstances),
            complaint.Words,
            complaint.WorseWhen.Count == 0 ? null : [.. complaint.WorseWhen.Select(Names.WorseWhen.Of)],
            complaint.Cures.Count == 0
                ? null
                : [.. complaint.Cures.Select(c => new StoredCure(Keep(c.Repair), Names.CureEffect.Of(c.Effect)))],
            complaint.Batteries.Count == 0
                ? null
                :
                [
                    .. complaint.Batteries.Select(b => new StoredBattery(
                        b.Battery.Text,
                        b.Type,
                        b.Charge,
                        b.Warmth?.Value
                    )),
                ],
            complaint.JumpStarted
        );

    private static Complaint ReadComplaint(StoredComplaint stored) =>
        new()
        {
            Duty = new DutyId(stored.Duty),
            Heard = Names.Heard.Read(stored.Heard),
            Lamps =
            [
                .. stored.Lamps.Select(l => new LampSeen(
                    new PartId(l.Lamp),
                    Restore(l.Setting),
                    Names.Speed.Read(l.Speed),
                    Names.LampLook.Read(l.Look)
                )),
            ],
            Failed = stored.Failed,
            Tried = stored.Tried,
            Bridged = [.. stored.Altered.Select(Restore)],
            Setting = stored.Setting is { } setting ? Restore(setting) : null,
            Speed = stored.Speed is { } speed ? Names.Speed.Read(speed) : null,
            Also = [.. stored.Also.Select(a => new AlsoTold(new DutyId(a.Duty), a.Works))],
            Codes = stored.Codes,
            Circumstances = new Circumstances(
                stored.Circumstances.Years,
                stored.Circumstances.Salt,
                stored.Circumstances.Damp,
                stored.Circumstances.Vibration,
                stored.Circumstances.Rodents,
                stored.Circumstances.RecentWork,
                stored.Circumstances.Stored ?? false,
                stored.Circumstances.NewWiring ?? false
            ),
            WorseWhen = [.. (stored.WorseWhen ?? []).Select(Names.WorseWhen.Read)],
            Cures =
            [
                .. (stored.Cures ?? []).Select(c => new CureTried(Restore(c.Repair), Names.CureEffect.Read(c.Effect))),
            ],
            Batteries =
            [
                .. (stored.Batteries ?? []).Select(b => new BatteryAsFound(new PartId(b.Battery))
                {
                    Type = b.Type,
                    Charge = b.Charge,
                    Warmth = b.Celsius is { } celsius ? new Celsius(celsius) : null,
                }),
            ],
            JumpStarted = stored.JumpStarted,
            Words = stored.Words,
        };

    private static StoredCircumstances Store(Circumstances c) =>
        new(
            c.Years,
            c.Salt,
            c.Damp,
            c.Vibration,
            c.Rodents,
            c.RecentWork,
            c.Stored ? true : null,
            c.NewWiring ? true : null
        );

    private static StoredCheck Store(CheckId check) =>
        check switch
        {
            ReadingCheck reading => new StoredReadingCheck(
                Keep(new ProbedAt(reading.Condition, reading.Red, reading.Black))
            ),
            WiggleCheck wiggle => new StoredWiggleCheck(
                wiggle.Place.Text,
                wiggle.Repair is { } repair ? Keep(repair) : null,
                Names.WiggledBy.Of(wiggle.By)
            ),
            RepeatsCheck => new StoredRepeatsCheck(),
            RefusalCheck refusal => new StoredRefusalCheck(Keep(refusal.Setting), Names.Speed.Of(refusal.Speed)),
            StopCheck stop => new StoredStopCheck(Keep(stop.Setting)),
            _ => throw new ArgumentException($"{check.GetType().Name} is not kept.", nameof(check)),
        };

    private static CheckId Read(StoredCheck stored) =>
        stored switch
        {
            StoredReadingCheck { At: var at } => new ReadingCheck(
                Restore(at.Condition),
                Restore(at.Red),
                Restore(at.Black)
            ),
            StoredWiggleCheck wiggle => new WiggleCheck(
                new PlaceId(wiggle.Place),
                wiggle.Repair is { } repair ? Restore(repair) : null,
                Names.WiggledBy.Read(wiggle.By)
            ),
            StoredRepeatsCheck => new RepeatsCheck(),
            StoredRefusalCheck refusal => new RefusalCheck(Restore(refusal.Setting), Names.Speed.Read(refusal.Speed)),
            StoredStopCheck stop => new StopCheck(Restore(stop.Setting)),
            _ => throw new UnreadableException("its check is of a kind that this version does not know"),
        };

    private static SuspectId On(StoredVerdict verdict) =>
        Names.Suspect.Read(verdict.On) switch
        {
            SuspectKind.Sound => SuspectId.Sound,
            SuspectKind.AsDesigned => SuspectId.AsDesigned,
            SuspectKind.None => SuspectId.None,
            _ => Restore(verdict.Repair ?? throw new UnreadableException("A verdict lacks its repair.")),
        };

    private static StoredFigure FigureOf(ProbedAt at, double figure) =>
        new(double.IsInfinity(figure) ? null : figure, UnitOf(at.Condition.Observable), double.IsInfinity(figure));

    private static double Figure(StoredProbes at, StoredFigure figure) =>
        figure switch
        {
            { OpenCircuit: true } => double.PositiveInfinity,
            _ when figure.Unit != UnitOf(at.Condition.Reads) => throw new UnreadableException(
                $"A figure is in {figure.Unit}, which “{at.Condition.Reads}” is not read in."
            ),
            { Value: { } value } => value,
            _ => throw new UnreadableException("A figure is missing."),
        };

    private static string UnitOf(string observable) => ObservableCatalogue.Named(observable)?.Unit ?? "";
}
