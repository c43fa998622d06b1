using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>Whole diagnoses of hidden faults, against half-splitting by hand.</summary>
public class RehearsalTests
{
    [Fact]
    public void Every_fault_that_stops_cranking_is_found_in_19_of_20_and_for_less_than_by_halves()
    {
        var kit = BeliefsTests.Kit;
        var (ours, halves) = (Hunt(new ByInformation()), Hunt(new ByHalves(kit)));
        TestContext.Current.TestOutputHelper?.WriteLine($"{Figures("information", ours)}; {Figures("halves", halves)}");
        Assert.True(ours.Count > 15);
        Assert.True(ours.Average(h => h.Right ? 1.0 : 0) >= 0.95);
        Assert.True(Cost(ours) < Cost(halves));
        Assert.True(ours.Average(h => h.Right ? 1.0 : 0) > halves.Average(h => h.Right ? 1.0 : 0));
    }

    /// <summary>Minutes, an hour for every wrong part or none among them.</summary>
    private static double Cost(List<Hunt> hunts) => hunts.Average(h => h.Minutes.Value + (h.Right ? 0 : 60));

    private static string Figures(string name, List<Hunt> hunts) =>
        $"{name}: {hunts.Count} hunts, right {hunts.Average(h => h.Right ? 1.0 : 0):P1}, readings {hunts.Average(h => h.Readings):0.00}, minutes {hunts.Average(h => h.Minutes.Value):0.0}";

    private static List<Hunt> Hunt(IStrategy strategy)
    {
        // A seed of the test's own, apart from the benchmark's.
        var kit = BeliefsTests.Kit;
        var random = new Random(90125);
        var hunts = new List<Hunt>();
        foreach (var (i, fault) in kit.Circuit.Faults.Index())
        {
            // Every fifth: all of them are hunted by the benchmark.
            var own = new Random(random.Next());
            if (i % 5 == 0 && HiddenFault.Hide(kit.Table, fault, Meter.Ordinary, own) is { } hidden)
            {
                hunts.Add(Rehearsal.Play(kit, hidden, Meter.Ordinary, strategy));
            }
        }

        return hunts;
    }
}
