using System.Globalization;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>Joins that are made with one cover off.</summary>
/// <param name="Place">Where; null for what is made on the bench.</param>
/// <param name="Lines">The joins.</param>
public sealed record BuildStage(Place? Place, IReadOnlyList<SpliceLine> Lines);

/// <summary>
/// In what order a rewire is built: first what can no longer be got at once the rest is in, so that nothing is undone to make the next
/// thing. What comes in is joined to itself on the bench; then metal, straps and cables, which everything is measured against; then
/// leads, the place that is longest to reach first, since what closes over it goes on after. Common practice, no source.
/// </summary>
/// <param name="Passes">Leads to be passed to where they are joined, the thickest bundle first, in words.</param>
/// <param name="Stages">The joins, stage by stage.</param>
public sealed record BuildOrder(IReadOnlyList<string> Passes, IReadOnlyList<BuildStage> Stages)
{
    /// <summary>All joins in their order.</summary>
    public IEnumerable<SpliceLine> Lines => Stages.SelectMany(s => s.Lines);

    /// <summary>The order for a plan and its joins.</summary>
    public static BuildOrder Of(RewirePlan plan, IReadOnlyList<SpliceLine> lines)
    {
        var onBench = lines.Where(l => IsOnBench(plan, l)).ToList();
        var stages = lines
            .Except(onBench)
            .GroupBy(l => (Place: PlaceOf(plan, l), IsMetal: IsMetal(plan, l)))
            .OrderByDescending(g => g.Key.IsMetal)
            .ThenByDescending(g => g.Key.Place.Minutes)
            .ThenBy(g => g.Min(l => l.Number))
            .Select(g => new BuildStage(g.Key.Place, [.. g]));
        return new BuildOrder(
            [.. PassesOf(plan, [.. lines.Except(onBench)])],
            [.. onBench.Count == 0 ? [] : new[] { new BuildStage(null, onBench) }, .. stages]
        );
    }

    /// <summary>Whether all of a join comes in from elsewhere, so that it can be made before it does.</summary>
    private static bool IsOnBench(RewirePlan plan, SpliceLine line) =>
        plan.Added is null
        && line.Ends.All(e => e.End.Side == SideKey.Donor)
        && line.Join.Onto is null or { Side: SideKey.Donor };

    /// <summary>Whether it is bolted metal or a cable.</summary>
    private static bool IsMetal(RewirePlan plan, SpliceLine line) =>
        line.Ends.Any(e =>
            e.End.Mount is not null || plan.Side(e.End.Side)!.Machine.Index.Wire(e.End.Wire!.Value.Wire)!.Cable == true
        );

    /// <summary>Where a join is made: at the machine that is rewired, where it has a part in it.</summary>
    private static Place PlaceOf(RewirePlan plan, SpliceLine line)
    {
        if (line.Join.Onto is { } onto && onto.PartIn(plan) is { } part)
        {
            return MachineWords.PlaceOf(plan.Side(onto.Side)!.Machine, part);
        }

        return PlaceOf(plan, line.Ends.MinBy(e => e.End.Side)!.End);
    }

    /// <summary>Where an end was joined before it was loose.</summary>
    private static Place PlaceOf(RewirePlan plan, EndKey end)
    {
        var machine = plan.Side(end.Side)!.Machine;
        var at = end.Mount is { } mount
            ? machine.Index.Mount(mount)!.Terminal
            : machine.Index.TerminalOf(end.Wire!.Value)!.Value;
        return MachineWords.PlaceOf(machine, machine.Index.PartAt(at)!);
    }

    /// <summary>Leads that have to go from the part that they stay on to a place where they were not before.</summary>
    private static IEnumerable<string> PassesOf(RewirePlan plan, IReadOnlyList<SpliceLine> lines)
    {
        var passed =
            from line in lines
            let place = PlaceOf(plan, line)
            from end in line.Ends
            where end.End.Wire is not null
            where end.End.Side == SideKey.Donor || PlaceOf(plan, end.End).Id != place.Id
            group end.Flag by (From: Stays(plan, end.End), To: place.Name);
        return passed
            .OrderByDescending(p => p.Count())
            .ThenBy(p => p.Min())
            .Select(p =>
                $"from {p.Key.From} to {p.Key.To}: {(p.Count() == 1 ? "flag" : "flags")} {string.Join(", ", p.Order().Select(f => f.ToString(CultureInfo.InvariantCulture)))}"
            );
    }

    /// <summary>The part on which the lead behind a loose end stays.</summary>
    private static string Stays(RewirePlan plan, EndKey end)
    {
        var machine = plan.Side(end.Side)!.Machine;
        return machine.Index.PartAt(machine.Index.TerminalOf(end.Wire!.Value.Other)!.Value)!.Name;
    }
}
