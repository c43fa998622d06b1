using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Running;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

internal static class Solve
{
    public static int Run()
    {
        BenchmarkRunner.Run<SolveBenchmarks>();
        return 0;
    }
}

/// <summary>One setting of the tractor settled, fuse and relays included: time and allocation.</summary>
[MemoryDiagnoser]
public class SolveBenchmarks
{
    private readonly Circuit circuit = Usage.Tractor().Circuit;
    private CircuitState state = null!;
    private double[] values = [];
    private ControlSetting start = null!;

    [GlobalSetup]
    public void Prepare()
    {
        state = new CircuitState(circuit) { Tolerance = 1e-4 };
        values = circuit.NominalParameters();
        start = circuit.Setting(circuit.Machine.Duties[0].Setting);
    }

    /// <summary>Key to START from rest, solenoid and starter settled.</summary>
    [Benchmark]
    public Settlement Crank()
    {
        state.Begin(values);
        return state.Move(start);
    }
}
