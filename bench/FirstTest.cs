using System.Diagnostics;
using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

/// <summary>
/// Seconds from the choice of a complaint to its first test, for every complaint of every machine: coarse predictions, which
/// the application begins when the page of the complaint opens, and the test chosen by them; all predictions, which it goes
/// on with meanwhile; and how good the coarse choice is, rated by all of them.
/// </summary>
internal static class FirstTest
{
    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var (machines, duties) = (args.Length > 0 ? args[0] : "all", args.Length > 1 ? args[1] : "all");
        if (args.Contains("coarse", StringComparer.Ordinal))
        {
            return Coarse(machines, duties);
        }

        var all = new List<Times>();
        foreach (var (circuit, duty) in Complaints(machines, duties))
        {
            all.Add(Of(circuit, duty));
            Console.WriteLine($"{circuit.Machine.Id} {duty.Id}: {all[^1]}");
        }

        if (all.Count == 0)
        {
            return Usage.Show();
        }

        Console.WriteLine($"coarse predictions: {Figures(all.Select(t => t.Coarse))}");
        Console.WriteLine($"first test after them: {Figures(all.Select(t => t.First))}");
        Console.WriteLine($"all predictions: {Figures(all.Select(t => t.Fine))}");
        foreach (var head in new[] { 0, 2, 5, 10 })
        {
            var within = all.Count(t => Math.Max(0, t.Coarse - head) + t.First < 1);
            Console.WriteLine($"under 1 s when the complaint takes {head} s to write: {within} of {all.Count}");
        }

        var worths = all.Where(t => !double.IsNaN(t.Worth)).Select(t => t.Worth).Order().ToArray();
        Console.WriteLine(
            $"bits a minute of the coarse choice, of the best by all predictions: median {worths[worths.Length / 2]:0.00}, "
                + $"nine in ten at least {worths[worths.Length / 10]:0.00}, least {worths[0]:0.00} of {worths.Length}"
        );
        return 0;
    }

    private static IEnumerable<(Circuit Circuit, Duty Duty)> Complaints(string machines, string duties) =>
        Usage
            .Circuits(machines)
            .SelectMany(c => Symptoms.Of(c).Select(s => (Circuit: c, s.Duty)))
            .Where(x => duties == "all" || x.Duty.Id.Text.Contains(duties, StringComparison.Ordinal));

    /// <summary>The coarse predictions alone, twice over: cold, then with the compiler done.</summary>
    private static int Coarse(string machines, string duties)
    {
        foreach (var (circuit, duty) in Complaints(machines, duties))
        {
            var watch = Stopwatch.StartNew();
            DiagnosisKit.BuildCoarse(circuit, duty, []);
            var cold = watch.Elapsed.TotalSeconds;
            watch.Restart();
            DiagnosisKit.BuildCoarse(circuit, duty, []);
            Console.WriteLine(
                $"{circuit.Machine.Id} {duty.Id}: {cold:0.00} s, again {watch.Elapsed.TotalSeconds:0.00} s"
            );
        }

        return 0;
    }

    private static Times Of(Circuit circuit, Duty duty)
    {
        var told = new ComplaintMade(new Complaint { Duty = duty.Id, Heard = Heard.Nothing });
        var state = JobState.Of([new RecordedEvent(1, DateTimeOffset.UnixEpoch, told)]);
        var watch = Stopwatch.StartNew();
        double Lap()
        {
            var seconds = watch.Elapsed.TotalSeconds;
            watch.Restart();
            return seconds;
        }

        var coarse = DiagnosisKit.BuildCoarse(circuit, duty, []);
        var built = Lap();
        var first = JobDiagnosis.Of(state, coarse, Meter.Ordinary);
        var chosen = Lap();
        var kit = DiagnosisKit.Build(circuit, duty, []);
        var all = Lap();
        var whole = JobDiagnosis.Of(state, kit, Meter.Ordinary);
        var rated = kit.Plan.Best(whole.Beliefs, whole.Situation, int.MaxValue);
        var worth =
            first.HasTestAndNoVerdict && whole.HasTestAndNoVerdict
                ? (rated.FirstOrDefault(t => t.At == first.Next!.At)?.Rate ?? 0) / whole.Next!.Rate
                : double.NaN;
        return new Times(built, chosen, all, worth);
    }

    private static string Figures(IEnumerable<double> seconds)
    {
        var sorted = seconds.Order().ToArray();
        return $"median {sorted[sorted.Length / 2]:0.00} s, nine in ten within {sorted[(int)(0.9 * (sorted.Length - 1))]:0.00} s, worst {sorted[^1]:0.00} s of {sorted.Length}";
    }

    /// <summary>Seconds of one complaint, and the worth of its coarse choice; not a number where there is no test to choose.</summary>
    private sealed record Times(double Coarse, double First, double Fine, double Worth)
    {
        public override string ToString() =>
            $"coarse {Coarse:0.00} s, first test {First:0.00} s, all {Fine:0.00} s, worth {Worth:0.00}";
    }
}
