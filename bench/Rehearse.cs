using System.Diagnostics;
using System.Globalization;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Bench;

/// <summary>Every single fault that stops the tractor cranking, hidden in a simulated machine and hunted by each strategy.</summary>
internal static class Rehearse
{
    private const int Seed = 147;

    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var repeats = args.Length > 0 ? int.Parse(args[0], CultureInfo.InvariantCulture) : 1;
        var kit = Usage.Tractor();
        foreach (
            var strategy in new IStrategy[]
            {
                new ByInformation(),
                new ByHalves(kit),
                new ByChance(kit, new Random(Seed)),
            }
        )
        {
            // The same seed for each strategy: the same machines, severities and meters.
            var random = new Random(Seed);
            var watch = Stopwatch.StartNew();
            var hunts = new List<Hunt>();
            foreach (var fault in kit.Circuit.Faults)
            {
                for (var r = 0; r < repeats; r++)
                {
                    var own = new Random(random.Next());
                    if (HiddenFault.Hide(kit.Table, fault, Meter.Ordinary, own) is { } hidden)
                    {
                        hunts.Add(Rehearsal.Play(kit, hidden, Meter.Ordinary, strategy));
                    }
                }
            }

            Report(strategy.Name, hunts, watch.Elapsed);
        }

        return 0;
    }

    private static void Report(string name, List<Hunt> hunts, TimeSpan took)
    {
        var (right, none) = (hunts.Average(h => h.Right ? 1.0 : 0), hunts.Average(h => h.Verdict is null ? 1.0 : 0));
        Console.WriteLine(
            $"{name}: {hunts.Count} hunts of {hunts.Select(h => h.FaultId).Distinct().Count()} faults, right {right:P1}, wrong {1 - right - none:P1}, no verdict {none:P1}, "
                + $"readings {hunts.Average(h => h.Readings):0.00}, minutes {hunts.Average(h => h.Minutes.Value):0.0} ({took.TotalSeconds:0} s)"
        );
        foreach (var missed in hunts.Where(h => !h.Right).Take(12))
        {
            Console.WriteLine($"   {missed.FaultId}: {missed.Verdict?.Text ?? "no verdict"} after {missed.Readings}");
        }
    }
}
