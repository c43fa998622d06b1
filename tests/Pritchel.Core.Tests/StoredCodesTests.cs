using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;

namespace Pritchel.Core.Tests;

/// <summary>Codes that a controller stores, as evidence.</summary>
public class StoredCodesTests
{
    private static readonly Lazy<StoredCodes> Stored = new(() =>
        StoredCodes.Build(Carrier, Symptoms.Duty(Carrier, new DutyId("runs-ecu")))
    );

    private static Simulation.Circuit Carrier => Shipped.Circuit("ridge-carrier-4");

    private static double Of(string? fault, params string[] read) =>
        Stored.Value.Of(read, fault is null ? null : Carrier.Faults.First(f => f.Id.Text == fault));

    [Fact]
    public void A_code_points_at_its_own_circuit_and_away_from_others()
    {
        var code = Assert.Single(Stored.Value.Possible, c => c.Contains("injector 1", StringComparison.Ordinal));
        Assert.True(Of("inj1/open", code) > 5 * Of(null, code));
        Assert.True(Of("inj1/open", code) > 5 * Of("inj2/open", code));
        Assert.True(Of("inj1/open") < 0.2 * Of(null), "no code read speaks against an open injector");
    }

    [Fact]
    public void A_crank_sensor_that_is_open_leaves_the_controller_without_a_crank_signal()
    {
        var code = Assert.Single(Stored.Value.Possible, c => c.Contains("crank signal", StringComparison.Ordinal));
        Assert.True(Of("pickup/open", code) > 5 * Of(null, code));
        Assert.True(Of("inj1/open", code) < Of("pickup/open", code));
    }

    [Fact]
    public void Chances_of_all_sets_of_codes_sum_to_one()
    {
        var possible = Stored.Value.Possible;
        Assert.InRange(possible.Count, 2, 12);
        foreach (var fault in new[] { null, "inj1/open", "temp-sensor/open" })
        {
            var sum = Enumerable
                .Range(0, 1 << possible.Count)
                .Sum(set => Of(fault, [.. possible.Where((_, i) => (set & (1 << i)) != 0)]));
            Assert.Equal(1, sum, 9);
        }
    }

    [Fact]
    public void A_machine_without_a_controller_stores_none() =>
        Assert.False(StoredCodes.HasCodes(Shipped.Circuit("orchard-tractor-4")));
}
