using System.Diagnostics;
using System.Globalization;
using System.Text;
using Pritchel.Core.Circuits;
using Pritchel.Core.Exchange;

namespace Pritchel.Core.Tests;

/// <summary>Runs the reference simulator on many netlists, one process for all.</summary>
internal static class Ngspice
{
    public const string Tight = "reltol=1e-9 abstol=1e-15 vntol=1e-12 gmin=1e-15";

    /// <summary>Operating points: volts of every node, then drops between pairs, for each netlist.</summary>
    public static IReadOnlyList<double[]> Run(
        Circuit circuit,
        IReadOnlyList<(string Netlist, (int, int)[] Pairs)> cases
    ) =>
        Run(
            [.. cases.Select(c => (c.Netlist, (IReadOnlyList<string>)[.. Expressions(circuit, c.Pairs)]))],
            "op",
            Tight
        );

    /// <summary>Values of expressions after an analysis, for each netlist.</summary>
    public static IReadOnlyList<double[]> Run(
        IReadOnlyList<(string Netlist, IReadOnlyList<string> Expressions)> cases,
        string analysis,
        string options
    )
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-spice");
        try
        {
            var script = new StringBuilder("* batch\n.control\nset numdgt=15\nset width=200\n");
            for (var c = 0; c < cases.Count; c++)
            {
                var deck = Path.Combine(folder.FullName, $"case{c}.cir");
                File.WriteAllText(deck, cases[c].Netlist + $".options {options}\n.end\n");
                script.Append(CultureInfo.InvariantCulture, $"source {deck}\n{analysis}\necho case {c}\n");
                foreach (var expression in cases[c].Expressions)
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
            else if (
                results.Count > 0
                && line.Contains("v(", StringComparison.Ordinal)
                && line.LastIndexOf(" = ", StringComparison.Ordinal) is var at and > 0
            )
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
