using Pritchel.Core.Diagnosis;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;

namespace Pritchel.Core.Practice;

/// <summary>A way of choosing the next test.</summary>
public interface IStrategy
{
    /// <summary>Name for reports.</summary>
    string Name { get; }

    /// <summary>The next test, or null when it has no more.</summary>
    PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation);

    /// <summary>Repair decided on before the next test is taken, or null to go on; by the program's own stopping rule unless it has another.</summary>
    string? Decide(Beliefs beliefs, PlannedTest? next) => Verdict.Of(beliefs, next).Suspect?.Id;
}

/// <summary>The program's own choice: most information per minute.</summary>
public sealed class ByInformation : IStrategy
{
    /// <inheritdoc/>
    public string Name => "information per minute";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation) =>
        plan.Best(beliefs, situation, 1).FirstOrDefault();
}

/// <summary>Any allowed test.</summary>
public sealed class ByChance(DiagnosisKit kit, Random random) : IStrategy
{
    /// <inheritdoc/>
    public string Name => "random order";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        var allowed = plan.Allowed(situation).ToArray();
        return allowed.Length == 0 ? null : plan.Plan(allowed[random.Next(allowed.Length)], situation, 1);
    }

    /// <inheritdoc/>
    /// <remarks>Stops as the program does, by what the program's best test would cost.</remarks>
    public string? Decide(Beliefs beliefs, PlannedTest? next) =>
        Verdict
            .Of(beliefs, next is null ? null : kit.Plan.Best(beliefs, new Situation(), 1).FirstOrDefault())
            .Suspect?.Id;
}

/// <summary>
/// Half-splitting as done by hand, apart from the program's planner and beliefs: battery at its posts under START
/// first, then volts to battery negative at the middle of the stretch between the last point that still had most of
/// the battery's volts and the first that had not. Silent starts follow the commanding line, clicks the heavy one.
/// The piece that is left is the verdict.
/// </summary>
public sealed class ByHalves(DiagnosisKit kit) : IStrategy
{
    // Half-crank floor for a 12 V battery at 16 °C: BCI practice, from memory.
    private const double BatteryFloorVolts = 9.5;
    private const double MostOfTheVolts = 6;

    /// <inheritdoc/>
    public string Name => "half-splitting along the path";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        if (Asked(beliefs, Posts) is null)
        {
            return plan.Plan(Posts, situation, 1);
        }

        var nodes = NodesFor(beliefs);
        var (high, low) = Stretch(beliefs, nodes);
        var middle = (high + low) / 2.0;
        return Enumerable
            .Range(high + 1, Math.Max(0, low - high - 1))
            .OrderBy(i => Math.Abs(i - middle))
            .Select(i => Pair(nodes[i]))
            .Where(p => Asked(beliefs, p) is null && CanProbe(p, situation))
            .Select(p => plan.Plan(p, situation, 1))
            .FirstOrDefault();
    }

    /// <inheritdoc/>
    public string? Decide(Beliefs beliefs, PlannedTest? next)
    {
        if (Asked(beliefs, Posts) is { Volts: < BatteryFloorVolts })
        {
            return kit.Circuit.Faults.First(f => f.Repair.Kind == RepairKind.ServiceBattery).Repair.Id;
        }

        if (next is not null)
        {
            return null;
        }

        // What lies in the stretch that is left, likeliest by rate.
        var nodes = NodesFor(beliefs);
        var (high, low) = Stretch(beliefs, nodes);
        var left = nodes[Math.Max(0, high)..Math.Min(nodes.Length, low + 1)].ToHashSet();
        return kit
            .Circuit.Faults.Where(f => left.Contains(f.Nodes.From) && left.Contains(f.Nodes.To))
            .GroupBy(f => f.Repair.Id, StringComparer.Ordinal)
            .MaxBy(g => g.Sum(f => f.Rate))
            ?.Key;
    }

    private ProbePair Posts => Pair(kit.Lines[0].Nodes.First());

    private ProbePair Pair(int node) => new(0, node, kit.Circuit.Reference);

    private int[] NodesFor(Beliefs beliefs)
    {
        var line = beliefs.Complaint.Heard == Heard.Nothing ? kit.Lines[0] : kit.Lines[^1];
        return [.. line.Nodes.Where(n => n != kit.Circuit.Reference)];
    }

    private bool CanProbe(ProbePair at, Situation situation)
    {
        var place = kit.Points.At(at.Red).Place;
        return place.EngineMayTurn && !situation.Unreachable.Contains(place.Id);
    }

    private static Reading? Asked(Beliefs beliefs, ProbePair at) => beliefs.Readings.LastOrDefault(r => r.At == at);

    private (int High, int Low) Stretch(Beliefs beliefs, int[] nodes)
    {
        var (high, low) = (0, nodes.Length);
        for (var i = 0; i < nodes.Length; i++)
        {
            // A figure that jumps says nothing to this method.
            if (Asked(beliefs, Pair(nodes[i]))?.Volts is not { } volts)
            {
                continue;
            }

            if (volts > MostOfTheVolts)
            {
                high = Math.Max(high, i);
            }
            else
            {
                low = Math.Min(low, i);
            }
        }

        return (high, low);
    }
}
