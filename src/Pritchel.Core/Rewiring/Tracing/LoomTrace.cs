namespace Pritchel.Core.Rewiring.Tracing;

/// <summary>
/// What is known of an unknown loom by what its ends read so far, in any order, and what to read next. An end belongs to one
/// piece of copper or to none other; a beep under an ohm is nearly proof, a silence may be a clip on varnish, so a lead that
/// stays alone is read twice with everything before it is believed.
/// </summary>
public sealed partial class LoomTrace
{
    // How often a joined pair is silent for want of contact, and a parted one beeps for a finger's width of stray strand: from memory.
    private const double FalseSilence = 0.04;
    private const double FalseBeep = 0.004;

    // How often a lead goes somewhere at all, and how often what already joins two ends joins a third: from memory.
    private const double LoneJoins = 0.85;
    private const double PairJoins = 0.3;

    // How often a pair of a switch's ends is joined or parted by one of its positions: from memory.
    private const double SwitchMoves = 0.25;

    // A pair picked blindly is joined once in thirty or so times: a beep outweighs that, a beep and a silence do not.
    private const double JoinedFrom = 4;

    private const double Enough = 0.01;

    private readonly Loom loom;
    private readonly IReadOnlyList<LoomAnswer> answers;
    private readonly double[,] evidence;
    private readonly int[] netOf;
    private readonly double[,] joins;

    /// <summary>Works it out.</summary>
    /// <param name="loom">The loom as listed.</param>
    /// <param name="answers">What was read, in order.</param>
    public LoomTrace(Loom loom, IReadOnlyList<LoomAnswer> answers)
    {
        (this.loom, this.answers) = (loom, answers);
        evidence = Evidence(LoomSetting.Rest);
        var groups = Groups();
        netOf = new int[loom.Ends.Count];
        for (var g = 0; g < groups.Count; g++)
        {
            foreach (var end in groups[g])
            {
                netOf[end] = g;
            }
        }

        joins = Joins(groups);
        Nets = [.. groups.Select((g, i) => new LoomNet(g, groups.Select((_, o) => o == i ? 0 : joins[i, o]).Sum()))];
        Again = Contradiction() ?? Once();
        Contacts = [.. Moved()];
        Parts = [.. Between()];
        Next = Again ?? Best();
    }

    /// <summary>Pieces of copper, at rest.</summary>
    public IReadOnlyList<LoomNet> Nets { get; }

    /// <summary>Parts left in between them.</summary>
    public IReadOnlyList<LoomPart> Parts { get; }

    /// <summary>What switches join and part.</summary>
    public IReadOnlyList<LoomContact> Contacts { get; }

    /// <summary>A reading that goes against the others and is to be repeated; null for none.</summary>
    public LoomQuestion? Again { get; }

    /// <summary>What to read next; null when nothing is left that tells.</summary>
    public LoomQuestion? Next { get; }

    /// <summary>Whether everything asked about is settled.</summary>
    public bool IsDone => Next is null;

    /// <summary>Number of the net that an end is of.</summary>
    public int NetOf(int end) => netOf[end];

    /// <summary>Minutes of what was read, by clips moved, metres walked and switches turned: common practice, no source.</summary>
    public double Minutes
    {
        get
        {
            var (minutes, last) = (0.0, (LoomQuestion?)null);
            foreach (var answer in answers)
            {
                minutes += Cost(last, answer.Question);
                last = answer.Question;
            }

            return minutes;
        }
    }

    private double[,] Evidence(LoomSetting setting)
    {
        var beep = Math.Log((1 - FalseSilence) / FalseBeep);
        var silence = Math.Log(FalseSilence / (1 - FalseBeep));
        var sum = new double[loom.Ends.Count, loom.Ends.Count];
        foreach (var answer in answers.Where(a => a.Question.Setting == setting))
        {
            var (one, other) = (answer.Question.One, answer.Question.Other);
            var tells =
                answer.IsJoined ? beep
                : answer.IsPart ? -beep
                : silence;
            sum[one, other] += tells;
            sum[other, one] += tells;
        }

        return sum;
    }

    private List<List<int>> Groups()
    {
        var group = Enumerable.Range(0, loom.Ends.Count).ToArray();
        for (var i = 0; i < group.Length; i++)
        {
            for (var j = i + 1; j < group.Length; j++)
            {
                if (evidence[i, j] > JoinedFrom && group[i] != group[j])
                {
                    var (keep, drop) = (Math.Min(group[i], group[j]), Math.Max(group[i], group[j]));
                    for (var k = 0; k < group.Length; k++)
                    {
                        group[k] = group[k] == drop ? keep : group[k];
                    }
                }
            }
        }

        return [.. group.Select((g, i) => (g, i)).GroupBy(x => x.g).Select(g => g.Select(x => x.i).ToList())];
    }

