using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>
/// A sample, seeds fixed, of what the benchmark's evaluation runs over every machine: faults drawn as they are believed to
/// come, hunted by the program and by hand.
/// </summary>
public class EvaluationTests
{
    private const int Hunts = 8;

    private static readonly (string Machine, string Duty)[] Sample =
    [
        ("hedgerow-mower-2", "stops-magneto-lever-0"),
        ("run-stand-1", "cranks"),
        ("orchard-tractor-4", "cranks"),
        ("orchard-tractor-4", "does-lamp-right"),
        ("hill-quad-2", "does-tail-lamp"),
        ("packhouse-generator-1", "does-outlet1"),
    ];

    private static readonly Lazy<IReadOnlyList<Evaluation>> Believed = new(() => Of(World.Believed));

    private static readonly Lazy<List<DiagnosisKit>> Kits = new(() =>
        [.. Sample.Select(s => Shipped.Kit(s.Machine, s.Duty))]
    );

    private static IReadOnlyList<Evaluation> Of(World world) => [.. Kits.Value.Select(k => new Evaluation(k, world))];

    private static List<Hunt> Hunted(IReadOnlyList<Evaluation> evaluations, Func<DiagnosisKit, IStrategy> strategy) =>
        [
            .. evaluations.SelectMany(
                (e, i) =>
                {
                    var hunter = strategy(Kits.Value[i]);
                    return Enumerable.Range(1, Hunts).Select(seed => e.Hunt((100 * i) + seed, hunter)).OfType<Hunt>();
                }
            ),
        ];

    private static double Right(List<Hunt> hunts) => hunts.Average(h => h.Right ? 1.0 : 0);

    /// <summary>Minutes with what a wrong part or none costs, by the same loss for everybody.</summary>
    private static double Cost(List<Hunt> hunts) => hunts.Average(h => h.Minutes.Value + (h.Right ? 0 : 60));

    [Fact]
    public void The_program_is_right_nearly_always_and_costs_less_than_half_splitting_by_hand()
    {
        var ours = Hunted(Believed.Value, _ => new ByInformation());
        var halves = Hunted(Believed.Value, k => new ByHalves(k));
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"ours {Right(ours):P1}, {Cost(ours):0.0} min; halves {Right(halves):P1}, {Cost(halves):0.0} min"
        );
        Assert.True(ours.Count > 40);
        Assert.True(Right(ours) >= 0.93, $"right {Right(ours):P1}");
        Assert.True(Cost(ours) <= 0.6 * Cost(halves), $"{Cost(ours):0.0} against {Cost(halves):0.0} minutes");
    }

    [Fact]
    public void In_a_world_that_differs_it_is_still_right_nine_times_in_ten()
    {
        var hunts = Hunted(Of(World.Differing), _ => new ByInformation());
        Assert.True(Right(hunts) >= 0.88, $"right {Right(hunts):P1}");
    }

    [Fact]
    public void The_same_seed_hides_the_same_machine()
    {
        var (one, other) = (Believed.Value[1].Hide(7)!, Believed.Value[1].Hide(7)!);
        var at = Kits.Value[1].Plan.Allowed(new Situation()).First();
        Assert.Equal(one.Id, other.Id);
        Assert.Equal(one.Read(at), other.Read(at));
    }

    [Fact]
    public void A_machine_with_two_faults_still_fails_when_one_is_mended_and_works_when_both_are()
    {
        var hidden = Believed.Value[2].Hide(11, faults: 2)!;
        var (first, second) = (hidden.Faults.First().Repair.Id, hidden.Faults.Last().Repair.Id);
        Assert.NotEqual(first, second);
        Assert.Equal(second, Assert.Single(hidden.After(first)!.Faults).Repair.Id);
        Assert.Null(hidden.After(first)!.After(second));
    }

    [Fact]
    public void A_fault_that_comes_and_goes_says_whether_it_was_there()
    {
        var kit = Kits.Value[2];
        var seldom = new Evaluation(kit, World.Believed with { Presence = 1.0 / 3 }).Hide(5)!;
        var live = kit
            .Plan.Allowed(new Situation())
            .First(p => kit.Table.Conditions[p.Condition].Observable.Key == Quantity.Volts);
        var shown = Enumerable.Range(0, 600).Count(_ => seldom.Read(live).Symptom == SymptomNow.Present);

        // 600 tries at a third: 200, and three standard deviations are 35.
        Assert.InRange(shown, 165, 235);
        Assert.Equal((1, 3), (seldom.Complaint.Failed, seldom.Complaint.Tried));
    }

    [Fact]
    public void A_simulated_reading_is_shown_and_typed_as_it_is_weighed()
    {
        var kit = Kits.Value[2];
        var hidden = Believed.Value[2].Hide(3)!;
        foreach (var quantity in new[] { Quantity.Volts, Quantity.Ohms })
        {
            var at = kit
                .Plan.Allowed(new Situation())
                .First(p => kit.Table.Conditions[p.Condition].Observable.Key == quantity);
            var read = hidden.Read(at);
            var shown = JobDiagnosis.Displayed(kit, Meter.Ordinary, read);
            Assert.Equal(read.Value!.Value, JobDiagnosis.Scaled(kit, Meter.Ordinary, at, shown)!.Value, 6);
        }
    }
}
