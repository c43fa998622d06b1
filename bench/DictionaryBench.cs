using System.Diagnostics;
using System.Globalization;
using System.Text;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Exchange;

namespace Pritchel.Bench;

/// <summary>
/// A full fault dictionary (every single fault × 16 parameter samples × 16 settings) of the tractor: relay iteration
/// included, on one core and two; then one plain solve of the same networks by elimination, by dense factorisation and
/// by ngspice, all in one run.
/// </summary>
internal static class DictionaryBench
{
    private const int Samples = 16;
    private const int Settings = 16;
    private const int Networks = 32;
    private const int SpiceDecks = 32;
    private const int SpiceRepeats = 100;

    public static int Run()
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var circuit = Usage.Tractor().Circuit;
        Console.WriteLine(
            $"{circuit.Network.NodeCount} nodes, {circuit.Network.Branches.Count} branches, {circuit.Faults.Count} faults"
        );
        var settings = circuit.AllSettings().Where((_, i) => i % 4 == 0).Take(Settings).ToArray();
        var random = new Random(11);
        var samples = Enumerable.Range(0, Samples).Select(_ => HealthyMachine.Draw(circuit, random, 1)).ToArray();
        Whole(circuit, settings, samples, 1);
        var one = Whole(circuit, settings, samples, 1);
        var two = Whole(circuit, settings, samples, 2);
        var cases = circuit.Faults.Count * Samples * settings.Length;
        Console.WriteLine(
            $"dictionary of {cases} settled cases: {one.TotalSeconds:0.00} s on one core, {two.TotalSeconds:0.00} s on two ({one / two:0.00} times)"
        );
        Console.WriteLine($"per settled case: {one.TotalMicroseconds / cases:0.0} µs");
        Plain(circuit, settings, samples);
        return 0;
    }

    private static TimeSpan Whole(Circuit circuit, ControlSetting[] settings, double[][] samples, int cores)
    {
        var watch = Stopwatch.StartNew();
        Parallel.For(
            0,
            circuit.Faults.Count,
            new ParallelOptions { MaxDegreeOfParallelism = cores },
            () => (State: new CircuitState(circuit) { Tolerance = 1e-4 }, Values: new double[circuit.Parameters.Count]),
            (f, _, work) =>
            {
                foreach (var setting in settings)
                {
                    for (var s = 0; s < samples.Length; s++)
                    {
                        samples[s].CopyTo(work.Values, 0);
                        var fault = circuit.Faults[f];
                        fault.Apply(work.Values, fault.Severity.At((s + 0.5) / samples.Length));
                        work.State.Begin(work.Values);
                        work.State.Move(setting);
                    }
                }

                return work;
            },
            _ => { }
        );
        return watch.Elapsed;
    }

    private static void Plain(Circuit circuit, ControlSetting[] settings, double[][] samples)
    {
        var decks = new List<SolvedCase>();
        var state = new CircuitState(circuit);
        for (var k = 0; k < Networks; k++)
        {
            var values = (double[])samples[k % samples.Length].Clone();
            var fault = circuit.Faults[k * 7 % circuit.Faults.Count];
            fault.Apply(values, fault.Severity.At(0.5));
            state.Begin(values);
            if (state.Move(settings[k % settings.Length]) == Settlement.Settled)
            {
                decks.Add(SolvedCase.Of(state));
            }
        }

        var ours = new Elimination(circuit.Network);
        var dense = new DenseSolver(circuit.Network);
        var mine = PerSolve(decks, d => ours.Solve(d.Conductances, d.Emfs, d.SourceConductances));
        var theirs = PerSolve(decks, dense.Solve);
        Console.WriteLine(
            $"one solve: elimination {mine:0.0} µs, dense factorisation {theirs:0.0} µs ({theirs / mine:0.0} times)"
        );
        if (Spice(decks) is { } spice)
        {
            Console.WriteLine(
                $"one solve: ngspice {spice:0} µs ({spice / mine:0} times), by the slope between 1 and {SpiceRepeats + 1} operating points a deck in one process"
            );
        }
    }

    private static double PerSolve(List<SolvedCase> decks, Action<SolvedCase> solve)
    {
        const int Rounds = 300;
        for (var r = 0; r < 100; r++)
        {
            decks.ForEach(solve);
        }

        var watch = Stopwatch.StartNew();
        for (var r = 0; r < Rounds; r++)
        {
            decks.ForEach(solve);
        }

        return watch.Elapsed.TotalMicroseconds / (Rounds * decks.Count);
    }

    private static double? Spice(List<SolvedCase> decks)
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-bench");
        try
        {
            var few = decks.Take(SpiceDecks).Select((d, i) => Write(folder.FullName, d, i)).ToList();
            Ngspice(folder.FullName, few, 1);
            var once = Ngspice(folder.FullName, few, 1);
            var often = Ngspice(folder.FullName, few, SpiceRepeats + 1);
            return (often - once).TotalMicroseconds / (SpiceRepeats * few.Count);
        }
        catch (System.ComponentModel.Win32Exception)
        {
            Console.WriteLine("ngspice is not installed; ./test installs it");
            return null;
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private static string Write(string folder, SolvedCase solved, int index)
    {
        var path = Path.Combine(folder, $"case{index}.cir");
        File.WriteAllText(path, solved.Netlist + ".end\n");
        return path;
    }

    private static TimeSpan Ngspice(string folder, List<string> decks, int repeats)
    {
        var script = new StringBuilder("* bench\n.control\n");
        foreach (var deck in decks)
        {
            script.Append("source ").Append(deck).Append('\n');
            for (var r = 0; r < repeats; r++)
            {
                script.Append("op\n");
            }

            script.Append("destroy all\nremcirc\n");
        }

        var batch = Path.Combine(folder, "bench.cir");
        File.WriteAllText(batch, script + "quit\n.endc\n.end\n");
        var watch = Stopwatch.StartNew();
        using var process = Process.Start(
            new ProcessStartInfo("ngspice", ["-b", batch])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                UseShellExecute = false,
            }
        )!;
        var errors = process.StandardError.ReadToEndAsync();
        process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return watch.Elapsed;
    }
}
