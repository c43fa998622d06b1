using System.Runtime.InteropServices;
using Pritchel.Core.Faults;

namespace Pritchel.Core.Diagnosis;

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
    private static readonly Repair NotThisCircuit = new(
        Suspect.Sound,
        "nothing in this circuit",
        "not this circuit",
        RepairKind.CleanJoint,
        ""
    );

    /// <summary>What each result of a test would point to, under present beliefs.</summary>
    public static Outlook Of(Beliefs beliefs, ProbePair at)
    {
        var sound = Staircase.Sound(beliefs, at);
        double idle = 0;
        var (healthy, other) = (new Dictionary<Repair, double>(), new Dictionary<Repair, double>());
        var odd = new List<(double Volts, double Weight)>();
        for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
        {
            var hypothesis = beliefs.Hypothesis(h);
            var repair = hypothesis.Fault?.Repair ?? NotThisCircuit;
            var shown = hypothesis.HasVolts ? hypothesis : beliefs.Table.Healthy;
            var figures = shown.Across(at);
            var weights = beliefs.Weights(h);
            for (var p = 0; p < weights.Length; p++)
            {
                var volts = figures[p];
                var agrees = sound.Agrees(volts);
                idle += sound.LikeIdle(volts) ? weights[p] : 0;
                var into = agrees ? healthy : other;
                into[repair] = into.GetValueOrDefault(repair) + weights[p];
                if (!agrees)
                {
                    odd.Add((volts, weights[p]));
                }
            }
        }

        odd.Sort();
        var total = healthy.Values.Sum() + other.Values.Sum();
        var mostlyIdle = idle > 0.5 * healthy.Values.Sum();
        return new Outlook(
            mostlyIdle ? sound.IdleLow : sound.WorkingLow,
            mostlyIdle ? sound.IdleHigh : sound.WorkingHigh,
            healthy.Values.Sum() / Math.Max(total, 1e-300),
            Top(healthy),
            Top(other),
            Quantiles.Of(CollectionsMarshal.AsSpan(odd), 0.05),
            Quantiles.Of(CollectionsMarshal.AsSpan(odd), 0.95)
        );
    }

    private static IReadOnlyList<Repair> Top(Dictionary<Repair, double> shares)
    {
        var total = shares.Values.Sum();
        return
        [
            .. shares.Where(s => s.Value > 0.05 * total).OrderByDescending(s => s.Value).Take(2).Select(s => s.Key),
        ];
    }
}
