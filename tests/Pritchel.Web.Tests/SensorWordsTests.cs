using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Tests;

/// <summary>Tests that want heat, water or a level say how to get it.</summary>
public class SensorWordsTests
{
    [Theory]
    [InlineData("harbour-launch-1", "coolant", "hot", "temperature switch hot: out of a cold engine")]
    [InlineData("harbour-launch-1", "water", "wet", "drive-seal sensor wet: a cup")]
    [InlineData("packhouse-generator-1", "oil", "low", "low-oil float low: lift it out")]
    public void A_sensor_away_from_rest_is_told_how(string machine, string control, string position, string told)
    {
        var condition = Any(machine, new Dictionary<string, string> { [control] = position }, out var of);
        Assert.StartsWith(told, Assert.Single(SensorWords.BroughtAbout(condition, of)), StringComparison.Ordinal);
    }

    [Fact]
    public void A_key_needs_no_telling() =>
        Assert.Empty(
            SensorWords.BroughtAbout(
                Any("orchard-tractor-4", new Dictionary<string, string> { ["key"] = "START" }, out var machine),
                machine
            )
        );

    private static Condition Any(string id, Dictionary<string, string> setting, out Machine machine)
    {
        machine = MachineFile
            .Read(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", id + ".json")))
            .Machine!;
        var circuit = Circuit.Compile(machine);
        var kit = DiagnosisKit.Sketch(circuit, Symptoms.Of(circuit)[0].Duty, []);
        return kit.Table.Conditions[0] with
        {
            Setting = circuit.Setting(setting.ToDictionary(s => new ControlId(s.Key), s => new PositionId(s.Value))),
        };
    }
}
