using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>The coarse kit against the whole one: numbered alike, true where it has figures, and a good first test.</summary>
public class CoarseKitTests
{
    [Theory]
    [InlineData("hedgerow-mower-2", "sparks-magneto")]
    [InlineData("orchard-tractor-4", "cranks")]
    [InlineData("orchard-tractor-4", "charges-battery")]
    [InlineData("quay-scooter-3", "sparks-coil")]
    [InlineData("terrace-dumper-1", "does-work-lamp")]
    public void The_first_test_of_a_few_cases_is_a_good_one_by_all(string machine, string complaint)
    {
        var circuit = Shipped.Circuit(machine);
        var duty = Symptoms.Duty(circuit, new DutyId(complaint));
        var (coarse, whole) = (DiagnosisKit.BuildCoarse(circuit, duty, []), Shipped.Kit(machine, complaint));
        Assert.True(coarse.Table.Particles < whole.Table.Particles);
        Assert.Equal(whole.Table.Conditions.Select(c => c.Words), coarse.Table.Conditions.Select(c => c.Words));

        // Draws come from one row of chances, so the first few machines are the same.
        var (few, many) = (coarse.Table.Healthy, whole.Table.Healthy);
        var nodes = circuit.Network.NodeCount;
        for (var c = 0; c < whole.Table.Conditions.Count; c++)
        {
            foreach (var (red, black) in whole.Table.Conditions[c].Pairs ?? [(nodes - 1, circuit.Reference)])
            {
                var at = new ProbePair(c, red, black);
                for (var p = 0; p < coarse.Table.Particles; p++)
                {
                    if (!coarse.Table.HasFigures(c))
                    {
                        Assert.False(few.Across(at).IsKnown(p));
                    }
                    else
                    {
                        Assert.Equal(many.Across(at)[p], few.Across(at)[p], 0.001);
                    }
                }
            }
        }

        var told = new ComplaintMade(new Complaint { Duty = duty.Id, Heard = Heard.Nothing });
        var state = JobState.Of([new RecordedEvent(1, DateTimeOffset.UnixEpoch, told)]);
        var first = JobDiagnosis.Of(state, coarse, Meter.Ordinary);
        var all = JobDiagnosis.Of(state, whole, Meter.Ordinary);
        Assert.True(first.HasTestAndNoVerdict);
        var rated = whole.Plan.Best(all.Beliefs, all.Situation, int.MaxValue).First(t => t.At == first.Next!.At);
        Assert.True(rated.Rate > 0.6 * all.Next!.Rate, $"{rated.Rate} of {all.Next.Rate} bits a minute");
    }

    /// <summary>By the drawing: three legs meet inside the stator, under its cover, where no lead comes out.</summary>
    [Fact]
    public void No_test_puts_a_probe_inside_a_part()
    {
        var circuit = Shipped.Circuit("hill-quad-2");
        var kit = DiagnosisKit.BuildCoarse(circuit, Symptoms.Duty(circuit, new DutyId("charges-battery")), []);
        var (star, lead) = (circuit.NodeOf("stator.star"), circuit.NodeOf("stator.a"));
        bool IsAt(int node, ProbePair at) => at.Red == node || at.Black == node;
        var allowed = kit.Plan.Allowed(new Situation()).ToList();
        Assert.Contains(allowed, at => IsAt(lead, at));
        Assert.DoesNotContain(allowed, at => IsAt(star, at));
    }
}
