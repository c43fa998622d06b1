using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;

namespace Pritchel.Core.Practice;

/// <summary>What is made of a hunt before the next test is taken; with neither of the two that test is taken.</summary>
/// <param name="Repair">Repair decided on; null for none.</param>
/// <param name="ByItself">A part to be tested by itself; null for none.</param>
public readonly record struct Decision(SuspectId? Repair, PartId? ByItself = null)
{
    /// <summary>What the program's own stopping rule decides.</summary>
    public static Decision Of(Verdict verdict) => new(verdict.Suspect?.Id, verdict.ByItself);
}

/// <summary>A way of choosing the next test.</summary>
public interface IStrategy
{
    /// <summary>Name for reports.</summary>
    string Name { get; }

    /// <summary>The next test, or null when it has no more.</summary>
    PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation);

    /// <summary>What it would move, warm or wet; null for one that only measures.</summary>
    PlannedWiggle? Stir(WiggleTests wiggleTests, Beliefs beliefs, Situation situation) => null;

    /// <summary>What is decided before the next test is taken; by the program's own stopping rule unless it has another.</summary>
    Decision Decide(Beliefs beliefs, PlannedTest? next, PlannedWiggle? stir = null) =>
        Decision.Of(Verdict.Of(beliefs, next, stir));
}

/// <summary>The program's own choice: most information per minute.</summary>
public sealed class ByInformation : IStrategy
{
    /// <inheritdoc/>
    public string Name => "information per minute";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation) =>
        plan.Best(beliefs, situation, 1).FirstOrDefault();

    /// <inheritdoc/>
    public PlannedWiggle? Stir(WiggleTests wiggleTests, Beliefs beliefs, Situation situation) =>
        wiggleTests.Best(beliefs, situation, 1).FirstOrDefault();
}

/// <summary>Any allowed test.</summary>
public sealed class ByChance(DiagnosisKit kit, Random random) : IStrategy
{
    /// <inheritdoc/>
    public string Name => "random order";

    /// <inheritdoc/>
    public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
    {
        var allowed = plan.Allowed(situation)
            .Where(p => kit.Table.Conditions[p.Condition].Observable.CanRead(beliefs.Meter))
            .ToArray();
        return allowed.Length == 0 ? null : plan.Plan(allowed[random.Next(allowed.Length)], situation, 1);
    }

    /// <inheritdoc/>
    /// <remarks>Stops as the program does, by what the program's best test would cost.</remarks>
    public Decision Decide(Beliefs beliefs, PlannedTest? next, PlannedWiggle? stir = null) =>
        Decision.Of(
            Verdict.Of(beliefs, next is null ? null : kit.Plan.Best(beliefs, new Situation(), 1).FirstOrDefault())
        );
}
