using System.Collections.Concurrent;
using System.Numerics;

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

    // A switch that no pattern here is: one that joins as it likes, or a relative of one that differs in a contact in so many.
    // From memory.
    private const double OfNoPattern = 0.1;
    private const double JoinedOfNone = 0.2;
    private const double RelativeDiffers = 0.1;

    private static readonly ConcurrentDictionary<
        (int Posts, int Positions, bool Springs),
        IReadOnlyList<Deal>
    > AllDeals = new();

    private readonly IReadOnlyList<Deal> deals;
    private readonly double[] weights;
    private readonly Lazy<Dictionary<SwitchQuestion, double>> joins;

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
        deals = AllDeals.GetOrAdd((posts, positions, lastSprings), k => AllOf(k.Posts, k.Positions, k.Springs));
        var (asked, beeped) = (new ulong[positions], new ulong[positions]);
        foreach (var (question, beeps) in this.answers)
        {
            var bit = Deal.Bit(question);
            asked[question.Position] |= bit;
            beeped[question.Position] = beeps ? beeped[question.Position] | bit : beeped[question.Position] & ~bit;
        }

        // By how many answers a deal does not give: of itself, and of a relative.
        var count = asked.Sum(a => BitOperations.PopCount(a));
        double[] Chances(double wrong) =>
            [.. Enumerable.Range(0, count + 1).Select(m => Math.Pow(wrong, m) * Math.Pow(1 - wrong, count - m))];
        var (own, relative) = (Chances(WrongShare), Chances(RelativeDiffers));
        var none = this.answers.Aggregate(1.0, (p, a) => p * (a.Beeps ? JoinedOfNone : 1 - JoinedOfNone));
        weights = new double[deals.Count + 1];
        for (var d = 0; d < deals.Count; d++)
        {
            var missed = deals[d].Missed(asked, beeped);
            weights[d] = (1 - OfNoPattern) * deals[d].Prior * own[missed];
            none += deals[d].Prior * relative[missed];
        }

        weights[^1] = OfNoPattern / 2 * none;
        var total = weights.Sum();
        for (var d = 0; d < weights.Length; d++)
        {
            weights[d] /= total;
        }

        live = [.. Enumerable.Range(0, deals.Count).Where(d => weights[d] > Negligible)];
        joins = new Lazy<Dictionary<SwitchQuestion, double>>(SharesThatJoin);
    }

    /// <summary>Every deal of every pattern of so many positions. Every pattern is as likely as another, however many ways its posts can be dealt.</summary>
    private static List<Deal> AllOf(int posts, int positions, bool springs)
    {
        var patterns = SwitchPattern
            .Known.Where(p => p.Positions.Count == positions && p.Roles.Count <= posts && p.LastSprings == springs)
            .Select(p => (Pattern: p, Dealt: Dealt(p.Roles, posts).ToList()))
            .ToList();
        return
        [
            .. patterns.SelectMany(p =>
                p.Dealt.Select(roles => new Deal(p.Pattern, roles, 1.0 / patterns.Count / p.Dealt.Count))
            ),
        ];
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
    public double Joins(SwitchQuestion question) =>
        (weights[^1] * JoinedOfNone) + joins.Value.GetValueOrDefault(question);

    /// <summary>Shares of deals in which pairs join; none where none does.</summary>
    private Dictionary<SwitchQuestion, double> SharesThatJoin()
    {
        var shares = new Dictionary<SwitchQuestion, double>();
        foreach (var d in live)
        {
            foreach (var question in deals[d].Joined)
            {
                shares[question] = shares.GetValueOrDefault(question) + weights[d];
            }
        }

        return shares;
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

        public Deal(SwitchPattern pattern, SwitchRole?[] roles, double prior)
        {
            (Pattern, Roles, Prior) = (pattern, roles, prior);
            Joined =
            [
                .. from position in Enumerable.Range(0, pattern.Positions.Count)
                from grouped in pattern.Joined[position]
                let posts = grouped.Select(r => Array.IndexOf(roles, r)).Order().ToList()
                from i in Enumerable.Range(0, posts.Count)
                from j in Enumerable.Range(i + 1, posts.Count - i - 1)
                select new SwitchQuestion(position, posts[i], posts[j]),
            ];
            joined = new ulong[pattern.Positions.Count];
            foreach (var question in Joined)
            {
                joined[question.Position] |= Bit(question);
            }
        }

        public SwitchPattern Pattern { get; }

        public SwitchRole?[] Roles { get; }

        /// <summary>Share before anything is asked.</summary>
        public double Prior { get; }

        /// <summary>Pairs that join, by position.</summary>
        public SwitchQuestion[] Joined { get; }

        /// <summary>How many answers it would not have given.</summary>
        /// <param name="asked">Pairs asked, by position.</param>
        /// <param name="beeped">Those of them that beeped.</param>
        public int Missed(ulong[] asked, ulong[] beeped)
        {
            var missed = 0;
            for (var p = 0; p < joined.Length; p++)
            {
                missed += BitOperations.PopCount((joined[p] ^ beeped[p]) & asked[p]);
            }

            return missed;
        }

        public static ulong Bit(SwitchQuestion question) => 1UL << ((question.One * 8) + question.Other);
    }
}
