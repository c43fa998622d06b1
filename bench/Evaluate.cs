using System.Diagnostics;
using System.Globalization;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Meters;
using Pritchel.Core.Practice;

namespace Pritchel.Bench;

/// <summary>
/// Hidden faults hunted over machines and complaints: drawn by their rates among those that give the complaint, in the
/// world that the program believes in, or in one whose spreads are wider and whose probes slip. Says how often the verdict
/// was right, what it cost, what is confused with what, and whether stated shares are earned.
/// </summary>
internal static class Evaluate
{
    private const int Seed = 20265;

    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var machines = args.Length > 0 ? args[0] : "all";
        var complaints = args.Length > 1 && args[1] != "all" ? args[1] : "";
        var draws = args.Length > 2 ? int.Parse(args[2], CultureInfo.InvariantCulture) : 4;
        var differs = args.Contains("differing", StringComparer.Ordinal);
        var all = new List<(string Machine, CircuitGroup Group, Hunt Hunt)>();
        foreach (
            var file in Directory
                .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "machines"), "*.json")
                .Order(StringComparer.Ordinal)
        )
        {
            if (
                file.EndsWith(".schema.json", StringComparison.Ordinal)
                || (machines != "all" && !file.Contains(machines, StringComparison.Ordinal))
            )
            {
                continue;
            }

            var circuit = Circuit.Compile(MachineFile.Read(File.ReadAllText(file)).Machine!);
            foreach (
                var symptom in Symptoms.Of(circuit).Where(s => s.Duty.Id.Contains(complaints, StringComparison.Ordinal))
            )
            {
                var hunts = Hunts(circuit, symptom, draws, differs);
                all.AddRange(hunts.Select(h => (circuit.Machine.Id, symptom.Group, h)));
            }
        }

        foreach (var group in all.GroupBy(a => a.Group).OrderBy(g => g.Key))
        {
            Console.WriteLine($"{group.Key}: {Figures([.. group.Select(g => g.Hunt)])}");
        }

        foreach (var group in all.GroupBy(a => a.Machine).OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            Console.WriteLine($"{group.Key}: {Figures([.. group.Select(g => g.Hunt)])}");
        }

        Console.WriteLine(
            $"all, {(differs ? "differing" : "matching")} world: {Figures([.. all.Select(a => a.Hunt)])}"
        );
        Calibrate([.. all.Select(a => a.Hunt).Where(h => h.Verdict is not null)]);
        return 0;
    }

    private static List<Hunt> Hunts(Circuit circuit, Symptom symptom, int draws, bool differs)
    {
        var watch = Stopwatch.StartNew();
        var kit = DiagnosisKit.Build(circuit, symptom.Duty.Id, []);
        var built = watch.Elapsed;
        var suspects = kit
            .Table.Hypotheses.Where(h => h is { Fault: not null, HasVolts: true })
            .Select(h => h.Fault!)
            .ToList();
        var random = new Random(Seed);
        var hunts = new List<Hunt>();
        for (var d = 0; d < draws && suspects.Count > 0; d++)
        {
            var own = new Random(random.Next());
            if (
                HiddenFault.Hide(
                    kit.Table,
                    Drawn(suspects, random),
                    Meter.Ordinary,
                    own,
                    differs ? 1.5 : 1,
                    differs ? 0.03 : 0
                ) is
                { } hidden
            )
            {
                hunts.Add(Rehearsal.Play(kit, hidden, Meter.Ordinary, new ByInformation()));
            }
        }

        if (hunts.Count > 0)
        {
            Console.WriteLine(
                $"  {circuit.Machine.Id} {symptom.Duty.Id}: {suspects.Count} faults give it, kit {built.TotalSeconds:0.0} s; {Figures(hunts)}"
            );
            foreach (var hunt in hunts.Where(h => !h.Right))
            {
                Console.WriteLine(
                    $"     {hunt.FaultId}: {hunt.Verdict ?? "no verdict"} at {hunt.Share:0.00} after {hunt.Readings}"
                );
            }
        }

        return hunts;
    }

    private static Fault Drawn(List<Fault> suspects, Random random)
    {
        var left = random.NextDouble() * suspects.Sum(s => s.Rate);
        return suspects.Find(s => (left -= s.Rate) <= 0) ?? suspects[^1];
    }

    private static string Figures(List<Hunt> hunts)
    {
        var minutes = hunts.Select(h => h.Minutes.Value).Order().ToArray();
        var none = hunts.Average(h => h.Verdict is null ? 1.0 : 0);
        var right = hunts.Average(h => h.Right ? 1.0 : 0);
        return $"{hunts.Count} hunts, right {right:P1}, wrong {1 - right - none:P1}, no verdict {none:P1}, readings {hunts.Average(h => h.Readings):0.0}, minutes {minutes.Average():0.0}, nine in ten within {minutes[(int)(0.9 * (minutes.Length - 1))]:0.0}";
    }

    /// <summary>Stated shares against how often they were right, with Wilson's 95 % interval of a binomial share.</summary>
    private static void Calibrate(List<Hunt> verdicts)
    {
        foreach (var (low, high) in new[] { (0.5, 0.8), (0.8, 0.9), (0.9, 0.95), (0.95, 0.99), (0.99, 1.01) })
        {
            var bin = verdicts.Where(h => h.Share >= low && h.Share < high).ToList();
            if (bin.Count == 0)
            {
                continue;
            }

            const double Z = 1.96;
            double n = bin.Count;
            var share = bin.Average(h => h.Right ? 1.0 : 0);
            var middle = (share + (Z * Z / (2 * n))) / (1 + (Z * Z / n));
            var half = Z / (1 + (Z * Z / n)) * Math.Sqrt((share * (1 - share) / n) + (Z * Z / (4 * n * n)));
            Console.WriteLine(
                $"stated {low:0.00} to {Math.Min(1, high):0.00} (mean {bin.Average(h => h.Share):0.000}): right {share:0.000} of {n}, between {middle - half:0.000} and {middle + half:0.000}"
            );
        }
    }
}
