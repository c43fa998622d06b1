using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;

namespace Pritchel.Data.Events;

/// <summary>Turns what events are about into what the record keeps of it, and back.</summary>
internal static class StoredThings
{
    public static StoredPoint Keep(PointId point) =>
        point.WireEnd is { } end
            ? new(null, null, end.Wire.Text, Names.Side.Of(end.Side))
            : new(point.Terminal!.Value.Part.Text, point.Terminal.Value.Terminal.Text ?? "", null, null);

    public static PointId Restore(StoredPoint point) =>
        point switch
        {
            { Wire: { } wire, End: { } end } => EndOf(wire, end),
            { Part: { } part, Terminal: { } terminal } => new PartId(part).At(terminal),
            _ => throw new UnreadableException("A point is neither a terminal nor a wire's end."),
        };

    public static StoredOff Keep(Disconnection off) =>
        off.WireEnd is { } end
            ? new(null, end.Wire.Text, Names.Side.Of(end.Side))
            : new(off.Coupling!.Value.Text, null, null);

    public static Disconnection Restore(StoredOff off) =>
        off switch
        {
            { Wire: { } wire, End: { } end } => EndOf(wire, end),
            { Coupling: { } coupling } => new PartId(coupling),
            _ => throw new UnreadableException("What is off is neither a coupling nor a wire's end."),
        };

    public static StoredRepair Keep(RepairId repair) => new(Names.Repair.Of(repair.Target), repair.Name);

    public static RepairId Restore(StoredRepair repair) => new(Names.Repair.Read(repair.Target), repair.Name);

    public static StoredAlteration Keep(AlterationId altered) =>
        new(
            Names.AlteredBy.Of(altered.By),
            altered.Part?.Text,
            altered.By == AlteredBy.Bridged ? altered.Contact.Text : null,
            altered.Wire?.Text
        );

    public static AlterationId Restore(StoredAlteration altered) =>
        (Names.AlteredBy.Read(altered.By), altered) switch
        {
            (AlteredBy.Bridged, { Part: { } part, Contact: { } contact }) => AlterationId.Bridged(
                new PartId(part),
                new ContactId(contact)
            ),
            (AlteredBy.Apart, { Part: { } part }) => AlterationId.Apart(new PartId(part)),
            (AlteredBy.Off, { Wire: { } wire }) => AlterationId.Off(new WireId(wire)),
            _ => throw new UnreadableException("An alteration lacks what was altered."),
        };

    public static StoredBypass Keep(BypassId bypass) =>
        bypass.Found is { } found ? new(Keep(found), null, null) : new(null, Keep(bypass.From), Keep(bypass.To));

    public static BypassId Restore(StoredBypass bypass) =>
        bypass switch
        {
            { Found: { } found } => Restore(found),
            { From: { } from, To: { } to } => BypassId.Lead(Restore(from), Restore(to)),
            _ => throw new UnreadableException("A bypass is neither an alteration nor a lead."),
        };

    public static SortedDictionary<string, string> Keep(NamedSetting setting) =>
        new(setting.ToDictionary(s => s.Key.Text, s => s.Value.Text), StringComparer.Ordinal);

    public static NamedSetting Restore(SortedDictionary<string, string> setting) =>
        new(setting.Select(s => KeyValuePair.Create(new ControlId(s.Key), new PositionId(s.Value))));

    public static StoredProbes Keep(ProbedAt at) => new(Keep(at.Condition), Keep(at.Red), Keep(at.Black));

    public static ProbedAt Restore(StoredProbes at) => new(Restore(at.Condition), Restore(at.Red), Restore(at.Black));

    public static StoredCondition Keep(ConditionKey condition) =>
        new(
            condition.Observable,
            Keep(condition.Setting),
            Names.Speed.Of(condition.Speed),
            [.. condition.Off.Select(Keep)],
            condition.Joined is { } joined
                ? new(Keep(joined.From), Keep(joined.To), Names.Joins.Of(joined.Kind))
                : null,
            Names.Tester.Of(condition.Tester)
        );

    /// <summary>A condition; what it reads must be known here, or its figures would say nothing.</summary>
    public static ConditionKey Restore(StoredCondition condition) =>
        new(
            (
                ObservableCatalogue.Named(condition.Reads)
                ?? throw new UnreadableException($"What was read, “{condition.Reads}”, is not known to this version.")
            ).Key,
            Restore(condition.Setting),
            Names.Speed.Read(condition.Speed),
            [.. condition.Off.Select(Restore)],
            condition.Joined is { } joined
                ? new(Restore(joined.From), Restore(joined.To), Names.Joins.Read(joined.By))
                : null,
            Names.Tester.Read(condition.Tester)
        );

    private static WireEndId EndOf(string wire, string end) => new(new WireId(wire), Names.Side.Read(end));
}
