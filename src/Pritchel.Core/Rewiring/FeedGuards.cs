using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Rewiring;

/// <summary>How far a fuse may sit from what feeds it.</summary>
public enum FusePlace
{
    /// <summary>Within what a bare lead may run.</summary>
    Near,

    /// <summary>Only where the lead up to it runs in a sheath or conduit of its own.</summary>
    InSheath,

    /// <summary>Only in a sheath, and from the battery's own post.</summary>
    FromBatteryPost,

    /// <summary>Too far however it is laid.</summary>
    TooFar,
}

/// <summary>A fuse or a breaker, what it sits behind and what it protects.</summary>
/// <param name="Part">The fuse.</param>
/// <param name="Rating">Its rating.</param>
/// <param name="Before">
/// Lead without a fuse before it, from the battery or a cranking cable; null where another fuse is before it, or no battery.
/// </param>
/// <param name="FromPost">Whether that lead begins on the battery's own post, and not on a cable's far end.</param>
/// <param name="Thinnest">The wire behind it that may carry least; null where it has none.</param>
public sealed record GuardingFuse(Part Part, Amps Rating, Metres? Before, bool FromPost, Wire? Thinnest)
{
    // A fuse may be up to half as much again as the wire's amps: ABYC E-11, from memory.
    private const double MostShare = 1.5;

    // 7, 40 and 72 inches: ABYC E-11, the clause on where overcurrent protection sits, from memory. Land machines have no such
    // table; as near to the battery as can be is common practice, no source.
    private const double BareMetres = 0.18;
    private const double SheathMetres = 1.02;
    private const double PostMetres = 1.83;

    /// <summary>Amps that the thinnest wire may carry; null where it has none.</summary>
    public Amps? Carries => Thinnest is { } wire ? WireSizing.OfArea(Conductors.Parse(wire.Gauge)!.Value.Area) : null;

    /// <summary>Whether a wire behind it burns before it opens.</summary>
    public bool IsTooLarge => Carries is { } amps && Rating.Value > MostShare * amps.Value;

    /// <summary>Where it sits, by the length before it.</summary>
    public FusePlace Place =>
        Before?.Value switch
        {
            null or <= BareMetres => FusePlace.Near,
            <= SheathMetres => FusePlace.InSheath,
            <= PostMetres when FromPost => FusePlace.FromBatteryPost,
            _ => FusePlace.TooFar,
        };
}

/// <summary>Wires that a battery feeds past every fuse, joined to one another.</summary>
/// <param name="Wires">The wires.</param>
/// <param name="Feeds">Parts that they feed, couplings and splices left out.</param>
/// <param name="Length">Metres of all of them.</param>
public sealed record UnfusedFeed(IReadOnlyList<Wire> Wires, IReadOnlyList<Part> Feeds, Metres Length);

/// <summary>
/// What protects a machine's wires from its batteries: every wire but cranking cables wants a fuse or a breaker between it and
/// a battery, near the battery, and no larger than the thinnest wire behind it bears.
/// </summary>
/// <param name="Fuses">Fuses and breakers, in the order of the file.</param>
/// <param name="Unfused">Feeds that no fuse guards.</param>
public sealed record FeedGuards(IReadOnlyList<GuardingFuse> Fuses, IReadOnlyList<UnfusedFeed> Unfused)
{
    /// <summary>Follows every feed of a machine; contacts are taken as closed, loads and windings lead nowhere.</summary>
    public static FeedGuards Of(Circuit circuit)
    {
        var walk = new FeedWalk(circuit);
        var (fed, posted) = (walk.From(walk.BatteryPosts), walk.From(walk.BatteryPosts, cables: false));
        var behind = walk.Behind(fed.Keys);
        List<GuardingFuse> fuses =
        [
            .. walk.Fuses.Select(f =>
            {
                var near = f.Nodes.Where(fed.ContainsKey).ToList();
                double? metres = near.Count == 0 ? null : near.Min(n => fed[n]);
                return new GuardingFuse(
                    f.Part,
                    f.Rating,
                    metres is { } before ? new Metres(before) : null,
                    near.Exists(n => posted.TryGetValue(n, out var bare) && bare <= metres),
                    walk.WiresIn(behind[f.Part.Id]).MinBy(w => Conductors.Parse(w.Gauge)!.Value.Area.Value)
                );
            }),
        ];
        return new FeedGuards(
            fuses,
            [
                .. walk.Tails(fed)
                    .Select(wires => new UnfusedFeed(wires, walk.FedBy(wires), new Metres(wires.Sum(w => w.LengthM))))
                    .Where(t => t.Feeds.Count > 0),
            ]
        );
    }
}
