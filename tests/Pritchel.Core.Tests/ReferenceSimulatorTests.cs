using Pritchel.Core.Exchange;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Node volts and drops against ngspice, run on the netlist the program exports.</summary>
public class ReferenceSimulatorTests
{
    [Fact]
    public void Every_setting_healthy_and_faulty_agrees_with_the_reference_simulator()
    {
        const int FaultsPerSetting = 50;
        var comparison = new ReferenceComparison(new Random(20261125), drops: 40);
        foreach (var setting in Shipped.Tractor.AllSettings())
        {
            comparison.Compare(Shipped.Tractor, [setting], FaultsPerSetting);
        }

        comparison.Report();
        Assert.True(comparison.Cases > 60 * FaultsPerSetting * 0.9, $"only {comparison.Cases} cases were comparable");
    }

    [Theory]
    [MemberData(nameof(MachineTruthTests.Machines), MemberType = typeof(MachineTruthTests))]
    public void Every_shipped_machine_agrees_with_the_reference_simulator(string id)
    {
        // Thirty faults in every setting where those are few, or asked for by machine or "all"; otherwise in six at random.
        const int FaultsPerSetting = 30;
        var asked = Environment.GetEnvironmentVariable("PRITCHEL_EVERY_SETTING")?.Split(',') ?? [];
        var mostSettings = asked.Contains(id) || asked.Contains("all") ? int.MaxValue : 6;
        var (circuit, random) = (Shipped.Circuit(id), new Random(1130));
        var settings = circuit.AllSettings().ToList();
        var drawn = settings.Count <= mostSettings ? settings : random.GetItems([.. settings], mostSettings).ToList();
        var comparison = new ReferenceComparison(random, drops: 20);
        foreach (var setting in drawn)
        {
            comparison.Compare(circuit, [setting], FaultsPerSetting);
        }

        comparison.Report($"{id}, {drawn.Count} of {settings.Count} settings: ");
        Assert.True(
            comparison.Cases > drawn.Count * FaultsPerSetting * 0.8,
            $"only {comparison.Cases} were comparable"
        );
    }

    [Fact]
    public void Every_example_in_every_setting_agrees_with_the_reference_simulator()
    {
        var comparison = new ReferenceComparison(new Random(20261126), drops: 20);
        foreach (var circuit in Example.Names.Select(n => Example.Of(n).Circuit))
        {
            comparison.Compare(circuit, [.. circuit.AllSettings()], 12);
        }

        comparison.Report();
        Assert.True(comparison.Cases > 500, $"only {comparison.Cases} cases were comparable");
    }
}

/// <summary>Cases solved here and by the reference simulator, held against each other.</summary>
internal sealed class ReferenceComparison(Random random, int drops)
{
    private const double Relative = 1e-5;
    private const double Absolute = 50e-6;

    public int Cases { get; private set; }

    private int Figures { get; set; }

    private double Largest { get; set; }

    /// <summary>Compares a circuit in settings, sound and with so many faults, one at a time and sometimes two, each.</summary>
    public void Compare(Circuit circuit, IReadOnlyList<ControlSetting> settings, int faults)
    {
        var batch = settings.SelectMany(s => Solve(circuit, s, faults)).ToList();
        var references = Ngspice.Run(circuit, [.. batch.Select(b => (b.Netlist, b.Pairs))]);
        for (var c = 0; c < batch.Count; c++)
        {
            Cases++;
            for (var k = 0; k < batch[c].Ours.Length; k++)
            {
                var (ours, theirs) = (batch[c].Ours[k], references[c][k]);
                if (double.IsNaN(ours))
                {
                    continue;
                }

                Figures++;
                var difference = Math.Abs(ours - theirs);
                Largest = Math.Max(Largest, difference);
                Assert.True(
                    difference <= Math.Max(Relative * Math.Abs(theirs), Absolute),
                    $"{batch[c].Label}, figure {k}: ours {ours:R}, reference {theirs:R}"
                );
            }
        }
    }

    public void Report(string of = "") =>
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{of}{Cases} cases, {Figures} volts and drops compared; largest difference {Largest * 1e6:0.###} µV"
        );

    private IEnumerable<(string Netlist, (int, int)[] Pairs, double[] Ours, string Label)> Solve(
        Circuit circuit,
        ControlSetting setting,
        int faults
    )
    {
        for (var k = 0; k <= faults; k++)
        {
            PlantedFault Any() => new(circuit.Faults[random.Next(circuit.Faults.Count)], random.NextDouble());
            var @case = new Case
            {
                Circuit = circuit,
                Settings = [setting],
                Faults =
                    k == 0 ? []
                    : k % 5 == 0 ? [Any(), Any()]
                    : [Any()],
            };
            var state = new CircuitState(@case.Wired);
            if (@case.Settle(state) == Settlement.Chatters)
            {
                continue;
            }

            var nodes = circuit.Network.NodeCount;
            var pairs = Enumerable.Range(0, drops).Select(_ => (random.Next(nodes), random.Next(nodes))).ToArray();
            var held = Held(state);
            double Figure(int a, int b) => held[a] && held[b] ? state.Drop(a, b) : double.NaN;
            var label = string.Join(" + ", @case.Faults.Select(f => f.Fault.Id.Text).DefaultIfEmpty("sound"));
            yield return (
                SpiceNetlist.Write(state, label),
                pairs,
                [
                    .. Enumerable.Range(0, nodes).Select(n => Figure(n, circuit.Reference)),
                    .. pairs.Select(p => Figure(p.Item1, p.Item2)),
                ],
                $"{circuit.Machine.Id}, {setting.Words(circuit.Machine)}: {label}"
            );
        }
    }

    /// <summary>
    /// Nodes joined to the reference by something better than a blocking diode's leak. Others are beyond the simulator's own
    /// factorisation, which keeps about nanosiemens beside kilosiemens; the 28-digit tests hold those.
    /// </summary>
    public static bool[] Held(CircuitState state)
    {
        const double LeakSiemens = 1e-7;
        var network = state.Circuit.Network;
        var joints = network
            .Branches.Select((b, i) => (b.From, b.To, Siemens: state.Conductances[i]))
            .Concat(network.Sources.Select((s, i) => (s.From, s.To, Siemens: state.SourceConductances[i])))
            .Where(j => j.Siemens > LeakSiemens)
            .ToList();
        var held = new bool[network.NodeCount];
        held[state.Circuit.Reference] = true;
        for (var changed = true; changed; )
        {
            changed = false;
            foreach (var (from, to, _) in joints.Where(j => held[j.From] != held[j.To]))
            {
                held[from] = held[to] = changed = true;
            }
        }

        return held;
    }
}
