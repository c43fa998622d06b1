using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring.Plugs;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>What is decided about one side.</summary>
/// <param name="Keeps">Parts that stay.</param>
/// <param name="Cuts">Wires cut through.</param>
public sealed record SideSketch(IReadOnlyList<PartId> Keeps, IReadOnlyList<WireId> Cuts);

/// <summary>A rewire as it stands, apart from the machines that it is about: what is kept of a step.</summary>
/// <param name="Host">The machine that is rewired.</param>
/// <param name="Donor">What comes in; null where nothing does.</param>
/// <param name="Joins">Joins planned.</param>
/// <param name="Made">Joins that are made already, by their first ends.</param>
public sealed record RewireSketch(
    SideSketch Host,
    SideSketch? Donor,
    IReadOnlyList<Join> Joins,
    IReadOnlyList<EndKey> Made
)
{
    /// <summary>Metres of wire behind loose ends, as built.</summary>
    public IReadOnlyDictionary<EndKey, Metres> AsBuilt { get; init; } = new Dictionary<EndKey, Metres>();

    /// <summary>
    /// Where a rewire begins: all of the host stays, nothing of the donor has come yet; of a plug drawn by hand, on either side,
    /// what is behind the half in hand.
    /// </summary>
    public static RewireSketch Start(Machine host, Machine? donor) =>
        new(
            new SideSketch(HandPlug.Own(host) ?? [.. host.Parts.Select(p => p.Id)], []),
            donor is null ? null : new SideSketch(HandPlug.Own(donor) ?? [], []),
            [],
            []
        );

    /// <summary>
    /// The plan on its machines. Joins whose ends or landings are there no more, because something else stays now, are left
    /// out; they are back when that is taken back.
    /// </summary>
    public RewirePlan On(Machine host, Machine? donor)
    {
        var plan = new RewirePlan(
            new RewireSide(SideKey.Host, host, Host.Keeps, Host.Cuts),
            donor is null || Donor is null ? null : new RewireSide(SideKey.Donor, donor, Donor.Keeps, Donor.Cuts),
            []
        );
        var loose = plan.Flags.Select(f => f.End).ToHashSet();
        plan = plan with { AsBuilt = AsBuilt.Where(l => loose.Contains(l.Key)).ToDictionary(l => l.Key, l => l.Value) };
        foreach (var join in Joins)
        {
            var ends = join.Ends.Where(loose.Contains).Distinct().ToList();
            var lands = join.Onto?.PartIn(plan) is not null;
            if (join.Onto is null ? ends.Count > 1 : lands && ends.Count > 0)
            {
                plan = plan.With(join with { Ends = ends });
            }
        }

        // Numbered as a reader goes down the flags, whatever was joined first.
        var flag = plan.Flags.ToDictionary(f => f.End, f => f.Flag);
        return plan with { Joins = [.. plan.Joins.OrderBy(j => j.Ends.Min(e => flag[e]))] };
    }

    /// <summary>Whether a join is made.</summary>
    public bool IsMade(Join join) => Made.Contains(join.Ends[0]);
}
