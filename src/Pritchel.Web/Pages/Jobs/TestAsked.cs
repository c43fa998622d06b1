using System.Globalization;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>A test that an address or a form names by its condition and two points: "condition;red;black".</summary>
/// <param name="Condition">Number of the condition.</param>
/// <param name="Red">Point under the red probe.</param>
/// <param name="Black">Point under the black probe.</param>
public sealed record TestAsked(int Condition, PointId Red, PointId Black)
{
    /// <summary>Reads one; null where none is named.</summary>
    public static TestAsked? Parse(string? text) =>
        text?.Split(';') is [var condition, var red, var black]
        && int.TryParse(condition, NumberStyles.None, CultureInfo.InvariantCulture, out var c)
            ? new TestAsked(c, PointId.Of(red), PointId.Of(black))
            : null;

    /// <summary>The two points on a job's machine; null where nothing is read between them there.</summary>
    public ProbePair? PairIn(OpenJob open)
    {
        if (
            Condition < 0
            || Condition >= open.Kit.Table.Conditions.Count
            || !open.Circuit.HasNode(Red)
            || !open.Circuit.HasNode(Black)
        )
        {
            return null;
        }

        var at = new ProbePair(Condition, open.Circuit.NodeOf(Red), open.Circuit.NodeOf(Black));
        return open.Kit.Reads(at) ? at : null;
    }

    /// <summary>The test, planned; null where there is none such.</summary>
    public PlannedTest? PlannedIn(OpenJob open) =>
        PairIn(open) is not { } at
            ? null
            : open.Diagnosis.Tests.FirstOrDefault(t => t.At == at)
                ?? open.Kit.Plan.Plan(at, open.Diagnosis.Situation, 0);

    /// <inheritdoc/>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Condition};{Red};{Black}");
}
