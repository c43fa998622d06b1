using System.Collections.Concurrent;

namespace Pritchel.Core.PartTests.KeySwitch;

/// <summary>
/// Which post of a key switch is which, from what closes where. Every known pattern with its posts dealt out in every way is
/// weighed by the answers; a switch of no known pattern keeps a share of its own, and what is known of it is its chart alone.
/// Positions are told in the order in which the key turns, the sprung one last.
/// </summary>
public sealed class UnknownSwitch
{
    // An answer that is wrong: a probe slipped, a contact dirty. From memory.
    private const double WrongShare = 0.01;

    // A switch that no pattern here is: from memory.
    private const double OfNoPattern = 0.1;
    private const double JoinedOfNone = 0.2;

    private static readonly ConcurrentDictionary<
        (int Posts, int Positions, bool Springs),
        IReadOnlyList<Deal>
    > AllDeals = new();

    private readonly IReadOnlyList<Deal> deals;
    private readonly double[] weights;

    // Deals that still count: of tens of thousands a few are left after some answers.
    private const double Negligible = 1e-7;
    private readonly int[] live;
    private readonly IReadOnlyList<SwitchAnswer> answers;

    /// <summary>Weighs what is known of a switch.</summary>
    /// <param name="posts">How many posts it has, 3 to 8.</param>
    /// <param name="positions">How many positions its key has, 2 to 5.</param>
    /// <param name="lastSprings">Whether the last position springs back when let go.</param>
    /// <param name="answers">What was heard, in any order.</param>
    public UnknownSwitch(int posts, int positions, bool lastSprings, IEnumerable<SwitchAnswer> answers)
    {
        if (posts is < 3 or > 8 || positions is < 2 or > 5)
        {
            throw new ArgumentOutOfRangeException(nameof(posts), posts, "3 to 8 posts and 2 to 5 positions.");
        }

        (Posts, Positions, this.answers) = (posts, positions, [.. answers]);
        deals = AllDeals.GetOrAdd(
            (posts, positions, lastSprings),
            k =>
                [
                    .. from pattern in SwitchPattern.Known
                    where
                        pattern.Positions.Count == k.Positions
                        && pattern.Roles.Count <= k.Posts
                        && pattern.LastSprings == k.Springs
                    from roles in Dealt(pattern.Roles, k.Posts)
                    select new Deal(pattern, roles),
                ]
        );

        // Every pattern is as likely as another, however many ways its posts can be dealt.
        var ways = deals.GroupBy(d => d.Pattern).ToDictionary(g => g.Key, g => g.Count());
        var patterns = Math.Max(1, ways.Count);
        weights =
        [
            .. deals.Select(d => (1 - OfNoPattern) / patterns / ways[d.Pattern] * Likelihood(d)),
            OfNoPattern * this.answers.Aggregate(1.0, (p, a) => p * (a.Beeps ? JoinedOfNone : 1 - JoinedOfNone)),
        ];
        var total = weights.Sum();
        for (var d = 0; d < weights.Length; d++)
        {
            weights[d] /= total;
        }

        live = [.. Enumerable.Range(0, deals.Count).Where(d => weights[d] > Negligible)];
    }

    /// <summary>Number of posts.</summary>
    public int Posts { get; }

    /// <summary>Number of positions.</summary>
    public int Positions { get; }

    /// <summary>Share of being of no known pattern.</summary>
    public double NoPattern => weights[^1];

    /// <summary>Patterns by share, largest first.</summary>
    public IReadOnlyList<(SwitchPattern Pattern, double Share)> Patterns =>
        [
            .. deals
                .Select((d, i) => (d.Pattern, Share: weights[i]))
                .GroupBy(d => d.Pattern)
                .Select(g => (g.Key, g.Sum(d => d.Share)))
                .OrderByDescending(p => p.Item2),
        ];

    /// <summary>What a post is, by share, largest first; null stands for a post that joins nothing.</summary>
    public IReadOnlyList<(SwitchRole? Role, double Share)> RolesOf(int post) =>
        [
            .. deals
                .Select((d, i) => (Role: d.Roles[post], Share: weights[i]))
                .GroupBy(d => d.Role)
                .Select(g => (g.Key, g.Sum(d => d.Share)))
                .OrderByDescending(r => r.Item2),
        ];

