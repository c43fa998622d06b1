using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>A join proposed by what ends are for, with why; never by a colour.</summary>
/// <param name="Join">The join.</param>
/// <param name="Because">Why, in a sentence.</param>
public sealed record SuggestedJoin(Join Join, string Because);

/// <summary>Something about a join, or an end left over, that must be looked at.</summary>
/// <param name="Join">The join; null for an end by itself.</param>
/// <param name="End">An end left over; null for a join.</param>
/// <param name="Grave">Whether it is wrong as it stands, rather than worth knowing.</param>
/// <param name="Words">What would happen, and what cures it.</param>
public sealed record JoinFlag(Join? Join, EndKey? End, bool Grave, string Words);

/// <summary>Which ends belong together, and which do not.</summary>
public static class JoinAdvice
{
    /// <summary>Joins for ends that are still loose, the surest first.</summary>
    public static IReadOnlyList<SuggestedJoin> Suggest(RewirePlan plan, IReadOnlyList<EndFunction> functions)
    {
        var loose = functions.Where(f => plan.JoinOf(f.End) is null && !plan.Joins.Any(j => Serves(f, j))).ToList();
        var suggested = new List<SuggestedJoin>();
        var pairs = loose
            .Where(f => f.End.Side == SideKey.Host)
            .SelectMany(h =>
                loose.Where(d => d.End.Side == SideKey.Donor).Select(d => (Host: h, Donor: d, Score: Score(h, d)))
            )
            .Where(p => p.Score > 0 && IsCable(plan, p.Host.End) == IsCable(plan, p.Donor.End))
            .OrderByDescending(p => p.Score)
            .ToList();
        var taken = new HashSet<EndKey>();

        // A heavy cable goes onto the stud or the metal that came in its old one's place: it is not spliced to another.
        foreach (var cable in loose.Where(f => IsCable(plan, f.End) && f.End.Side == SideKey.Host))
        {
            if (OntoLike(plan, cable) is { } landing && taken.Add(cable.End))
            {
                suggested.Add(landing);
                taken.UnionWith(loose.Where(f => IsCable(plan, f.End) && Serves(f, landing.Join)).Select(f => f.End));
            }
        }

        foreach (var through in Through(plan, loose))
        {
            suggested.Add(through);
            taken.UnionWith(through.Join.Ends);
        }

        foreach (var (host, donor, score) in pairs)
        {
            // Of several that fit alike nothing tells which: that is left to whoever follows the leads.
            var rivals = pairs.Count(p =>
                p.Score >= score
                && !taken.Contains(p.Host.End)
                && !taken.Contains(p.Donor.End)
                && (p.Host == host || p.Donor == donor)
            );
            if (
                taken.Contains(host.End)
                || taken.Contains(donor.End)
                || (rivals > 1 && !InterchangeableOnly(pairs, host, donor, score))
            )
            {
                continue;
            }

            taken.UnionWith([host.End, donor.End]);
            suggested.Add(new SuggestedJoin(new Join([host.End, donor.End]), Because(host, donor)));
        }

        // A cable to a part that went, where a like part came whole: onto its terminal. Metal that lost its body: onto the other's.
        foreach (var end in loose.Where(f => !taken.Contains(f.End)))
        {
            if (OntoLike(plan, end) is { } landing && taken.Add(end.End))
            {
                suggested.Add(landing);
            }
        }

        return suggested;
    }

