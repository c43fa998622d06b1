using Pritchel.Core.PartTests.KeySwitch;

namespace Pritchel.Core.Tests;

/// <summary>Key switches named from what closes where.</summary>
public class UnknownSwitchTests
{
    /// <summary>
    /// A hundred switches of five to eight posts and three or four positions, dealt at random, each asked what it asks for: named
    /// rightly but for posts that are alike, in fewer beeps than every pair in every position, and not much above what the choice of deals costs.
    /// </summary>
    [Fact]
    public void A_hundred_switches_are_named_rightly_in_few_beeps()
    {
        var random = new Random(77);
        var (asked, pairs, bound, wrong) = (0, 0, 0.0, new List<string>());
        const int Switches = 100;
        for (var k = 0; k < Switches; k++)
        {
            var pattern = Patterns[random.Next(Patterns.Count)];
            var posts = random.Next(Math.Max(5, pattern.Roles.Count), 9);
            var roles = new SwitchRole?[posts];
            var order = Enumerable.Range(0, posts).OrderBy(_ => random.Next()).ToList();
            for (var r = 0; r < pattern.Roles.Count; r++)
            {
                roles[order[r]] = pattern.Roles[r];
            }

            var answers = new List<SwitchAnswer>();
            var known = new UnknownSwitch(posts, pattern.Positions.Count, pattern.LastSprings, answers);
            bound += Math.Log2(Ways(posts, pattern.Roles.Count));
            pairs += known.Questions.Count();
            while (known.Next is { } question && answers.Count < 80)
            {
                answers.Add(new SwitchAnswer(question, Joins(pattern, roles, question)));
                known = new UnknownSwitch(posts, pattern.Positions.Count, pattern.LastSprings, answers);
            }

            asked += answers.Count;
            var (best, share) = known.Patterns[0];
            for (var p = 0; p < posts; p++)
            {
                // Posts that join alike in every position cannot be told apart by a beep: kill from ground, feed from run.
                var told = known.RolesOf(p)[0].Role;
                if (best != pattern || !AlikeIn(pattern, told, roles[p]))
                {
                    wrong.Add($"{pattern.Name}: post {p} is {roles[p]}, told {told} of {best.Name} ({share:P0})");
                    break;
                }
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{(double)asked / Switches:0.0} beeps a switch of {(double)pairs / Switches:0.0} pairs; information bound {bound / Switches:0.0}"
        );
        Assert.True(wrong.Count <= 2, $"{wrong.Count}: {string.Join("\n", wrong.Take(5))}");
        Assert.True(asked < 0.5 * pairs, $"{asked} of {pairs}");
    }

    /// <summary>
    /// Eighty switches whose posts join at random, of five to eight posts and three to five positions: of no known kind, and not said to
    /// be of one unless all that was asked is what that one would do.
    /// </summary>
    [Fact]
    public void Switches_that_join_at_random_are_not_taken_for_one_that_is_known()
    {
        var random = new Random(78);
        var (named, asked, wrong) = (0, 0, new List<string>());
        for (var k = 0; k < 80; k++)
        {
            var (posts, positions) = (random.Next(5, 9), random.Next(3, 6));
            var groups = Enumerable
                .Range(0, positions)
                .Select(_ => Enumerable.Range(0, posts).Select(_ => random.Next(posts)).ToArray())
                .ToList();
            var answers = new List<SwitchAnswer>();
            var known = new UnknownSwitch(posts, positions, true, answers);
            while (known.Next is { } question && answers.Count < 80)
            {
                var joined = groups[question.Position];
                answers.Add(new SwitchAnswer(question, joined[question.One] == joined[question.Other]));
                known = new UnknownSwitch(posts, positions, true, answers);
            }

            asked += answers.Count;
            if (!known.IsNamed)
            {
                continue;
            }

            named++;
            if (answers.Count(a => known.Joins(a.Question) > 0.5 != a.Beeps) is > 0 and var odd)
            {
                wrong.Add($"{odd} of {answers.Count} odd, {posts} posts: {known.Patterns[0].Pattern.Name}");
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine($"{named} of 80 named, {asked / 80.0:0.0} beeps each");
        Assert.Empty(wrong);
        Assert.True(named <= 8, $"{named} of 80 named by answers that were all theirs");
    }

    [Fact]
    public void One_wrong_beep_is_outvoted()
    {
        var pattern = SwitchPattern.Known[0];
        SwitchRole?[] roles = [SwitchRole.Ground, SwitchRole.Feed, SwitchRole.Start, SwitchRole.Kill, SwitchRole.Run];
        var all = new UnknownSwitch(5, 3, true, [])
            .Questions.Select(q => new SwitchAnswer(q, Joins(pattern, roles, q)))
            .ToList();
        all[3] = all[3] with { Beeps = !all[3].Beeps };
        var known = new UnknownSwitch(5, 3, true, all);
        Assert.Equal(SwitchRole.Start, known.RolesOf(2)[0].Role);
        Assert.True(known.RolesOf(2)[0].Share > 0.9);
    }

    [Fact]
    public void A_switch_of_no_known_pattern_is_not_named()
    {
        // Posts 0 and 1 joined in every position: nothing here is.
        var answers = new UnknownSwitch(5, 3, true, []).Questions.Select(q => new SwitchAnswer(
            q,
            q is { One: 0, Other: 1 } or { One: 2, Other: 3 }
        ));
        Assert.True(new UnknownSwitch(5, 3, true, answers).NoPattern > 0.9);
    }

    [Theory]
    [InlineData(2, 3)]
    [InlineData(9, 3)]
    [InlineData(5, 1)]
    [InlineData(5, 6)]
    public void Posts_and_positions_beyond_what_is_known_are_refused(int posts, int positions) =>
        Assert.Throws<ArgumentOutOfRangeException>(() => new UnknownSwitch(posts, positions, true, []));

    private static IReadOnlyList<SwitchPattern> Patterns { get; } =
    [.. SwitchPattern.Known.Where(p => p.Positions.Count >= 3)];

    private static bool Joins(SwitchPattern pattern, SwitchRole?[] roles, SwitchQuestion question) =>
        pattern.Joined[question.Position].Any(g => Has(g, roles[question.One]) && Has(g, roles[question.Other]));

    private static bool Has(IReadOnlyList<SwitchRole> group, SwitchRole? role) => role is { } r && group.Contains(r);

    private static bool AlikeIn(SwitchPattern pattern, SwitchRole? one, SwitchRole? other)
    {
        if (one == other)
        {
            return true;
        }

        return one is { } a
            && other is { } b
            && pattern.Joined.All(position =>
                position
                    .Where(g => g.Contains(a))
                    .Select(g => string.Join(',', g.Where(r => r != a && r != b)))
                    .SequenceEqual(
                        position.Where(g => g.Contains(b)).Select(g => string.Join(',', g.Where(r => r != a && r != b)))
                    )
            );
    }

    private static double Ways(int posts, int roles)
    {
        var ways = 1.0;
        for (var r = 0; r < roles; r++)
        {
            ways *= posts - r;
        }

        return ways;
    }
}
