using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>A loose end as it is told on every screen and paper: by its flag first, since colours repeat and fade.</summary>
/// <param name="Flag">Number of its flag.</param>
/// <param name="End">The end.</param>
/// <param name="Where">Where it was: cavity, terminal or body.</param>
/// <param name="Colours">Colours of its wire; none for bolted metal.</param>
/// <param name="Gauge">Its conductor; empty for bolted metal.</param>
/// <param name="Function">What it is for.</param>
public sealed record FlaggedEnd(
    int Flag,
    EndKey End,
    string Where,
    IReadOnlyList<string> Colours,
    string Gauge,
    EndFunction Function
)
{
    /// <summary>Every loose end of a plan.</summary>
    public static IReadOnlyList<FlaggedEnd> Of(RewirePlan plan, IReadOnlyList<EndFunction> functions)
    {
        var known = functions.ToDictionary(f => f.End);
        return [.. plan.Flags.Select(f => Of(plan, f.Flag, known[f.End]))];
    }

    private static FlaggedEnd Of(RewirePlan plan, int flag, EndFunction function)
    {
        var machine = plan.Side(function.End.Side)!.Machine;
        if (function.End.Mount is { } id)
        {
            var mount = machine.Index.Mount(id)!;
            return new FlaggedEnd(flag, function.End, mount.Name, [], "", function);
        }

        var end = function.End.Wire!.Value;
        var wire = machine.Index.Wire(end.Wire)!;
        var at = wire.End(end.Side).At;
        var part = machine.Index.PartAt(at)!;
        var where =
            part.Kind == PartKinds.Coupling ? $"{part.Name}, cavity {Cavity.NameOf(at.Terminal)}"
            : part.Kind == PartKinds.Splice ? part.Name
            : $"{part.Name}, {at.Terminal}";
        return new FlaggedEnd(flag, function.End, where, wire.Colours, RewireWords.Gauge(wire.Gauge), function);
    }
}

/// <summary>One line of the splice table.</summary>
/// <param name="Number">Number of the join; its sleeve bears it.</param>
/// <param name="Join">The join.</param>
/// <param name="Ends">Its ends.</param>
/// <param name="Onto">Where it is landed, in words; null for a joint of its own.</param>
/// <param name="How">How it is made.</param>
public sealed record SpliceLine(int Number, Join Join, IReadOnlyList<FlaggedEnd> Ends, string? Onto, string How);

/// <summary>Joins as they are built, and the order of the work.</summary>
public static class SpliceTable
{
    /// <summary>The lines of a plan.</summary>
    public static IReadOnlyList<SpliceLine> Of(RewirePlan plan, IReadOnlyList<FlaggedEnd> ends) =>
        [
            .. plan.Joins.Select(
                (j, i) =>
                    new SpliceLine(
                        i + 1,
                        j,
                        [.. ends.Where(e => j.Ends.Contains(e.End)).OrderBy(e => e.Flag)],
                        Onto(plan, j),
                        How(plan, j, [.. ends.Where(e => j.Ends.Contains(e.End))])
                    )
            ),
        ];

