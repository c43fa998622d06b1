using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// Whatever makes a machine fail to do something is among the suspects when it does not: each fault is planted by itself in
/// the machine as drawn, at its worst and somewhat milder, and the thing tried, apart from any diagnosis.
/// </summary>
public class SuspectsTests
{
    // What fails at the very end of its range alone (a fuse just heated enough) may fail in no machine that is weighed.
    private static readonly double[] Severities = [1, 0.8];

    [Theory]
    [InlineData("ridge-twin-1", "charges-battery", "regulator/dead")]
    [InlineData("quay-scooter-3", "charges-battery", "regulator/ac-plus-open")]
    [InlineData("orchard-tractor-4", "charges-battery", "rectifier/open")]
    [InlineData("tide-outboard-3", "cranks", "battery/flat")]
    [InlineData("packhouse-generator-1", "does-outlet1", null)]
    public void What_makes_it_fail_is_suspected(string machine, string duty, string? among)
    {
        var kit = Shipped.Kit(machine, duty);
        Assert.True(Level(kit, null, 0) > 0);
        var failing = kit
            .Circuit.Faults.Where(f => Severities.All(s => Level(kit, f, s) <= 0))
            .Select(f => f.Id)
            .ToHashSet();
        var suspected = kit
            .Table.Hypotheses.Where(h => h is { Fault: not null, HasPredictions: true })
            .Select(h => h.Fault!.Id)
            .ToHashSet();

        Assert.True(failing.Count > 10, $"only {failing.Count} faults make it fail");
        Assert.True(among is null || failing.Any(f => f.Text == among), $"{among} does not make it fail");
        Assert.Empty(failing.Except(suspected).Select(f => f.Text).Order(StringComparer.Ordinal));
    }

    private static double Level(DiagnosisKit kit, Fault? fault, double severity)
    {
        var circuit = fault is null ? kit.Circuit : kit.Circuit.With([fault]);
        var values = circuit.NominalParameters();
        if (fault is not null)
        {
            circuit.Plant(fault, fault.Severity.At(severity), values);
        }

        var duty = kit.Table.Duty;
        var state = new CircuitState(circuit) { Tolerance = DutyWaves.BeliefTolerance };
        state.Begin(values);
        state.SetSpeeds(duty.Speed);
        state.MoveThrough(duty);
        return circuit.DeviceOf(duty.Load).Effect(state).Level;
    }
}