    /// <summary>What is wrong with joins as planned, and what becomes of ends left over.</summary>
    public static IReadOnlyList<JoinFlag> Flags(RewirePlan plan, PlanFunctions functions)
    {
        var known = functions.Ends.ToDictionary(f => f.End);
        var flags = new List<JoinFlag>();
        foreach (var join in plan.Joins.Where(j => !IsAsItWas(plan, j)))
        {
            void Wrong(string words) => flags.Add(new JoinFlag(join, null, true, words));
            var ends = join.Ends.Where(known.ContainsKey).Select(e => known[e]).ToList();

            // A terminal of which nothing tells what it was for is no reason for a doubt.
            var landed =
                join.Onto is { } onto && functions.At(onto) is { Kind: not EndKind.Signal } terminal ? terminal : null;
            var kinds = ends.Select(e => e.Kind).Concat(landed is null ? [] : [landed.Kind]).Distinct().ToList();
            if (kinds.Contains(EndKind.GroundToKill) && kinds.Exists(IsFeed))
            {
                Wrong(
                    "A kill lead is joined to a feed: battery volts go into the ignition, or as far as a diode lets them, and switching the feed off stops nothing. Part them; a kill goes to what grounds it."
                );
            }
            else if (kinds.Contains(EndKind.Ground) && kinds.Exists(IsFeed))
            {
                Wrong(
                    "A feed is joined to ground: its fuse opens, or its wire burns, the moment it is live. Part them."
                );
            }
            else if (kinds.Contains(EndKind.Alternating) && kinds.Count > 1)
            {
                Wrong(
                    "A charge winding is joined to what is not one: alternating volts go where direct ones belong. Part them."
                );
            }
            else if (kinds.Count > 1 && !kinds.Contains(EndKind.Signal))
            {
                flags.Add(Unlike(join, ends, landed));
            }

            var feeds = ends.Where(e => IsFeed(e.Kind) && e.Gives).ToList();
            if (
                feeds.Skip(1).Any(f => f.End.Side != feeds[0].End.Side || !f.Fed.SetEquals(feeds[0].Fed))
                || (
                    landed is { Gives: true } && IsFeed(landed.Kind) && feeds.Exists(f => f.End.Side != join.Onto!.Side)
                )
            )
            {
                Wrong(
                    "Both are fed: each switch feeds the other's circuit, and neither turns it off. Keep one feed and cap the other, or part them by a relay or a diode."
                );
            }

            if (
                kinds.Count == 1
                && (IsFeed(kinds[0]) || kinds[0] == EndKind.GroundToKill)
                && ends.TrueForAll(e => !e.Gives)
                && (join.Onto is null ? ends.Count > 1 : landed is { Gives: false })
            )
            {
                Wrong("Nothing gives what both wait for: join the lead that does as well.");
            }

            foreach (var end in ends)
            {
                if (StandInAdvice.Of(plan, end) is var (grave, words))
                {
                    flags.Add(new JoinFlag(join, null, grave, words));
                }
            }

            foreach (
                var (a, b) in ends.SelectMany((a, i) => ends.Skip(i + 1).Select(b => (a, b)))
                    .Where(p => SenderMeetsSwitch(p.a, p.b))
            )
            {
                Wrong(
                    $"{RewireWords.LeadsTo(a)} was a switch to ground on one side and is a sender on the other: a lamp or horn would be lit by a sender for ever. Fit the kind that the gauge or lamp was made for."
                );
            }
        }

        foreach (var end in functions.Ends.Where(f => plan.JoinOf(f.End) is null))
        {
            flags.Add(
                plan.Joins.Any(j => Serves(end, j))
                    ? new JoinFlag(
                        null,
                        end.End,
                        false,
                        "Not needed: what it served is served by a join. Take it off, or cap it."
                    )
                    : Left(end)
            );
        }

        return flags;
    }

    /// <summary>Leads whose kinds differ: what happens when it is switched on, and what cures it.</summary>
    private static JoinFlag Unlike(Join join, IReadOnlyList<EndFunction> ends, LandingFunction? landed)
    {
        var all = ends.Select(e => (e.Kind, e.Gives))
            .Concat(landed is null ? [] : [(landed.Kind, landed.Gives)])
            .ToList();
        var gives = all.FirstOrDefault(a => a.Gives, all[0]).Kind;
        var waits = all.First(a => a.Kind != gives).Kind;
        JoinFlag Of(bool grave, string words) => new(join, null, grave, words);
        return (gives, waits) switch
        {
            (EndKind.StartFeed, _) or (_, EndKind.StartFeed) => Of(
                true,
                $"{Upper(RewireWords.Of(gives))} where a {RewireWords.Of(waits)} was: it is live when the other should not be, or turns the starter. Join like to like."
            ),
            (EndKind.SwitchedFeed, EndKind.BatteryFeed) => Of(
                false,
                "What was fed whatever the key said is now fed with the key only: a clock, a bilge pump or a relay’s contact is dead when it is left. Right for a charge lead that returns through the key; otherwise bring it a feed of its own from the battery, its fuse within a hand of it."
            ),
            (EndKind.BatteryFeed, EndKind.SwitchedFeed) => Of(
                false,
                "What a switch fed is now fed whatever the switch says: nothing turns it off, and it draws the battery down. Take it from a switched feed, or put a relay between."
            ),
            _ => Of(
                false,
                $"{Upper(RewireWords.Of(gives))} where a {RewireWords.Of(waits)} was: dead, or live, with another switch than before. Look twice."
            ),
        };
    }

