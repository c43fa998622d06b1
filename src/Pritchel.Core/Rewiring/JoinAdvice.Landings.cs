using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <content>Ends that find nothing loose to meet, and the terminals that they may land on.</content>
public static partial class JoinAdvice
{
    /// <summary>Onto the terminal that came, or stayed, in place of what an end led to.</summary>
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
            // Of several bodies the one that the loom's own grounds are on.
            if (
                other
                    .Machine.Parts.Where(p => p.Kind == PartKinds.Body && other.Has(p.Id))
                    .MaxBy(p => p.Addresses.Sum(a => other.Machine.Index.EndsAt(a).Count()))
                is not { } body
            )
            {
                return null;
            }

            var bolts = body.Terminals.Where(t => end.Lost.Any(l => l.Terminal == t)).Concat(body.Terminals);
            return new SuggestedJoin(
                new Join([end.End], new Landing(other.Key, body.At(bolts.First()))),
                plan.Added is null
                    ? $"It was on metal that went; {body.Name} came in its place."
                    : $"It wants metal: {body.Name}, where the loom’s own grounds are."
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

    /// <summary>
    /// A feed that a circuit drawn to be added wants with the key: onto the post that a switch feeds from what is always live, in
    /// more of its positions that stay by themselves than any other post. Of a machine's own lead that is not known: it may give
    /// as well as take, as a charge lead through the key does.
    /// </summary>
    private static SuggestedJoin? OntoKey(RewirePlan plan, EndFunction end, PlanFunctions functions)
    {
        if (
            end is not { Kind: EndKind.SwitchedFeed, Gives: false, End.Side: SideKey.Donor }
            || plan.Side(SideKey.Host) is not { } host
            || plan.Added is null
        )
        {
            return null;
        }

        bool Gives(TerminalAddress at, EndKind kind) =>
            functions.At(new Landing(SideKey.Host, at)) is { Gives: true } given && given.Kind == kind;
        var posts = (
            from part in host.Machine.Parts
            where host.Has(part.Id)
            from contact in part.Contacts ?? []
            from to in contact.Between
            let positions = contact
                .ClosedIn.Except(host.Machine.Index.Control(contact.Control)!.Held)
                .Select(p => p.Text)
                .ToList()
            where
                positions.Count > 0
                && Gives(part.At(to), EndKind.SwitchedFeed)
                && !functions.At(new Landing(SideKey.Host, part.At(to))).BringsCharge
                && Gives(part.At(contact.Between.First(b => b != to)), EndKind.BatteryFeed)
            orderby positions.Count descending
            select (Part: part, To: to, Positions: positions)
        ).ToList();
        return posts is [var first, ..] && posts.Skip(1).All(p => p.Positions.Count < first.Positions.Count)
            ? new SuggestedJoin(
                new Join([end.End], new Landing(SideKey.Host, first.Part.At(first.To))),
                $"It wants volts with the key: {first.Part.Name} {first.To} is live at {string.Join(" and ", first.Positions)}; its wire and fuse carry this too."
            )
            : null;
    }
}
