using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;

namespace Pritchel.Core.Practice;

/// <summary>A way of choosing the next test.</summary>
public interface IStrategy
{
    /// <summary>Name for reports.</summary>
    string Name { get; }

    /// <summary>The next test, or null when it has no more.</summary>
    PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation);
}

/// <summary>The program's own choice: most information per minute.</summary>
public sealed class ByInformation : IStrategy
{
    /// <inheritdoc/>
    public string Name => "information per minute";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation) => plan.Best(beliefs, situation, 1).FirstOrDefault();
}

/// <summary>Any allowed test.</summary>
public sealed class ByChance(Random random) : IStrategy
{
    /// <inheritdoc/>
    public string Name => "random order";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        var allowed = plan.Allowed(situation).ToArray();
        return allowed.Length == 0 ? null : plan.Plan(allowed[random.Next(allowed.Length)], situation, 1);
    }
}

/// <summary>
/// Half-splitting as taught by hand: volts to battery negative, in the failing setting, at the middle of the stretch
/// of the line in which the volts were last good and first bad; first the control line, then the heavy line.
/// </summary>
public sealed class ByHalves(IReadOnlyList<LinePath> lines, int reference) : IStrategy
{
    private const double LostVolts = 1;

    /// <inheritdoc/>
    public string Name => "half-splitting along the path";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        foreach (var line in lines)
        {
            var nodes = line.Nodes.Where(n => n != reference).ToArray();
            var (good, bad) = Stretch(beliefs, nodes);
            while (bad - good > 1)
            {
                var middle = (good + bad) / 2;
                var at = Enumerable
                    .Range(good + 1, bad - good - 1)
                    .OrderBy(i => Math.Abs(i - middle))
                    .Select(i => new ProbePair(0, nodes[i], reference))
                    .FirstOrDefault(p => plan.Allowed(situation).Contains(p), new ProbePair(-1, 0, 0));
                if (at.Condition < 0)
                {
                    break;
                }

                return plan.Plan(at, situation, 1);
            }
        }

        // Both lines split to the end: whatever is left along them, in order.
        return lines
            .SelectMany(l => l.Nodes)
            .Select(n => new ProbePair(0, n, reference))
            .Where(p => plan.Allowed(situation).Contains(p))
            .Select(p => plan.Plan(p, situation, 1))
            .FirstOrDefault();
    }

    private (int Good, int Bad) Stretch(Beliefs beliefs, int[] nodes)
    {
        var (good, bad) = (-1, nodes.Length);
        for (var i = 0; i < nodes.Length; i++)
        {
            foreach (var reading in beliefs.Readings.Where(r => r.At == new ProbePair(0, nodes[i], reference)))
            {
                var sound = beliefs.Table.Healthy.Volts(0, nodes[i], beliefs.Table.Circuit.Network.NodeCount);
                var expected = sound.ToArray().Average();
                if (reading.Volts is { } volts && Math.Abs(volts - expected) < LostVolts)
                {
                    good = Math.Max(good, i);
                }
                else
                {
                    bad = Math.Min(bad, i);
                }
            }
        }

        return (good, bad);
    }
}
