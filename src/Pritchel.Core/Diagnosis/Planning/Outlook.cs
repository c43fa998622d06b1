using System.Runtime.InteropServices;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>What a test's result would point to.</summary>
/// <param name="Low">Lower edge of where sound wiring reads, with the load idle or at work as beliefs have it.</param>
/// <param name="High">Upper edge.</param>
/// <param name="ChanceHealthy">Chance that it will read so.</param>
/// <param name="IfHealthy">What then remains most suspect, first two.</param>
/// <param name="IfNot">What else, first two.</param>
/// <param name="NotLow">Lower edge of where it reads otherwise.</param>
/// <param name="NotHigh">Upper edge of that.</param>
public sealed record Outlook(
    double Low,
    double High,
    double ChanceHealthy,
    IReadOnlyList<Repair> IfHealthy,
    IReadOnlyList<Repair> IfNot,
    double NotLow,
    double NotHigh
)
{
    // What is as good as cleared moves no edge and no name.
    private const double LeastShare = 1e-6;

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
        var sound = Staircase.Sound(beliefs, at);
        double idle = 0;
        var (healthy, other) = (new Dictionary<RepairId, Pointed>(), new Dictionary<RepairId, Pointed>());
        var odd = new List<(double Volts, double Weight)>();
        for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
        {
            if (beliefs.Share(h) < LeastShare)
            {
                continue;
            }

            var hypothesis = beliefs.Hypothesis(h);
            var figures = (hypothesis.HasPredictions ? hypothesis : beliefs.Table.Healthy).Across(at);
            var weights = beliefs.Weights(h);
            var (soundly, oddly) = (0.0, 0.0);
            for (var p = 0; p < weights.Length; p++)
            {
                var volts = figures[p];
                idle += sound.LikeIdle(volts) ? weights[p] : 0;
                if (sound.Agrees(volts))
                {
                    soundly += weights[p];
                }
                else
                {
                    oddly += weights[p];
                    odd.Add((volts, weights[p]));
                }
            }

            var repair = hypothesis.Fault?.Repair ?? NotThisCircuit;
            Add(healthy, repair, soundly);
            Add(other, repair, oddly);
        }

        odd.Sort();
        var (like, unlike) = (healthy.Values.Sum(x => x.Share), other.Values.Sum(x => x.Share));
        var mostlyIdle = idle > 0.5 * like;
        return new Outlook(
            mostlyIdle ? sound.IdleLow : sound.WorkingLow,
            mostlyIdle ? sound.IdleHigh : sound.WorkingHigh,
            like / Math.Max(like + unlike, 1e-300),
            Top(healthy.Values, like),
            Top(other.Values, unlike),
            Quantiles.Of(CollectionsMarshal.AsSpan(odd), 0.05),
            Quantiles.Of(CollectionsMarshal.AsSpan(odd), 0.95)
        );
    }

    private static void Add(Dictionary<RepairId, Pointed> to, Repair repair, double share) =>
        to[repair.Id] = new Pointed(repair, share + (to.TryGetValue(repair.Id, out var before) ? before.Share : 0));

    private static IReadOnlyList<Repair> Top(IEnumerable<Pointed> pointed, double total) =>
        [.. pointed.Where(x => x.Share > 0.05 * total).OrderByDescending(x => x.Share).Take(2).Select(x => x.Repair)];

    /// <summary>A repair and the share of belief that points to it.</summary>
    private readonly record struct Pointed(Repair Repair, double Share);
}
