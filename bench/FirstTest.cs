using System.Diagnostics;
using System.Globalization;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Meters;

namespace Pritchel.Bench;

/// <summary>
/// Seconds from the choice of a complaint to its first test, for every complaint of every machine: the predictions, which
/// the application begins when the page of the complaint opens, and then what is weighed when it has been written down.
/// </summary>
internal static class FirstTest
{
    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var (machines, duties) = (args.Length > 0 ? args[0] : "all", args.Length > 1 ? args[1] : "all");
        var (builds, weighs, firsts) = (new List<double>(), new List<double>(), new List<double>());
        foreach (var circuit in Usage.Circuits(machines))
        {
            foreach (
                var duty in Symptoms
                    .Of(circuit)
                    .Select(s => s.Duty)
                    .Where(d => duties == "all" || d.Id.Contains(duties, StringComparison.Ordinal))
            )
            {
                var told = new ComplaintMade(new Complaint { Duty = duty.Id, Heard = Heard.Nothing });
                var state = JobState.Of([new RecordedEvent(1, DateTimeOffset.UnixEpoch, told)]);
                var watch = Stopwatch.StartNew();
                var coarse = DiagnosisKit.BuildCoarse(circuit, duty, []);
                var built = watch.Elapsed.TotalSeconds;
                _ = JobDiagnosis.Of(state, coarse, Meter.Ordinary).Next;
                firsts.Add(watch.Elapsed.TotalSeconds);
                if (args.Length > 2)
                {
                    Console.WriteLine(
                        $"{duty.Id} {coarse.Table.Hypotheses.Count} hypotheses, {coarse.Table.Hypotheses.Count(h => h.HasVolts)} matter, {coarse.Table.Conditions.Count} conditions, coarse {built:0.00} s, first test {firsts[^1]:0.00} s"
                    );
                    continue;
                }

                watch.Restart();
                var kit = DiagnosisKit.Build(circuit, duty, []);
                builds.Add(watch.Elapsed.TotalSeconds);
                watch.Restart();
                var nx = JobDiagnosis.Of(state, kit, Meter.Ordinary).Next;
                if (nx is not null)
                {
                    var cheapest = kit
                        .Plan.Allowed(new Situation())
                        .GroupBy(a => a.Condition)
                        .Select(g => (g.Key, Cost: g.Min(a => kit.Plan.Cost(a, new Situation()).Value)))
                        .OrderBy(x => x.Cost)
                        .ToList();
                    var rank = cheapest.FindIndex(x => x.Key == nx.At.Condition);
                    Console.WriteLine(
                        $"   FIRST {nx.Condition.Quantity} off {nx.Condition.Off.Count} jump {nx.Condition.Jump?.Kind} free {nx.Condition.IsFree} speed {nx.Condition.Speed} c{nx.At.Condition} of {kit.Table.Conditions.Count} ({kit.Table.Conditions.Count(c => c.IsFree)} free) cost {nx.Minutes.Value:0.0} bits {nx.Bits:0.00} rank {rank} costrank {cheapest[rank].Cost:0.0}"
                    );
                }

                weighs.Add(watch.Elapsed.TotalSeconds);
                Console.WriteLine(
                    $"{circuit.Machine.Id} {duty.Id}: coarse {built:0.00} s, first test {firsts[^1]:0.00} s; all predictions {builds[^1]:0.00} s, first test after them {weighs[^1]:0.000} s"
                );
            }
        }

        Console.WriteLine($"predictions: {Figures(builds)}");
        Console.WriteLine($"first test after them: {Figures(weighs)}");
        foreach (var head in new[] { 0, 5, 10, 20 })
        {
            var within = builds.Zip(weighs).Count(t => Math.Max(0, t.First - head) + t.Second < 1);
            Console.WriteLine($"under 1 s when the complaint takes {head} s to write: {within} of {builds.Count}");
        }

        return 0;
    }

    private static string Figures(List<double> seconds)
    {
        if (seconds.Count == 0)
        {
            return "none";
        }
        var sorted = seconds.Order().ToArray();
        return $"median {sorted[sorted.Length / 2]:0.00} s, nine in ten within {sorted[(int)(0.9 * (sorted.Length - 1))]:0.00} s, worst {sorted[^1]:0.00} s of {sorted.Length}";
    }
}