    /// <summary>Whether every post is known as well as the pattern allows: posts that are alike in every position stay a group.</summary>
    public bool IsNamed => NoPattern < 0.05 && Next is null;

    /// <summary>The question that tells most, or null when none tells enough; fewest turns of the key where two tell alike.</summary>
    public SwitchQuestion? Next
    {
        get
        {
            const double Tells = 0.03;
            const double TurnCosts = 0.05;
            var stands = answers.Count > 0 ? answers[^1].Question.Position : 0;
            var asked = answers.Select(a => a.Question).ToHashSet();
            (SwitchQuestion Question, double Worth)? best = null;
            foreach (var question in Questions.Where(q => !asked.Contains(q)))
            {
                var bits = Bits(question);
                var worth = bits - (question.Position == stands ? 0 : TurnCosts);
                if (bits > Tells && (best is null || worth > best.Value.Worth))
                {
                    best = (question, worth);
                }
            }

            return best?.Question;
        }
    }

    /// <summary>Share in which two posts join in a position.</summary>
    public double Joins(SwitchQuestion question)
    {
        var joined = weights[^1] * JoinedOfNone;
        foreach (var d in live)
        {
            joined += deals[d].Joins(question) ? weights[d] : 0;
        }

        return joined;
    }

    /// <summary>All that can be asked.</summary>
    public IEnumerable<SwitchQuestion> Questions =>
        from position in Enumerable.Range(0, Positions)
        from one in Enumerable.Range(0, Posts)
        from other in Enumerable.Range(one + 1, Posts - one - 1)
        select new SwitchQuestion(position, one, other);

    /// <summary>Bits of which deal it is that an answer is expected to tell; of a deal the answer is all but certain.</summary>
    private double Bits(SwitchQuestion question)
    {
        var joined = Joins(question);
        return Entropy(joined) - (weights[^1] * Entropy(JoinedOfNone));
    }

    private static double Entropy(double share) =>
        share is <= 0 or >= 1 ? 0 : -(share * Math.Log2(share)) - ((1 - share) * Math.Log2(1 - share));

    private double Likelihood(Deal deal)
    {
        var likelihood = 1.0;
        foreach (var answer in answers)
        {
            likelihood *= deal.Joins(answer.Question) == answer.Beeps ? 1 - WrongShare : WrongShare;
        }

        return likelihood;
    }

    /// <summary>Every way of dealing roles to posts, posts left over joining nothing.</summary>
    private static IEnumerable<SwitchRole?[]> Dealt(IReadOnlyList<SwitchRole> roles, int posts)
    {
        var dealt = new SwitchRole?[posts];
        return From(0);

        IEnumerable<SwitchRole?[]> From(int role)
        {
            if (role == roles.Count)
            {
                yield return (SwitchRole?[])dealt.Clone();
                yield break;
            }

            for (var post = 0; post < posts; post++)
            {
                if (dealt[post] is not null)
                {
                    continue;
                }

                dealt[post] = roles[role];
                foreach (var way in From(role + 1))
                {
                    yield return way;
                }

                dealt[post] = null;
            }
        }
    }

    /// <summary>A pattern with its posts dealt out; which pairs join, one bit each.</summary>
    private sealed class Deal
    {
        private readonly ulong[] joined;

        public Deal(SwitchPattern pattern, SwitchRole?[] roles)
        {
            (Pattern, Roles) = (pattern, roles);
            joined = new ulong[pattern.Positions.Count];
            for (var p = 0; p < joined.Length; p++)
            {
                foreach (var group in pattern.Joined[p])
                {
                    int[] posts = [.. group.Select(r => Array.IndexOf(roles, r))];
                    foreach (var one in posts)
                    {
                        foreach (var other in posts)
                        {
                            joined[p] |= one < other ? Bit(one, other) : 0;
                        }
                    }
                }
            }
        }

        public SwitchPattern Pattern { get; }

        public SwitchRole?[] Roles { get; }

        public bool Joins(SwitchQuestion question) =>
            (joined[question.Position] & Bit(question.One, question.Other)) != 0;

        private static ulong Bit(int one, int other) => 1UL << ((one * 8) + other);
    }
}
