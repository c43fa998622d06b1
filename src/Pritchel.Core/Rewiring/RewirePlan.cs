using Pritchel.Core.Identity;

namespace Pritchel.Core.Rewiring;

/// <summary>
/// What is joined: two ends or more in one joint, or one and more onto a terminal that stays. Bolted metal goes onto a body.
/// </summary>
/// <param name="Ends">The ends.</param>
/// <param name="Onto">Terminal that they are landed on; null for a joint of their own.</param>
/// <param name="OntoSide">Side of that terminal.</param>
public sealed record Join(IReadOnlyList<EndKey> Ends, TerminalAddress? Onto = null, SideKey OntoSide = SideKey.Host);

/// <summary>A rewire as planned: what stays of each machine, and what is joined.</summary>
/// <param name="Host">The machine that is rewired.</param>
/// <param name="Donor">What comes into it; null where it is joined to itself.</param>
/// <param name="Joins">Joins, in the order they were planned.</param>
public sealed record RewirePlan(RewireSide Host, RewireSide? Donor, IReadOnlyList<Join> Joins)
{
    /// <summary>Its sides.</summary>
    public IEnumerable<RewireSide> Sides => Donor is null ? [Host] : [Host, Donor];

    /// <summary>A side by its key.</summary>
    public RewireSide? Side(SideKey key) => key == SideKey.Host ? Host : Donor;

    /// <summary>Every loose end with the number of its flag: the host's first. Numbers change only with what stays.</summary>
    public IReadOnlyList<(int Flag, EndKey End)> Flags =>
        [.. Sides.SelectMany(s => s.LooseEnds).Select((e, i) => (i + 1, e))];

    /// <summary>The join that an end is in, or null.</summary>
    public Join? JoinOf(EndKey end) => Joins.FirstOrDefault(j => j.Ends.Contains(end));

    /// <summary>The same with ends joined; they leave whatever they were in.</summary>
    public RewirePlan With(Join join)
    {
        var without = join.Ends.Aggregate(this, (plan, end) => plan.Without(end));
        return without with { Joins = [.. without.Joins, join] };
    }

    /// <summary>The same with an end loose again; what it leaves alone in a joint is loose too.</summary>
    public RewirePlan Without(EndKey end) =>
        this with
        {
            Joins =
            [
                .. Joins
                    .Select(j => j with { Ends = [.. j.Ends.Where(e => e != end)] })
                    .Where(j => j.Ends.Count > 1 || (j.Ends.Count == 1 && j.Onto is not null)),
            ],
        };
}
