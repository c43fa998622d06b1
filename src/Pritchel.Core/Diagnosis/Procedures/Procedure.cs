using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>
/// A kind of test: says for which duties it is worth while and in which conditions it is taken, from the circuit alone; no
/// family of machine and no part is known by name. One file each, found by itself.
/// </summary>
public abstract class Procedure
{
    /// <summary>Short name; never changed once used.</summary>
    public abstract string Key { get; }

    /// <summary>Why it tells something, in a few words.</summary>
    public abstract string Why { get; }

    /// <summary>Where its conditions stand among those of others: what two kinds of test read alike belongs to the first.</summary>
    public virtual int Rank => 1000;

    /// <summary>Conditions worth measuring in; none where it does not apply.</summary>
    public abstract IEnumerable<Condition> For(TestedDuty tested);
}

/// <summary>Implemented by a device that has a kind of test of its own, found only on machines that have it.</summary>
public interface IOwnTests
{
    /// <summary>Conditions worth measuring in for a duty.</summary>
    IEnumerable<Condition> Tests(TestedDuty tested);
}

/// <summary>All kinds of test.</summary>
public static class ProcedureCatalogue
{
    private static readonly Lazy<IReadOnlyList<Procedure>> Found = new(() =>
        [.. Extensions.Of<Procedure>().OrderBy(p => p.Rank).ThenBy(p => p.Key, StringComparer.Ordinal)]
    );

    /// <summary>All of them, in the order in which conditions are numbered.</summary>
    public static IReadOnlyList<Procedure> All => Found.Value;

    /// <summary>The one of a key, or null.</summary>
    public static Procedure? Named(string key) => All.FirstOrDefault(p => p.Key == key);

    /// <summary>Conditions of a duty; the duty's own is always the first.</summary>
    public static IReadOnlyList<Condition> Conditions(TestedDuty tested) =>
        [.. OnceEach(All.SelectMany(p => p.For(tested).Select(c => c with { Procedure = p.Key })))];

    /// <summary>Conditions without the pairs that one before them reads just so, under another name.</summary>
    private static IEnumerable<Condition> OnceEach(IEnumerable<Condition> conditions)
    {
        var read = new HashSet<(ControlSetting, string, Machines.DutySpeed, SparkTesterAt, string Off, (int, int))>();
        foreach (var condition in conditions)
        {
            if (condition.Pairs is not { Count: > 0 } pairs)
            {
                yield return condition;
                continue;
            }

            var off = string.Join(' ', condition.Off.Select(o => o.Text));
            var anew = pairs.Where(p =>
                read.Add((condition.Setting, condition.Observable.Key, condition.Speed, condition.Tester, off, p))
            );
            foreach (var hand in Hands(anew))
            {
                yield return condition with
                {
                    Pairs = hand,
                };
            }
        }
    }

    /// <summary>
    /// Pairs dealt out so that in each hand no point is red twice, nor red for one pair and black for another: a condition
    /// keeps one figure for each red point.
    /// </summary>
    private static List<List<(int Red, int Black)>> Hands(IEnumerable<(int Red, int Black)> pairs)
    {
        var hands = new List<List<(int Red, int Black)>>();
        foreach (var (red, black) in pairs)
        {
            var hand = hands.Find(h => h.TrueForAll(p => p.Red != red && p.Black != red && p.Red != black));
            if (hand is null)
            {
                hands.Add(hand = []);
            }

            hand.Add((red, black));
        }

        return hands;
    }
}