    /// <summary>
    /// How likely two groups are one: each end group joins one of the others or none, so what is silent with one is likelier to
    /// be of another.
    /// </summary>
    private double[,] Joins(List<List<int>> groups)
    {
        var toward = new double[groups.Count, groups.Count];
        for (var a = 0; a < groups.Count; a++)
        {
            var prior = groups[a].Count > 1 ? PairJoins : LoneJoins;
            var weights = groups.Select((g, b) => b == a ? 0 : Weight(groups[a], g)).ToArray();
            var total = Math.Max(1e-12, weights.Sum());
            var left = groups
                .Select((g, b) => b == a ? 0 : weights[b] / total * Math.Exp(Between(groups[a], g)))
                .ToArray();
            var whole = (prior * left.Sum()) + 1 - prior;
            for (var b = 0; b < groups.Count; b++)
            {
                toward[a, b] = prior * left[b] / whole;
            }
        }

        var joins = new double[groups.Count, groups.Count];
        for (var a = 0; a < groups.Count; a++)
        {
            for (var b = 0; b < groups.Count; b++)
            {
                // The lone one of two knows better where it may go.
                joins[a, b] =
                    groups[a].Count == groups[b].Count ? (toward[a, b] + toward[b, a]) / 2
                    : groups[a].Count < groups[b].Count ? toward[a, b]
                    : toward[b, a];
            }
        }

        return joins;
    }

    private double Between(List<int> one, List<int> other) => one.Sum(i => other.Sum(j => evidence[i, j]));

    private double Weight(List<int> one, List<int> other)
    {
        const double SameColour = 3;
        const double OtherColour = 0.6;
        const double SamePlug = 0.5;
        const double Taken = 0.7;
        double Pair(int i, int j)
        {
            var (a, b) = (loom.Ends[i], loom.Ends[j]);
            var colour =
                a.Colour.Length == 0 || b.Colour.Length == 0 ? 1
                : a.Colour == b.Colour ? SameColour
                : OtherColour;
            return colour * (a.Plug == b.Plug ? SamePlug : 1);
        }

        return one.Max(i => other.Max(j => Pair(i, j))) * (other.Count > 1 ? Taken : 1);
    }

    private int Times(LoomSetting setting, int one, int other) =>
        answers.Count(a =>
            a.Question.Setting == setting
            && (
                (a.Question.One == one && a.Question.Other == other)
                || (a.Question.One == other && a.Question.Other == one)
            )
        );

    private IEnumerable<LoomPart> Between() =>
        answers
            .Where(a => a.IsPart && a.Question.Setting == LoomSetting.Rest)
            .Select(a => (One: netOf[a.Question.One], Other: netOf[a.Question.Other], a.Ohms))
            .Where(p => p.One != p.Other)
            .GroupBy(p => (Math.Min(p.One, p.Other), Math.Max(p.One, p.Other)))
            .Select(g => new LoomPart(g.Key.Item1, g.Key.Item2, g.Last().Ohms));

    private IEnumerable<LoomSetting> Settings() =>
        loom.Controls.SelectMany(
            (c, i) => Enumerable.Range(1, c.Positions.Count - 1).Select(p => new LoomSetting(i, p))
        );

    /// <summary>What each position of a switch does to the ends that it is behind.</summary>
    private IEnumerable<LoomContact> Moved()
    {
        foreach (var setting in Settings())
        {
            var moved = Evidence(setting);
            foreach (var (one, other) in Pairs(setting))
            {
                var (rest, there) = (netOf[one] == netOf[other], moved[one, other]);
                if (there > 0 && !rest)
                {
                    yield return new LoomContact(setting, one, other, true);
                }
                else if (there < 0 && rest)
                {
                    yield return new LoomContact(setting, one, other, false);
                }
            }
        }
    }

    /// <summary>One end of each net that comes to a switch's plug, and each pair that rest joins there.</summary>
    private IEnumerable<(int One, int Other)> Pairs(LoomSetting setting)
    {
        var plug = loom.Controls[setting.Control].Plug;
        int[] ends = [.. Enumerable.Range(0, loom.Ends.Count).Where(e => loom.Ends[e].Plug == plug)];
        for (var i = 0; i < ends.Length; i++)
        {
            for (var j = i + 1; j < ends.Length; j++)
            {
                yield return (ends[i], ends[j]);
            }
        }
    }

    private int[] Joined(LoomSetting setting, double[,] moved)
    {
        var group = netOf.ToArray();
        foreach (var (one, other) in Pairs(setting))
        {
            if (moved[one, other] > 0 && group[one] != group[other])
            {
                var (keep, drop) = (group[one], group[other]);
                for (var k = 0; k < group.Length; k++)
                {
                    group[k] = group[k] == drop ? keep : group[k];
                }
            }
        }

        return group;
    }
}
