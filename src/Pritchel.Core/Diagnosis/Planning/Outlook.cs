using System.Runtime.InteropServices;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>One of the two answers of a test.</summary>
/// <param name="Low">Lower edge of what would be read, on the scale of what is read; NaN where nothing is expected there.</param>
/// <param name="High">Upper edge.</param>
/// <param name="Chance">Chance of it, 0 to 1.</param>
/// <param name="PointsTo">What it points to, likeliest first: two at the most.</param>
/// <param name="IsSound">Whether sound wiring reads so.</param>
public sealed record OutlookAnswer(
    double Low,
    double High,
    double Chance,
    IReadOnlyList<Repair> PointsTo,
    bool IsSound
);

/// <summary>What a test's result would point to.</summary>
/// <param name="First">Where it reads as sound wiring does, with the load idle or at work as beliefs have it; or the lower figures.</param>
/// <param name="Second">Where it reads otherwise; or the higher figures.</param>
/// <param name="BySoundness">
/// Whether the first answer is that of sound wiring. Where sound and otherwise would point to the same, or one of them is certain to come,
/// the answers lie either side of the figure that tells the suspects apart best, until one of them stands nearly clear.
/// </param>
public sealed record Outlook(OutlookAnswer First, OutlookAnswer Second, bool BySoundness)
{
    // What is as good as cleared moves no edge and no name.
    private const double LeastShare = 1e-6;
    private const double LeastNamed = 0.05;
    private const int MostNamed = 2;

    // An answer that comes once in two hundred times is none to wait for.
    private const double Foregone = 0.005;

    private static readonly Repair NotThisCircuit = new(
        default,
        "nothing in this circuit",
        "not this circuit",
        RepairKind.CleanJoint,
        default
    );

    /// <summary>What each result of a test would point to, under present beliefs.</summary>
    public static Outlook Of(Beliefs beliefs, ProbePair at)
    {
        var expected = new Expectations(beliefs, at);
        var plain = BySound(beliefs, at, expected);
        var isForegone = Math.Min(plain.First.Chance, plain.Second.Chance) < Foregone;

        // Once one suspect stands nearly clear it is asked whether it is there or not, and sound wiring's figure is wanted beside it.
        if (beliefs.Suspects[0].Share >= Isolation.Nearly || (!plain.PointsAlike && !isForegone))
        {
            return plain;
        }

        return
            expected.Divided(beliefs, at) is { } division && (plain.PointsAlike || division.Bits >= TestPlan.LeastBits)
            ? ByFigure(expected, division, Staircase.Sound(beliefs, at))
            : new Outlook(Answered(plain.First), Answered(plain.Second), BySoundness: true);
    }

    /// <summary>What one figure tells of the suspects, the meter's own doubt counted: bits, and never more than the reading itself.</summary>
    public static double Told(Beliefs beliefs, ProbePair at) =>
        new Expectations(beliefs, at).Divided(beliefs, at)?.Bits ?? 0;

    /// <summary>What comes more seldom than a slip points to a slip.</summary>
    private static OutlookAnswer Answered(OutlookAnswer answer) =>
        answer.Chance < Likelihood.WildShare ? answer with { PointsTo = [] } : answer;

    /// <summary>Whether both answers would leave the same suspects first, in the same order.</summary>
    public bool PointsAlike => First.PointsTo.Select(r => r.Id).SequenceEqual(Second.PointsTo.Select(r => r.Id));

    private static Outlook BySound(Beliefs beliefs, ProbePair at, Expectations expected)
    {
        var sound = Staircase.Sound(beliefs, at);
        var (like, unlike) = (new double[expected.Repairs.Count], new double[expected.Repairs.Count]);
        var odd = new List<(double Figure, double Weight)>();
        double idle = 0;
        foreach (var (figure, repair, weight) in expected.Figures)
        {
            idle += sound.LikeIdle(figure) ? weight : 0;
            if (sound.Agrees(figure))
            {
                like[repair] += weight;
            }
            else
            {
                unlike[repair] += weight;
                odd.Add((figure, weight));
            }
        }

        odd.Sort();
        var chance = like.Sum() / Math.Max(like.Sum() + unlike.Sum(), 1e-300);
        var mostlyIdle = idle > 0.5 * like.Sum();
        return new Outlook(
            new OutlookAnswer(
                mostlyIdle ? sound.IdleLow : sound.WorkingLow,
                mostlyIdle ? sound.IdleHigh : sound.WorkingHigh,
                chance,
                Likeliest(expected.Repairs, like),
                IsSound: true
            ),
            Answer(odd, 1 - chance, Likeliest(expected.Repairs, unlike)),
            BySoundness: true
        );
    }