    private static JoinFlag Left(EndFunction end) =>
        end switch
        {
            { End.Mount: not null } => new(
                null,
                end.End,
                true,
                "Has lost the metal it was bolted to: without a ground it does nothing. Bolt it to the new body or give it a wire."
            ),
            { Kind: EndKind.GroundToKill, Gives: false } => new(
                null,
                end.End,
                true,
                "This ignition's kill lead is left loose: no switch stops it. Join it to what grounds it."
            ),
            { Kind: EndKind.GroundToKill } => new(
                null,
                end.End,
                true,
                "This switch grounded a kill lead and now stops nothing. Join it, or say at the switch that it is dead."
            ),
            { Kind: EndKind.BatteryFeed or EndKind.SwitchedFeed or EndKind.StartFeed, Gives: true } => new(
                null,
                end.End,
                false,
                "Stays live: cap it with its sleeve on, shrouded, never bare."
            ),
            { Kind: EndKind.Alternating, Gives: true } => new(
                null,
                end.End,
                false,
                "Its winding charges nothing now, and is live whenever the engine turns: join it to what rectifies it, or cap and sleeve it by itself."
            ),
            { Kind: EndKind.Ground } => new(
                null,
                end.End,
                !end.Gives,
                end.Gives
                    ? "A ground left over: cap it, or use it for what came in."
                    : "What it grounded has no ground any more: land it on the new metal."
            ),
            { Gives: false, Stays.Count: > 0 } => new(
                null,
                end.End,
                false,
                $"{RewireWords.LeadsTo(end)} gets nothing any more: it stays dead until this is joined."
            ),
            _ => new(null, end.End, false, "Left over: cut close and capped."),
        };

