using System.Diagnostics;
using System.Globalization;
using System.Text;
using Pritchel.Core.Circuits;
using Pritchel.Core.Exchange;

namespace Pritchel.Core.Tests;

/// <summary>Node volts and drops against ngspice, run on the netlist the program exports.</summary>
public class ReferenceSimulatorTests
{
    private const int FaultsPerSetting = 50;
    private const double Relative = 1e-5;
    private const double Absolute = 50e-6;

    [Fact]
    public void Every_setting_healthy_and_faulty_agrees_with_the_reference_simulator()
    {
        var circuit = Shipped.Tractor;
        var random = new Random(20261125);
        var state = new CircuitState(circuit);
        var (compared, largest, cases) = (0, 0.0, 0);
        foreach (var setting in circuit.AllSettings())
        {
            var batch = new List<(string Netlist, double[] Volts, double[] Drops, (int, int)[] Pairs, string Label)>();
            for (var k = 0; k <= FaultsPerSetting; k++)
            {
                var values = circuit.NominalParameters();
                var label = "healthy";
                if (k > 0)
                {
                    var fault = circuit.Faults[random.Next(circuit.Faults.Count)];
                    fault.Apply(values, fault.Severity.At(random.NextDouble()));
                    label = fault.Id;
                }

                state.Begin(values);
                if (state.Move(setting) == Settlement.Chatters)
                {
                    continue;
                }

                var nodes = circuit.Network.NodeCount;
                var pairs = Enumerable.Range(0, 40).Select(_ => (random.Next(nodes), random.Next(nodes))).ToArray();
                batch.Add(
                    (
                        SpiceNetlist.Write(state, label),
                        [.. Enumerable.Range(0, nodes).Select(n => state.Drop(n, circuit.Reference))],
                        [
                            .. pairs.Select(p =>
                                state.Joined(p.Item1, p.Item2) ? state.Drop(p.Item1, p.Item2) : double.NaN
                            ),
                        ],
                        pairs,
                        $"{setting.Words(circuit.Machine)}: {label}"
                    )
                );
            }

            var references = Ngspice.Run(circuit, batch.Select(b => (b.Netlist, b.Pairs)).ToList());
            for (var c = 0; c < batch.Count; c++)
            {
                cases++;
                foreach (var (ours, theirs, what) in Compared(circuit, batch[c], references[c]))
                {
                    compared++;
                    var difference = Math.Abs(ours - theirs);
                    largest = Math.Max(largest, difference);
                    Assert.True(
                        difference <= Math.Max(Relative * Math.Abs(theirs), Absolute),
                        $"{batch[c].Label}, {what}: ours {ours:R}, reference {theirs:R}"
                    );
                }
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{cases} cases, {compared} volts and drops compared; largest difference {largest * 1e6:0.###} µV"
        );
        Assert.True(cases > 60 * FaultsPerSetting * 0.9, $"only {cases} cases were comparable");
    }

    private static IEnumerable<(double Ours, double Theirs, string What)> Compared(
        Circuit circuit,
        (string Netlist, double[] Volts, double[] Drops, (int, int)[] Pairs, string Label) ours,
        double[] reference
    )
    {
        for (var n = 0; n < ours.Volts.Length; n++)
        {
            yield return (ours.Volts[n], reference[n], circuit.NodeAddresses[n][0]);
        }

        for (var p = 0; p < ours.Pairs.Length; p++)
        {
            if (!double.IsNaN(ours.Drops[p]))
            {
                yield return (ours.Drops[p], reference[ours.Volts.Length + p], $"drop {ours.Pairs[p]}");
            }
        }
    }
}

/// <summary>Runs the reference simulator on many netlists, one process for all.</summary>
internal static class Ngspice
{
    public static IReadOnlyList<double[]> Run(
        Circuit circuit,
        IReadOnlyList<(string Netlist, (int, int)[] Pairs)> cases
    )
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-spice");
        try
        {
            var script = new StringBuilder("* batch\n.control\nset numdgt=15\nset width=200\n");
            for (var c = 0; c < cases.Count; c++)
            {
                var deck = Path.Combine(folder.FullName, $"case{c}.cir");
                File.WriteAllText(
                    deck,
                    cases[c].Netlist + ".options reltol=1e-9 abstol=1e-15 vntol=1e-12 gmin=1e-15\n.end\n"
                );
                script.Append(CultureInfo.InvariantCulture, $"source {deck}\nop\necho case {c}\n");
                foreach (var expression in Expressions(circuit, cases[c].Pairs))
                {
                    script.Append("print ").Append(expression).Append('\n');
                }

                script.Append("destroy all\nremcirc\n");
            }

            script.Append("quit\n.endc\n.end\n");
            var batch = Path.Combine(folder.FullName, "batch.cir");
            File.WriteAllText(batch, script.ToString());
            return Parse(Execute(batch), cases.Count);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private static IEnumerable<string> Expressions(Circuit circuit, (int A, int B)[] pairs)
    {
        for (var n = 0; n < circuit.Network.NodeCount; n++)
        {
            yield return Volts(circuit, n);
        }

        foreach (var (a, b) in pairs)
        {
            yield return $"{Volts(circuit, a)}-{Volts(circuit, b)}";
        }
    }

    private static string Volts(Circuit circuit, int node) =>
        node == circuit.Reference
            ? $"0*{Volts(circuit, node == 0 ? 1 : 0)}"
            : $"v({SpiceNetlist.NodeName(circuit, node)})";

    private static string Execute(string deck)
    {
        using var process = Process.Start(
            new ProcessStartInfo("ngspice", ["-b", deck])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                UseShellExecute = false,
            }
        )!;
        var errors = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return output;
    }

    private static List<double[]> Parse(string output, int count)
    {
        var results = new List<List<double>>();
        foreach (var line in output.Split('\n'))
        {
            if (line.StartsWith("case ", StringComparison.Ordinal))
            {
                results.Add([]);
            }
            else if (results.Count > 0 && line.LastIndexOf(" = ", StringComparison.Ordinal) is var at and > 0)
            {
                if (double.TryParse(line[(at + 3)..], NumberStyles.Float, CultureInfo.InvariantCulture, out var value))
                {
                    results[^1].Add(value);
                }
            }
        }

        Assert.Equal(count, results.Count);
        return [.. results.Select(r => r.ToArray())];
    }
}
