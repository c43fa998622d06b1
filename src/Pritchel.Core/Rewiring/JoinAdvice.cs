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
public static partial class JoinAdvice
{
    /// <summary>Joins for ends that are still loose, the surest first.</summary>
    public static IReadOnlyList<SuggestedJoin> Suggest(RewirePlan plan, PlanFunctions functions)
    {
        var loose = functions
            .Ends.Where(f => plan.JoinOf(f.End) is null && !plan.Joins.Any(j => Serves(f, j)))
            .ToList();
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
            if ((OntoLike(plan, end) ?? OntoKey(plan, end, functions)) is { } landing && taken.Add(end.End))
            {
                suggested.Add(landing);
            }
        }

        return suggested;
    }

    /// <summary>How well two ends fit: kind and direction first, then that what one lost is what the other brings.</summary>
    private static int Score(EndFunction host, EndFunction donor)
    {
        if (host.Kind != donor.Kind || host.End.Mount is not null || donor.End.Mount is not null)
        {
            return 0;
        }

        var brought = host.Lost.Count(l => donor.Stays.Any(l.IsLike));
        var found = donor.Lost.Count(l => host.Stays.Any(l.IsLike));
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

    private static string Because(EndFunction host, EndFunction donor) =>
        $"{RewireWords.Of(host.Kind)}: {RewireWords.Gives(host)} on one side, {RewireWords.Gives(donor)} on the other"
        + (
            host.Lost.FirstOrDefault(t => donor.Stays.Any(t.IsLike)) is { } lost
                ? $"; it led to {RewireWords.Terminal(lost)}, and so does this."
                : "."
        );
}
