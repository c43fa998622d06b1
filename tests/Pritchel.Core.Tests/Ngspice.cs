using System.Diagnostics;
using System.Globalization;
using System.Text;
using Pritchel.Core.Exchange;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Runs the reference simulator on many netlists, one process for all.</summary>
internal static class Ngspice
{
    public const string Tight = "reltol=1e-9 abstol=1e-15 vntol=1e-12 gmin=1e-15";

    /// <summary>
    /// Operating points: volts of every node, then drops between pairs, for each netlist. All nodes come from one print and the
    /// drops from their sixteen digits: an expression for each takes that simulator longer than the solving.
    /// </summary>
    public static IReadOnlyList<double[]> Run(
        Circuit circuit,
        IReadOnlyList<(string Netlist, (int A, int B)[] Pairs)> cases
    )
    {
        var printed = Run([.. cases.Select(c => (c.Netlist, "op\n", "print all\n"))], Tight);
        return
        [
            .. printed.Select((all, c) => Volts(circuit, all.ToDictionary(v => v.Name, v => v.Value), cases[c].Pairs)),
        ];
    }

    /// <summary>Values of expressions after an analysis, for each netlist.</summary>
    public static IReadOnlyList<double[]> Run(
        IReadOnlyList<(string Netlist, IReadOnlyList<string> Expressions)> cases,
        string analysis,
        string options
    )
    {
        var printed = Run(
            [
                .. cases.Select(c =>
                    (c.Netlist, analysis + "\n", string.Concat(c.Expressions.Select(e => $"print {e}\n")))
                ),
            ],
            options
        );
        return [.. printed.Select(p => p.Select(v => v.Value).ToArray())];
    }

    private static double[] Volts(Circuit circuit, Dictionary<string, double> printed, (int A, int B)[] pairs)
    {
        double At(int node) => node == circuit.Reference ? 0 : printed[SpiceNetlist.NodeName(circuit, node)];
        return [.. Enumerable.Range(0, circuit.Network.NodeCount).Select(At), .. pairs.Select(p => At(p.A) - At(p.B))];
    }

    private static List<List<(string Name, double Value)>> Run(
        IReadOnlyList<(string Netlist, string Analysis, string Prints)> cases,
        string options
    )
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-spice");
        try
        {
            var script = new StringBuilder("* batch\n.control\nset numdgt=15\nset width=200\n");
            for (var c = 0; c < cases.Count; c++)
            {
                var (netlist, analysis, prints) = cases[c];
                var deck = Path.Combine(folder.FullName, $"case{c}.cir");
                File.WriteAllText(deck, netlist + $".options {options}\n.end\n");
                script.Append(CultureInfo.InvariantCulture, $"source {deck}\n{analysis}echo case {c}\n{prints}");
                script.Append("echo printed\ndestroy all\nremcirc\n");
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

    private static List<List<(string Name, double Value)>> Parse(string output, int count)
    {
        var (results, printing) = (new List<List<(string, double)>>(), false);
        foreach (var line in output.Split('\n'))
        {
            if (line.StartsWith("case ", StringComparison.Ordinal))
            {
                results.Add([]);
                printing = true;
            }
            else if (line.StartsWith("printed", StringComparison.Ordinal))
            {
                printing = false;
            }
            else if (
                printing
                && line.LastIndexOf(" = ", StringComparison.Ordinal) is var at and > 0
                && double.TryParse(line[(at + 3)..], NumberStyles.Float, CultureInfo.InvariantCulture, out var value)
            )
            {
                results[^1].Add((line[..at].Trim(), value));
            }
        }

        Assert.Equal(count, results.Count);
        return results;
    }
}
