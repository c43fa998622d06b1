using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Machines made up at random, healthy and faulty, with parts in the same state, against the reference simulator.</summary>
public class RandomMachineTests
{
    private const int Machines = 24;
    private const int FaultsEach = 6;

    [Fact]
    public void Random_machines_of_10_to_150_nodes_agree_with_the_reference_simulator()
    {
        var random = new Random(415);
        var comparison = new ReferenceComparison(random, drops: 20);
        var (least, most) = (int.MaxValue, 0);
        for (var m = 0; m < Machines; m++)
        {
            var circuit = Make(random, parts: 1 + (m * 22 / Machines));
            (least, most) = (Math.Min(least, circuit.Network.NodeCount), Math.Max(most, circuit.Network.NodeCount));
            comparison.Compare(circuit, [.. circuit.AllSettings()], FaultsEach);
        }

        comparison.Report();
        Assert.True(least <= 15 && most >= 120, $"machines of {least} to {most} nodes");
        Assert.True(comparison.Cases > Machines * FaultsEach, $"only {comparison.Cases} cases were comparable");
    }

    /// <summary>Lamps and diodes hung at random between the key's feed, the frame and each other.</summary>
    private static Circuit Make(Random random, int parts)
    {
        var machine = new SmallMachine();
        var ends = new List<string> { "key.A", "frame.bolt" };
        for (var p = 0; p < parts; p++)
        {
            var diode = random.Next(4) == 0;
            var (id, one, other) = diode ? ($"d{p}", $"d{p}.a", $"d{p}.k") : ($"l{p}", $"l{p}.+", $"l{p}.-");
            machine = diode ? machine.Part(id, "diode", "a", "k") : machine.Lamp(id, 2 + (random.NextDouble() * 50));
            machine.Wire(ends[random.Next(ends.Count)], one);
            machine.Wire(other, random.Next(2) == 0 ? "frame.bolt" : ends[random.Next(ends.Count)]);
            ends.Add(one);
            ends.Add(other);
        }

        return machine.Compile();
    }
}
