using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Hunts;

namespace Pritchel.Core.Tests;

/// <summary>
/// Every fault that can be planted gives a complaint that can be told, of its own moment or of another, or changes nothing that any part
/// does. All machines: the bench's "properties", and docs/method.md for what it found.
/// </summary>
public class ReachTests
{
    [Theory]
    [InlineData("hedgerow-mower-2")]
    [InlineData("run-stand-1")]
    [InlineData("packhouse-generator-1")]
    [InlineData("tide-outboard-3")]
    public void Every_fault_can_be_told_or_is_seen_nowhere(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var left = circuit.Faults.ToList();
        foreach (var duty in Symptoms.Of(circuit).Select(s => s.Duty).Where(d => DutyTries.IsQuick(circuit, d)))
        {
            var tries = DutyTries.Build(circuit, duty, []);
            left.RemoveAll(f => Reach.Fails(tries, f));
        }

        var (_, nowhere, untold) = Reach.Of(circuit, left, out _);
        Assert.True(
            nowhere.Count < circuit.Faults.Count / 2,
            $"{nowhere.Count} of {circuit.Faults.Count} are seen nowhere"
        );
        Assert.True(untold.Count == 0, string.Join('\n', untold.Select(u => $"{u.Fault.Id}: {u.Seen}")));
    }
}
