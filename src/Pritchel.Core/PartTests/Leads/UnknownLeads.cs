using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Leads;

/// <summary>Two leads of an unknown part, or a lead and its core, by number; the core comes after the last lead.</summary>
/// <param name="One">The one of the smaller number.</param>
/// <param name="Other">The other.</param>
public readonly record struct LeadPair(int One, int Other)
{
    /// <summary>A pair, whichever is named first.</summary>
    public static LeadPair Of(int a, int b) => new(Math.Min(a, b), Math.Max(a, b));
}

/// <summary>What a pair read.</summary>
/// <param name="Pair">Which.</param>
/// <param name="Ohms">Ohms; infinite for OL.</param>
public sealed record LeadAnswer(LeadPair Pair, Ohms Ohms);

/// <summary>
/// Which lead of an unknown stator, pickup, module or plug belongs to which, from ohms between leads and to its core: first
/// which of them join, then, where three or more do, what each pair reads, since a tap to one end and to the other must make
/// the whole. Readings may come in any order, and any be left out.
/// </summary>
public sealed class UnknownLeads
{
    /// <summary>Fewest and most leads.</summary>
    public static (int Fewest, int Most) Leads => (2, 8);

    // Copper of windings stays under some tens of kilohms; damp and a module's inside lie above: common practice, no source.
    private const double JoinedOhms = 20_000;

    private readonly Dictionary<LeadPair, double> read;
    private readonly int[] groupOf;
    private readonly HashSet<LeadPair> parted = [];
    private readonly IReadOnlyList<string> colours;

    /// <summary>Takes what was read of some leads.</summary>
    /// <param name="colours">Colour of each lead, as told.</param>
    /// <param name="answers">What was read; the last of a pair counts.</param>
    public UnknownLeads(IReadOnlyList<string> colours, IEnumerable<LeadAnswer> answers)
    {
        this.colours = colours;
        read = answers.GroupBy(a => a.Pair).ToDictionary(g => g.Key, g => g.Last().Ohms.Value);
        groupOf = [.. Enumerable.Range(0, Points)];
        foreach (var (pair, ohms) in read.Where(r => r.Value < JoinedOhms))
        {
            var (kept, gone) = (groupOf[pair.One], groupOf[pair.Other]);
            for (var p = 0; p < Points; p++)
            {
                groupOf[p] = groupOf[p] == gone ? kept : groupOf[p];
            }
        }

        parted.UnionWith(
            read.Where(r => r.Value >= JoinedOhms).Select(r => LeadPair.Of(groupOf[r.Key.One], groupOf[r.Key.Other]))
        );
    }

    /// <summary>Leads and the core.</summary>
    public int Points => colours.Count + 1;

    /// <summary>Number of the core.</summary>
    public int Core => colours.Count;

    /// <summary>Pairs that there are.</summary>
    public IEnumerable<LeadPair> Pairs =>
        from a in Enumerable.Range(0, Points)
        from b in Enumerable.Range(a + 1, Points - a - 1)
        select new LeadPair(a, b);

    /// <summary>What a pair read; null where it was not read.</summary>
    public double? OhmsOf(int a, int b) => read.TryGetValue(LeadPair.Of(a, b), out var ohms) ? ohms : null;

    /// <summary>Which leads are joined, the core with those that meet it, by what was read so far.</summary>
    public IReadOnlyList<LeadGroup> Groups =>
        [
            .. Enumerable
                .Range(0, Points)
                .GroupBy(p => groupOf[p])
                .Select(g => LeadGroup.Of([.. g], Core, (a, b) => OhmsOf(a, b)))
                .OrderBy(g => g.Points[0]),
        ];

    /// <summary>
    /// The pair that is read next; null when nothing is left that tells: first whether two groups join, those of one colour
    /// and the largest before others, then what pairs within a group of three or more read.
    /// </summary>
    public LeadPair? Next => Joining() ?? Within();

    private LeadPair? Joining()
    {
        var groups = Enumerable.Range(0, Points).GroupBy(p => groupOf[p]).Select(g => g.ToList()).ToList();
        return (
            from i in Enumerable.Range(0, groups.Count)
            from j in Enumerable.Range(i + 1, groups.Count - i - 1)
            where !parted.Contains(LeadPair.Of(groupOf[groups[i][0]], groupOf[groups[j][0]]))
            let alike = AlikeIn(groups[i], groups[j])
            // Leads of one colour are mostly of one winding, and what has company is likelier to have more.
            orderby alike is not null descending, groups[i].Count + groups[j].Count descending, i, j
            select (LeadPair?)(alike ?? LeadPair.Of(groups[i][0], groups[j][0]))
        ).FirstOrDefault();
    }

    private LeadPair? AlikeIn(List<int> one, List<int> other) =>
        (
            from a in one
            from b in other
            where a < Core && b < Core && colours[a].Length > 0 && colours[a] == colours[b]
            select (LeadPair?)LeadPair.Of(a, b)
        ).FirstOrDefault();

    private LeadPair? Within() =>
        (
            from g in Groups
            where g.Points.Count > 2
            from pair in g.Pairs
            where !read.ContainsKey(pair)
            select (LeadPair?)pair
        ).FirstOrDefault();
}