    private static Outlook ByFigure(Expectations expected, Division division, SoundBands sound)
    {
        OutlookAnswer Side(bool below)
        {
            var figures = expected
                .Figures.Where(f => f.Figure < division.Figure == below)
                .Select(f => (f.Figure, f.Weight))
                .Order()
                .ToList();
            var (here, there) = below ? (division.Below, division.Above) : (division.Above, division.Below);
            var answer = Answer(
                figures,
                here.Sum() / (here.Sum() + there.Sum()),
                SpokenFor(expected.Repairs, here, there)
            );
            return answer with { IsSound = sound.Agrees(answer.Low) && sound.Agrees(answer.High) };
        }

        return new Outlook(Side(below: true), Side(below: false), BySoundness: false);
    }

    private static OutlookAnswer Answer(List<(double Figure, double Weight)> sorted, double chance, Repair[] pointsTo)
    {
        var figures = CollectionsMarshal.AsSpan(sorted);
        return new OutlookAnswer(
            Quantiles.Of(figures, 0.05),
            Quantiles.Of(figures, 0.95),
            chance,
            pointsTo,
            IsSound: false
        );
    }

    private static Repair[] Likeliest(List<Repair> repairs, double[] shares) =>
        Named(repairs, shares, k => shares[k] > LeastNamed * shares.Sum());

    /// <summary>What stands higher with this answer than with the other; of what counts for little the one that gains most, if nothing else.</summary>
    private static Repair[] SpokenFor(List<Repair> repairs, double[] here, double[] there)
    {
        var (all, others) = (here.Sum(), there.Sum());
        double Gain(int k) => here[k] / all / Math.Max(there[k] / others, 1e-12);
        var named = Named(repairs, here, k => here[k] > LeastNamed * all && Gain(k) > 1);
        return named.Length > 0
            ? named
            : [repairs[Enumerable.Range(0, repairs.Count).Where(k => here[k] > 0).MaxBy(Gain)]];
    }

    private static Repair[] Named(List<Repair> repairs, double[] shares, Func<int, bool> counts) =>
        [
            .. Enumerable
                .Range(0, repairs.Count)
                .Where(counts)
                .OrderByDescending(k => shares[k])
                .Take(MostNamed)
                .Select(k => repairs[k]),
        ];

    /// <summary>What is expected at a place, figure by figure, each with the repair it would call for and its share of belief.</summary>
    private sealed class Expectations
    {
        public Expectations(Beliefs beliefs, ProbePair at)
        {
            var known = new Dictionary<RepairId, int>();
            for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
            {
                if (beliefs.Share(h) < LeastShare)
                {
                    continue;
                }

                var hypothesis = beliefs.Hypothesis(h);
                var repair = hypothesis.Fault?.Repair ?? NotThisCircuit;
                if (known.TryAdd(repair.Id, Repairs.Count))
                {
                    Repairs.Add(repair);
                }

                var figures = (hypothesis.HasPredictions ? hypothesis : beliefs.Table.Healthy).Across(at);
                var weights = beliefs.Weights(h);
                for (var p = 0; p < weights.Length; p++)
                {
                    if (weights[p] > 0)
                    {
                        Figures.Add((figures[p], known[repair.Id], weights[p]));
                    }
                }
            }
        }

        /// <summary>The figure that parts them best, by the meter in use; null where none does.</summary>
        public Division? Divided(Beliefs beliefs, ProbePair at)
        {
            var observable = beliefs.Table.Conditions[at.Condition].Observable;
            return Division.Best(
                Figures,
                Repairs.Count,
                figure =>
                    observable.Noise(beliefs.Meter, figure) + (observable.GainSigma(beliefs.Meter) * Math.Abs(figure))
            );
        }

        public List<Repair> Repairs { get; } = [];

        public List<(double Figure, int Repair, double Weight)> Figures { get; } = [];
    }
}
