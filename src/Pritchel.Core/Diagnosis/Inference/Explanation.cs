using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>How one reading speaks for or against a suspect.</summary>
/// <param name="At">Where it was read.</param>
/// <param name="Read">What was read, on the scale of what is read; null when it jumped.</param>
/// <param name="Factor">How many times likelier it is with this suspect than with all the others together.</param>
/// <param name="Low">Lower edge of what the suspect would show there, on the scale of what is read.</param>
/// <param name="High">Upper edge.</param>
public sealed record ReadingWeight(ProbePair At, double? Read, double Factor, double Low, double High);

/// <summary>Why a suspect stands where it does.</summary>
/// <param name="Suspect">The suspect.</param>
/// <param name="Before">Its share after the complaint, before any reading.</param>
/// <param name="Readings">The readings, in the order taken.</param>
public sealed record Reasons(Suspect Suspect, double Before, IReadOnlyList<ReadingWeight> Readings);

/// <summary>What cleared a suspect.</summary>
/// <param name="Suspect">The suspect.</param>
/// <param name="Before">Its share after the complaint, before any reading.</param>
/// <param name="By">The reading that spoke most against it; null when the complaint already had.</param>
public sealed record Clearing(Suspect Suspect, double Before, ReadingWeight? By);

/// <summary>
/// What each reading by itself says of each suspect. Readings weighed jointly can say more than these factors multiplied,
/// since severity and battery are shared; the factors show which reading carries the weight.
/// </summary>
public sealed class Explanation
{
    private const double ClearedShare = 0.005;
    private const double WorthSaying = 0.002;
    private const double SpeaksAgainst = 0.5;

    private readonly Beliefs beliefs;
    private readonly List<GroupedReading> readings;
    private readonly Dictionary<SuspectId, List<int>> members;
    private readonly double[] before;
    private readonly double[][] after;

    private Explanation(Beliefs beliefs)
    {
        this.beliefs = beliefs;
        readings = GroupedReading.Of(beliefs.Table, beliefs.Readings, beliefs.Meter);
        var count = beliefs.Table.Hypotheses.Count;
        members = Enumerable
            .Range(0, count)
            .GroupBy(h => beliefs.Hypothesis(h).Fault is { } fault ? fault.Repair.Id : SuspectId.Sound)
            .ToDictionary(g => g.Key, g => g.ToList());
        before = new double[count];
        after = new double[count][];
        Parallel.For(
            0,
            count,
            Cores.All,
            h =>
            {
                before[h] = beliefs.Weigh(h, []).Sum();
                after[h] = [.. readings.Select(r => beliefs.Weigh(h, [r]).Sum())];
            }
        );
        var known = beliefs.Suspects.Where(s => members.ContainsKey(s.Id)).ToList();
        First = [.. known.Where(s => s.Share >= ClearedShare).Take(5).Select(Of)];
        Cleared =
        [
            .. known
                .Where(s => s.Share < ClearedShare && Share(s) >= WorthSaying)
                .OrderByDescending(Share)
                .Take(30)
                .Select(s => new Clearing(s, Share(s), Against(s))),
        ];
    }

    /// <summary>The first suspects, with the readings for and against.</summary>
    public IReadOnlyList<Reasons> First { get; }

    /// <summary>What the complaint left and the readings cleared, likeliest before first.</summary>
    public IReadOnlyList<Clearing> Cleared { get; }

    /// <summary>Explains beliefs.</summary>
    public static Explanation Of(Beliefs beliefs) => new(beliefs);

    private double Share(Suspect suspect) => members[suspect.Id].Sum(h => before[h]) / before.Sum();

    private Reasons Of(Suspect suspect) =>
        new(suspect, Share(suspect), [.. Enumerable.Range(0, readings.Count).Select(r => Weight(suspect, r))]);

    private ReadingWeight? Against(Suspect suspect)
    {
        var strongest = Enumerable.Range(0, readings.Count).Select(r => Weight(suspect, r)).MinBy(w => w.Factor);
        return strongest is { Factor: < SpeaksAgainst } ? strongest : null;
    }

    private ReadingWeight Weight(Suspect suspect, int reading)
    {
        var own = members[suspect.Id];
        var (ownBefore, ownAfter) = (own.Sum(h => before[h]), own.Sum(h => after[h][reading]));
        var (restBefore, restAfter) = (before.Sum() - ownBefore, after.Sum(a => a[reading]) - ownAfter);
        var factor = ownAfter / ownBefore / Math.Max(1e-300, restAfter / restBefore);
        var at = readings[reading].At;
        var (low, high) = Shown(own, at);
        return new ReadingWeight(at, readings[reading].Value, factor, low, high);
    }

    /// <summary>What the suspect's likeliest fault would show at a place, 5th to 95th percentile after the complaint.</summary>
    private (double Low, double High) Shown(List<int> own, ProbePair at)
    {
        var likeliest = own.MaxBy(h => before[h]);
        var hypothesis = beliefs.Hypothesis(likeliest);
        var shown = hypothesis.HasPredictions ? hypothesis : beliefs.Table.Healthy;
        var weights = beliefs.Weigh(likeliest, []);
        var sorted = Enumerable
            .Range(0, weights.Length)
            .Select(p => (Figure: shown.Across(at)[p], Weight: weights[p]))
            .OrderBy(x => x.Figure)
            .ToArray();
        return (Quantiles.Of(sorted, 0.05), Quantiles.Of(sorted, 0.95));
    }
}