    private static string Upper(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    private static bool IsFeed(EndKind kind) =>
        kind is EndKind.BatteryFeed or EndKind.SwitchedFeed or EndKind.StartFeed;

    private static bool SenderMeetsSwitch(EndFunction a, EndFunction b) =>
        a.Lost.Concat(b.Lost).Any(t => t.Part.Kind is "pressure-switch")
            && a.Stays.Concat(b.Stays).Any(t => t.Part.Kind == "sender")
        || a.Lost.Concat(b.Lost).Any(t => t.Part.Kind is "sender")
            && a.Stays.Concat(b.Stays).Any(t => t.Part.Kind == "pressure-switch");

    /// <summary>How well two ends fit: kind and direction first, then that what one lost is what the other brings.</summary>
    private static int Score(EndFunction host, EndFunction donor)
    {
        if (host.Kind != donor.Kind || host.End.Mount is not null || donor.End.Mount is not null)
        {
            return 0;
        }

        var brought = host.Lost.Select(t => t.Like).Intersect(donor.Stays.Select(t => t.Like)).Count();
        var found = donor.Lost.Select(t => t.Like).Intersect(host.Stays.Select(t => t.Like)).Count();
        var direction = host.Kind is EndKind.Ground or EndKind.Signal || host.Gives != donor.Gives;
        return !direction ? 0
            : host.Kind == EndKind.Signal && (brought == 0 || found == 0) ? 0
            : 1 + (2 * (brought + found));
    }

    /// <summary>Whether what rivals a pair is of the same winding or the same joint, so that it does not matter which goes where.</summary>
    private static bool InterchangeableOnly(
        List<(EndFunction Host, EndFunction Donor, int Score)> pairs,
        EndFunction host,
        EndFunction donor,
        int score
    ) =>
        host.Kind == EndKind.Alternating
        && pairs
            .Where(p => p.Score >= score && (p.Host == host || p.Donor == donor))
            .All(p =>
                p.Host.Lost.Select(t => t.Part.Id).SequenceEqual(host.Lost.Select(t => t.Part.Id))
                && p.Donor.Kind == EndKind.Alternating
            );

    /// <summary>
    /// Ends of one side that met where it was cut, with parts that stay on either hand: the halves of a cavity, or of a wire.
    /// </summary>
    private static IEnumerable<SuggestedJoin> Through(RewirePlan plan, IReadOnlyList<EndFunction> loose) =>
        from end in loose
        let was = MetIn(plan, end.End)
        where was is not null
        group (end, was.At) by (end.End.Side, was.Part, was.Met) into ends
        where
            ends.Count() > 1
            && (ends.Key.Part.Kind == PartKinds.Splice || ends.Select(e => e.At).Distinct().Count() > 1)
        select new SuggestedJoin(
            new Join([.. ends.Select(e => e.end.End)]),
            ends.Key.Part.Kind == PartKinds.Coupling
                ? $"They met in {ends.Key.Part.Name}, cavity {ends.Key.Met}."
                : $"They met at: {ends.Key.Part.Name}."
        );

    private sealed record Meeting(TerminalAddress At, Part Part, string Met);

    /// <summary>The cavity or the splice that an end was cut from; null for an end of anything else.</summary>
    private static Meeting? MetIn(RewirePlan plan, EndKey end)
    {
        if (end.Wire is not { } wire)
        {
            return null;
        }

        var machine = plan.Side(end.Side)!.Machine;
        var at = machine.Index.TerminalOf(wire)!.Value;
        var part = machine.Index.PartAt(at)!;
        return part.Kind switch
        {
            PartKinds.Coupling => new Meeting(at, part, Cavity.NameOf(at.Terminal)),
            PartKinds.Splice => new Meeting(at, part, at.Terminal.Text),
            _ => null,
        };
    }

    /// <summary>Whether a join only puts back what met in one cavity or splice: whatever fed whom then does so again.</summary>
    private static bool IsAsItWas(RewirePlan plan, Join join) =>
        join.Onto is null
        && join.Ends.Select(e => (e.Side, Met: MetIn(plan, e))).ToList() is var ends
        && ends.TrueForAll(e => e.Met is not null)
        && ends.Select(e => (e.Side, e.Met!.Part, e.Met.Met)).Distinct().Count() == 1;

    private static bool IsCable(RewirePlan plan, EndKey end) =>
        end.Wire is { } wire && plan.Side(end.Side)!.Machine.Index.Wire(wire.Wire)?.Cable == true;

    /// <summary>Whether what an end leads to on its own side has something landed on it by a join.</summary>
    private static bool Serves(EndFunction end, Join join) =>
        join.Onto is { } onto
        && onto.Side == end.End.Side
        && end.Stays.Any(t =>
            t.Part.Id == onto.At.Part && (t.Part.Kind == PartKinds.Body || t.Part.At(t.Terminal) == onto.At)
        );

    private static SuggestedJoin? OntoLike(RewirePlan plan, EndFunction end)
    {
        var other = plan.Side(end.End.Side == SideKey.Host ? SideKey.Donor : SideKey.Host);
        if (other is null)
        {
            return null;
        }

        if (
            end.End.Mount is not null
            || (end.Kind == EndKind.Ground && end.Lost.Any(t => t.Part.Kind == PartKinds.Body))
        )
        {
            if (other.Machine.Parts.FirstOrDefault(p => p.Kind == PartKinds.Body && other.Has(p.Id)) is not { } body)
            {
                return null;
            }

            var bolts = body.Terminals.Where(t => end.Lost.Any(l => l.Terminal == t)).Concat(body.Terminals);
            return new SuggestedJoin(
                new Join([end.End], new Landing(other.Key, body.At(bolts.First()))),
                $"It was on metal that went; {body.Name} came in its place."
            );
        }

        if (
            end is { Kind: EndKind.BatteryFeed, Gives: false }
            && end.Lost.Any(t => PartKinds.IsBattery(t.Part.Kind))
            && other.Machine.Parts.Where(p => PartKinds.IsBattery(p.Kind) && other.Has(p.Id)).ToList() is [var battery]
        )
        {
            return new SuggestedJoin(
                new Join([end.End], new Landing(other.Key, battery.At("+"))),
                $"It wants volts whatever the key says: on the post of {battery.Name} itself, its fuse within a hand of it."
            );
        }

        var like = end
            .Lost.SelectMany(t =>
                other
                    .Machine.Parts.Where(p =>
                        other.Has(p.Id) && p.Kind == t.Part.Kind && p.Terminals.Contains(t.Terminal)
                    )
                    .Select(p => p.At(t.Terminal))
            )
            .Distinct()
            .ToList();
        return
            like.Count == 1
            && !other.Machine.Index.EndsAt(like[0]).Any(e => other.LooseEnds.All(l => l.Wire != e.Name.Other))
            ? new SuggestedJoin(
                new Join([end.End], new Landing(other.Key, like[0])),
                $"It led to {RewireWords.Terminal(end.Lost[0])}; {other.Machine.Index.PartAt(like[0])!.Name} brings the same terminal."
            )
            : null;
    }

    private static string Because(EndFunction host, EndFunction donor) =>
        $"{RewireWords.Of(host.Kind)}: {RewireWords.Gives(host)} on one side, {RewireWords.Gives(donor)} on the other"
        + (
            host.Lost.FirstOrDefault(t => donor.Stays.Any(s => s.Like == t.Like)) is { } lost
                ? $"; it led to {RewireWords.Terminal(lost)}, and so does this."
                : "."
        );
}
