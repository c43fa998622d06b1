using System.Diagnostics;
using System.Globalization;
using System.Text;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

/// <summary>
/// A full fault dictionary (every single fault × 16 parameter samples × 16 settings) of the tractor: relay iteration
/// included, on one core and two; then one plain solve of the same networks by elimination, by dense factorisation and
/// by ngspice, all in one run.
/// </summary>
internal static class DictionaryBench
{
    private const int Samples = 16;
    private const int FullSamples = 64;
    private const int Settings = 16;
    private const int Rounds = 4;
    private const double Tolerance = 1e-4;
    private const int Networks = 32;
    private const int SpiceDecks = 32;
    private const int SpiceRepeats = 100;

    public static int Run()
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var circuit = Usage.Tractor().Circuit;
        Console.WriteLine(
            $"{circuit.Network.NodeCount} nodes, {circuit.Network.Branches.Count} branches, {circuit.Network.Sources.Count} sources, {circuit.Faults.Count} faults"
        );
        var settings = circuit.AllSettings().Where((_, i) => i % 4 == 0).Take(Settings).ToArray();
        var random = new Random(11);
        var samples = Enumerable.Range(0, Samples).Select(_ => HealthyMachine.Draw(circuit, random, 1)).ToArray();
        var one = Least(() => Whole(circuit, settings, samples, 1));
        var two = Least(() => Whole(circuit, settings, samples, 2));
        var cases = circuit.Faults.Count * Samples * settings.Length;
        Console.WriteLine(
            $"dictionary of {cases} settled cases: {one.TotalSeconds:0.00} s on one core, {two.TotalSeconds:0.00} s on two ({one / two:0.00} times)"
        );
        Console.WriteLine($"per settled case: {one.TotalMicroseconds / cases:0.0} µs");
        var full = Enumerable.Range(0, FullSamples).Select(_ => HealthyMachine.Draw(circuit, random, 1)).ToArray();
        var whole = Least(() => Whole(circuit, settings, full, 2));
        Console.WriteLine(
            $"dictionary of {FullSamples} samples: {whole.TotalSeconds:0.00} s on two cores, {300.0 / circuit.Faults.Count * whole.TotalSeconds:0.00} s for each 300 faults"
        );
        Plain(circuit, settings, samples);
        return 0;
    }

    /// <summary>The least of several runs: what else the machine does at the time only ever adds.</summary>
    private static TimeSpan Least(Func<TimeSpan> run) => Enumerable.Range(0, Rounds).Select(_ => run()).Min();

    private static TimeSpan Whole(Circuit circuit, ControlSetting[] settings, double[][] samples, int cores)
    {
        var watch = Stopwatch.StartNew();
        Parallel.For(
            0,
            circuit.Faults.Count,
            new ParallelOptions { MaxDegreeOfParallelism = cores },
            () => new CircuitState(circuit) { Tolerance = Tolerance },
            (f, _, sound) =>
            {
                // A fault that lays a path has a circuit of its own, compiled here and now.
                var fault = circuit.Faults[f];
                var wired = circuit.With([fault]);
                var state = wired == circuit ? sound : new CircuitState(wired) { Tolerance = Tolerance };
                var nominal = wired.NominalParameters();
                var values = new double[nominal.Length];
                for (var s = 0; s < samples.Length; s++)
                {
                    foreach (var setting in settings)
                    {
                        nominal.CopyTo(values, 0);
                        samples[s].CopyTo(values, 0);
                        wired.Plant(fault, fault.Severity.At((s + 0.5) / samples.Length), values);
                        state.Begin(values);
                        state.Move(setting);
                    }
                }

                return sound;
            },
            _ => { }
        );
        return watch.Elapsed;
    }

    private static void Plain(Circuit circuit, ControlSetting[] settings, double[][] samples)
    {
        var decks = new List<SolvedCase>();
        var state = new CircuitState(circuit);
        var faults = circuit.Faults.Where(f => f.Paths.Count == 0).ToList();
        for (var k = 0; k < Networks; k++)
        {
            var values = (double[])samples[k % samples.Length].Clone();
            var fault = faults[k * 7 % faults.Count];
            fault.Apply(values, fault.Severity.At(0.5));
            state.Begin(values);
            if (state.Move(settings[k % settings.Length]) == Settlement.Settled)
            {
                decks.Add(SolvedCase.Of(state));
            }
        }

        var ours = new Elimination(circuit.Network);
        var dense = new DenseSolver(circuit.Network);
        // In turn, round by round, and the least of each: what else the machine does falls on all three alike.
        var (mine, theirs, spice) = (double.MaxValue, double.MaxValue, (double?)double.MaxValue);
        for (var round = 0; round < Rounds; round++)
        {
            mine = Math.Min(mine, PerSolve(decks, d => ours.Solve(d.Conductances, d.Emfs, d.SourceConductances)));
            theirs = Math.Min(theirs, PerSolve(decks, dense.Solve));
            spice = spice is { } least && Spice(decks) is { } now ? Math.Min(least, now) : null;
        }

        Console.WriteLine(
            $"one solve: elimination {mine:0.0} µs, dense factorisation {theirs:0.0} µs ({theirs / mine:0.0} times)"
        );
        if (spice is { } known)
        {
            Console.WriteLine(
                $"one solve: ngspice {known:0} µs ({known / mine:0} times), by the slope between 1 and {SpiceRepeats + 1} operating points a deck in one process"
            );
        }
    }

    private static double PerSolve(List<SolvedCase> decks, Action<SolvedCase> solve)
    {
        const int Repeats = 300;
        for (var r = 0; r < 100; r++)
        {
            decks.ForEach(solve);
        }

        var watch = Stopwatch.StartNew();
        for (var r = 0; r < Repeats; r++)
        {
            decks.ForEach(solve);
        }

        return watch.Elapsed.TotalMicroseconds / (Repeats * decks.Count);
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