    /// <summary>Steps of building, each with what must be so before it; nothing permanent before the hold.</summary>
    public static IReadOnlyList<string> Steps(
        RewirePlan plan,
        IReadOnlyList<SpliceLine> lines,
        IReadOnlyList<FlaggedEnd> ends
    )
    {
        var capped = ends.Where(e => plan.JoinOf(e.End) is null).ToList();
        string Flags(IReadOnlyList<FlaggedEnd> of) =>
            (of.Count == 1 ? "flag " : "flags ")
            + string.Join(", ", of.Select(e => e.Flag.ToString(CultureInfo.InvariantCulture)));
        var order = BuildOrder.Of(plan, [.. lines.Where(l => !l.Join.IsTemporary)]);
        IEnumerable<string> Joins(IEnumerable<BuildStage> stages) =>
            stages.SelectMany(s =>
                s.Lines.Select(l =>
                        $"Join {l.Number}: {Flags(l.Ends)}{(l.Onto is { } onto ? " onto " + onto : "")}. Sleeve on first. {l.How}. Tug it."
                    )
                    .Prepend(
                        s.Place is not { } place
                            ? $"HOLD on the bench, before it goes in: what joins {plan.Donor!.Machine.Name} to itself is twisted and read back; then for good:"
                            : $"At {place.Name}{(place.Opens is { } opens ? $" ({opens})" : "")}:"
                    )
            );
        return
        [
            "Battery's negative lead off and tied back. Fuel tap shut; petrol vapour out of the space before any heat or spark.",
            $"Flags 1 to {ends.Count} on their wires, on both sides of every cut, before the first cut. Photograph both plugs with the tab in view.",
            .. plan
                .Sides.Where(s => s.Cuts.Count > 0)
                .Select(s =>
                    $"Cut through {string.Join(", ", s.Cuts.Select(c => "wire " + c))} on {s.Machine.Name}: bright copper on both halves, or cut farther back."
                ),
            .. order.Passes.Count == 0
                ? Array.Empty<string>()
                :
                [
                    "Pass through frame and grommet before terminals, housings and sleeves go on, the thickest bundle first: "
                        + string.Join("; ", order.Passes)
                        + ". What a hole has passed with its housing on is cut off again.",
                ],
            "Dry-fit: nothing on an edge, nothing near the exhaust, slack where it flexes.",
            .. Joins(order.Stages.Where(s => s.Place is null)),
            "HOLD. All pairs twisted or clipped, nothing permanent. Read every flag back against the table below, aloud where there are two of you.",
            .. Joins(order.Stages.Where(s => s.Place is not null)),
            .. capped.Count == 0
                ? Array.Empty<string>()
                : [$"Left over, {Flags(capped)}: cut close, capped and sleeved one by one. None is left bare."],
            "First power: a lamp in place of the main fuse. Each key position without cranking: it glows no brighter than the loads ask.",
            "Stops before starts: prove every kill lead with the meter, key and each interlock, before the engine is turned.",
            "Crank with the spark disabled and the plug lead grounded; then start with a hand on the stop: "
                + plan.Host.Machine.StopByHand,
            "Try every stop with it running. Charging volts against the proof.",
            .. lines
                .Where(l => l.Join.IsTemporary)
                .Select(l =>
                    $"Jumper {l.Number}, only while timing or service needs it: {Flags(l.Ends)}{(l.Onto is { } onto ? " onto " + onto : "")}, a clip lead with a long red tail, never taped in. OUT AGAIN: its flags capped, and every stop tried once more."
                ),
            "Covers on last; this table goes with the machine's papers.",
        ];
    }

    private static string? Onto(RewirePlan plan, Join join) =>
        join.Onto is { } onto
            ? $"{onto.PartIn(plan)?.Name} {onto.At.Terminal} ({plan.Side(onto.Side)?.Machine.Name})"
            : null;

    private static string How(RewirePlan plan, Join join, List<FlaggedEnd> ends)
    {
        if (join.Onto is not null)
        {
            return ends.Exists(e => e.End.Mount is not null)
                ? "Bright metal under the bolt, star washer"
                : "New terminal, crimped with its own die";
        }

        var gauges = ends.Select(e => e.Gauge).Distinct(StringComparer.Ordinal).ToList();
        var wet = plan.Host.Machine.PetrolVapour == true;
        return "Adhesive-lined crimp butt"
            + (
                gauges.Count > 1
                    ? $", {string.Join(" and ", gauges)} are unlike: a step-down butt, or the thin one folded double"
                    : $" for {gauges.FirstOrDefault()}"
            )
            + (ends.Count > 2 ? "; three in one barrel only if it is made for them" : "")
            + (wet ? ". Cold joint only here: no flame, no iron" : "");
    }
}
