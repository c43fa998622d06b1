namespace Pritchel.Core.Rewiring;

/// <content>What is wrong with joins, and what becomes of ends left over.</content>
public static partial class JoinAdvice
{
    /// <summary>What is wrong with joins as planned, and what becomes of ends left over.</summary>
    public static IReadOnlyList<JoinFlag> Flags(RewirePlan plan, PlanFunctions functions)
    {
        var known = functions.Ends.ToDictionary(f => f.End);
        var flags = new List<JoinFlag>();
        var takesAny = plan.Added is { TakesAnyFeed: true };
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
            else if (kinds.Count > 1 && !kinds.Contains(EndKind.Signal) && !(takesAny && kinds.TrueForAll(IsFeed)))
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
}
