using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring.Templates;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>
/// What is joined: two ends or more in one joint, or one and more onto a terminal that stays. Bolted metal goes onto a body.
/// </summary>
/// <param name="Ends">The ends.</param>
/// <param name="Onto">What they are landed on; null for a joint of their own.</param>
public sealed record Join(IReadOnlyList<EndKey> Ends, Landing? Onto = null)
{
    /// <summary>Whether it is a jumper for a while, for timing or service: it comes out before the machine goes back to work.</summary>
    public bool IsTemporary { get; init; }
}

/// <summary>A terminal of a part that stays, for ends to land on.</summary>
/// <param name="Side">Its side.</param>
/// <param name="At">The terminal.</param>
public sealed record Landing(SideKey Side, TerminalAddress At)
{
    /// <summary>As written in forms: "host:frame.loom bolt".</summary>
    public string Text => SideKeys.Mark(Side) + At.Text;

    /// <summary>What a text stands for; null when it stands for none.</summary>
    public static Landing? Parse(string? text) =>
        SideKeys.Split(text) is var (side, rest) ? new Landing(side, TerminalAddress.Of(rest)) : null;

    /// <summary>The part that it is on, where that stays and has such a terminal; null otherwise.</summary>
    public Part? PartIn(RewirePlan plan) =>
        plan.Side(Side) is { } side
        && side.Has(At.Part)
        && side.Machine.Index.PartAt(At) is { } part
        && part.Terminals.Contains(At.Terminal)
            ? part
            : null;
}

/// <summary>A rewire as planned: what stays of each machine, and what is joined.</summary>
/// <param name="Host">The machine that is rewired.</param>
/// <param name="Donor">What comes into it; null where it is joined to itself.</param>
/// <param name="Joins">Joins, in the order they were planned.</param>
public sealed record RewirePlan(RewireSide Host, RewireSide? Donor, IReadOnlyList<Join> Joins)
{
    /// <summary>Metres of wire behind a loose end as built, from the part that it stays on to its joint; as drawn where not told.</summary>
    public IReadOnlyDictionary<EndKey, Metres> AsBuilt { get; init; } = new Dictionary<EndKey, Metres>();

    /// <summary>The circuit that is added, still on its spools; null where what comes in is there already, or nothing does.</summary>
    public CircuitTemplate? Added => CircuitTemplate.All.FirstOrDefault(t => t.Id == Donor?.Whole.Id);

    /// <summary>The same as the machine goes back to work: temporary joins are out.</summary>
    public RewirePlan ForWork => this with { Joins = [.. Joins.Where(j => !j.IsTemporary)] };

    /// <summary>Whether something in it comes out again.</summary>
    public bool HasJumpers => Joins.Any(j => j.IsTemporary);

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
