using System.Diagnostics;
using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Practice;
using Pritchel.Core.Proving;
using Pritchel.Core.Units;
using Pritchel.Hunts;

namespace Pritchel.Bench;

/// <summary>
/// Hidden faults hunted over machines and complaints: drawn by their rates among those that give the complaint, in the
/// world that the program believes in, or in one whose spreads are wider and whose probes slip; by the program and by hand;
/// one fault, two at once, or one that comes and goes. Says how often the verdict was right, what it cost, what is confused
/// with what, and whether stated shares are earned.
/// </summary>
internal static class Evaluate
{
    private const int Seed = 20265;

    private const int Tried = 3;
    private const double Sure = 0.95;

    private static readonly Difference[] All = Enum.GetValues<Difference>();

    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var machines = args.Length > 0 ? args[0] : "all";
        string[] complaints = args.Length > 1 && args[1] != "all" ? args[1].Split(',') : [""];
        var draws = args.Length > 2 ? int.Parse(args[2], CultureInfo.InvariantCulture) : 4;
        bool Asked(string word) => args.Contains(word, StringComparer.Ordinal);
        // What was chosen by the first draws is judged by others.
        const string Later = "later=";
        var past = args.Where(a => a.StartsWith(Later, StringComparison.Ordinal))
            .Select(a => int.Parse(a[Later.Length..], CultureInfo.InvariantCulture))
            .FirstOrDefault();
        // One kit serves all worlds: building it takes most of the time.
        var runs = Worlds.Of(args).ConvertAll(w => new Watch(w.Name, w.World, [], Asked("watched") ? [] : null));
        var told = 0;
        foreach (var circuit in Usage.Circuits(machines))
        {
            foreach (
                var symptom in Symptoms
                    .Of(circuit)
                    .Where(s => complaints.Any(c => s.Duty.Id.Text.Contains(c, StringComparison.Ordinal)))
            )
            {
                var watch = Stopwatch.StartNew();
                var kit = DiagnosisKit.Build(circuit, symptom.Duty, []);
                Console.WriteLine($"  {circuit.Machine.Id} {symptom.Duty.Id}: kit {watch.Elapsed.TotalSeconds:0.0} s");

                // Built otherwise in one way after another.
                Difference? otherwise = Asked("otherwise") ? All[told++ % All.Length] : null;
                foreach (var run in runs)
                {
                    var world = otherwise is null ? run.World : run.World with { Differs = otherwise };
                    var lines =
                        Asked("doubles") ? Doubles(kit, world, draws)
                        : Asked("misplaced") ? Misplaced(kit, world, draws)
                        : Hunts(kit, world, past..draws, Asked("strategies"), run.Watched);
                    run.All.AddRange(
                        lines.Select(l =>
                            l with
                            {
                                Group = symptom.Group,
                                Duty = symptom.Duty.Id.Text,
                                Differs = world.Differs,
                            }
                        )
                    );
                }
            }
        }

        foreach (var run in runs)
        {
            if (runs.Count > 1)
            {
                Console.WriteLine($"== {run.Name}");
            }

            Report(run, args);
        }

        return 0;
    }

    private static void Report(Watch run, string[] args)
    {
        bool Asked(string word) => args.Contains(word, StringComparer.Ordinal);
        var (world, all, watched) = (run.World, run.All, run.Watched);
        var ours = all.Where(l => l.Strategy == new ByInformation().Name).ToList();
        Sum("", ours.GroupBy(l => l.Group.ToString()));
        Sum("", ours.GroupBy(l => l.Machine));
        Sum($"all, {string.Join(' ', args[Math.Min(3, args.Length)..])}: ", all.GroupBy(l => l.Strategy));
        if (!Asked("doubles"))
        {
            Ratios(all);
        }

        Console.WriteLine("Verdicts:");
        Calibrate([.. ours.Select(l => l.Hunt).Where(h => h.Verdict is not null).Select(h => (h.Share, h.Right))]);
        Console.WriteLine("First suspect after the complaint and after each reading, several of one hunt:");
        Calibrate([.. ours.SelectMany(l => l.Hunt.Stated).Select(s => (s.Share, s.Right))]);
        foreach (
            var after in ours.SelectMany(l => l.Hunt.Stated.Select((s, i) => (Said: s, After: Math.Min(i, 6))))
                .GroupBy(s => s.After)
                .OrderBy(g => g.Key)
        )
        {
            Console.WriteLine(
                $"after {after.Key} readings: stated {after.Average(s => s.Said.Share):0.000}, right {after.Average(s => s.Said.Right ? 1.0 : 0):0.000} of {after.Count()}"
            );
        }

        if (world.Differs is not null || Asked("otherwise"))
        {
            foreach (var differing in ours.GroupBy(l => l.Differs!.Value).OrderBy(g => g.Key))
            {
                Built(differing.Key, [.. differing.Select(l => l.Hunt)]);
            }
        }
        else if (Asked("misplaced"))
        {
            var sure = ours.Count(l => l.Hunt is { Verdict: not null, Share: >= Sure });
            Console.WriteLine(
                $"leads put on wrongly: {ours.Count}; no verdict, or none of these: {ours.Count(l => l.Hunt.Verdict is null)}; stated at {Sure} and more: {sure}, elsewhere {ours.Count(l => l.Hunt is { Verdict: not null, Share: >= Sure, Right: false })}; called no fault of the drawing {ours.Count(l => l.Hunt.IsUnexplained)}; named where they are {ours.Count(l => l.Hunt.IsWiringNamed)}, or led to {ours.Count(l => l.Hunt.IsWiringNamed || l.Hunt.Right)}"
            );
        }
        else
        {
            // What a wrong part was fitted for goes on failing: as many clean tries as the proof asks for must all come by chance.
            var presence = world.Presence;
            var failed = Math.Max(1, (int)Math.Round(Tried * presence));
            var passes = Math.Pow(1 - presence, Proof.CleanTriesNeeded(failed, Tried));
            var wrong = ours.Count(l => l.Hunt is { Verdict: not null, Right: false });
            Console.WriteLine(
                $"closed with the fault still there: {wrong * passes / ours.Count:P3} of hunts ({wrong} wrong parts, {Proof.CleanTriesNeeded(failed, Tried)} clean tries asked for)"
            );
        }

        if (watched is not null)
        {
            var broken = watched.SelectMany(w => w.Broken).ToList();
            broken.ForEach(Console.WriteLine);
            Console.WriteLine($"{watched.Sum(w => w.Checked)} times checked, {broken.Count} did not hold");
        }

        if (Asked("misstated"))
        {
            Misstated(ours);
        }

        if (Asked("listed"))
        {
            Listed(ours);
        }
    }

    /// <summary>What was made of machines that are built otherwise than drawn.</summary>
    private static void Built(Difference difference, List<Hunt> hunts)
    {
        var sure = hunts.Where(h => h is { Verdict: not null, Share: >= Sure }).ToList();
        Console.WriteLine(
            $"{difference}: {hunts.Count}, right {hunts.Count(h => h.Right)}, no verdict {hunts.Count(h => h.Verdict is null)}, wrong {hunts.Count(h => h is { Verdict: not null, Right: false })}; stated at {Sure} and more {sure.Count}, wrong {sure.Count(h => !h.Right)}; said to be no single fault of the drawing {hunts.Count(h => h.IsUnexplained)}, not right of those {hunts.Count(h => h is { IsUnexplained: true, Right: false })}"
        );
    }

    /// <summary>Every hunt in a line, so that two versions of the program can be held against each other hunt by hunt.</summary>
    private static void Listed(List<Line> ours)
    {
        foreach (var line in ours)
        {
            Console.WriteLine(
                $"hunt {line.Machine} {line.Duty} {line.Hunt.FaultId}: {line.Hunt.Verdict?.Text ?? "none"} at {line.Hunt.Share:0.000} after {line.Hunt.Readings}, {(line.Hunt.Right ? "right" : "not right")}"
            );
        }
    }

    /// <summary>Each wrong statement that was nearly sure, to see what misleads.</summary>
    private static void Misstated(List<Line> ours)
    {
        const double NearlySure = 0.8;
        foreach (var line in ours)
        {
            foreach (var (said, after) in line.Hunt.Stated.Select((s, i) => (s, i)))
            {
                if (said is { Right: false, Share: >= NearlySure })
                {
                    Console.WriteLine(
                        $"  {line.Machine} {line.Duty}: {line.Hunt.FaultId} said to be {said.Suspect} at {said.Share:0.000} after {after}"
                    );
                }
            }
        }
    }

    /// <summary>A seed of its own for every machine and complaint, the same on every run.</summary>
    internal static int SeedOf(DiagnosisKit kit) =>
        $"{kit.Circuit.Machine.Id}/{kit.Table.Duty.Id}".Aggregate(
            Seed,
            (seed, letter) => unchecked((seed * 31) + letter)
        );

    /// <summary>One world's hunts, and what was watched in them.</summary>
    private sealed record Watch(string Name, World World, List<Line> All, List<HuntProperties>? Watched);

    private sealed record Line(string Machine, string Strategy, Hunt Hunt)
    {
        public CircuitGroup Group { get; init; }

        public string Duty { get; init; } = "";

        public Difference? Differs { get; init; }
    }

    private static List<Line> Hunts(
        DiagnosisKit kit,
        World world,
        Range draws,
        bool byHandToo,
        List<HuntProperties>? watched
    )
    {
        var evaluation = new Evaluation(kit, world);
        var lines = new List<Line>();
        IStrategy[] strategies = byHandToo
            ? [new ByInformation(), new ByHalves(kit), new EndToEnd(kit), new ByChance(kit, new Random(Seed))]
            : [watched is null ? new ByInformation() : new HuntProperties(kit)];
        watched?.AddRange(strategies.OfType<HuntProperties>());
        foreach (var strategy in strategies)
        {
            var random = new Random(SeedOf(kit));
            // All are drawn: what is skipped of a lazy row is never asked for.
            List<int> seeds = [.. Enumerable.Range(0, draws.End.Value).Select(_ => random.Next())];
            var hunts = seeds[draws].Select(seed => evaluation.Hunt(seed, strategy)).OfType<Hunt>().ToList();
            if (hunts.Count == 0)
            {
                continue;
            }

            Console.WriteLine($"     {strategy.Name}: {Figures(hunts)}");
            foreach (var hunt in hunts.Where(h => !h.Right && strategy.Name == new ByInformation().Name))
            {
                Console.WriteLine(
                    $"       {hunt.FaultId}: {hunt.Verdict?.Text ?? "no verdict"} at {hunt.Share:0.00} after {hunt.Readings}"
                );
            }

            lines.AddRange(hunts.Select(h => new Line(kit.Circuit.Machine.Id.Text, strategy.Name, h)));
        }

        return lines;
    }

    /// <summary>Two faults at once: right is both, one after the other.</summary>
    private static List<Line> Doubles(DiagnosisKit kit, World world, int draws)
    {
        var evaluation = new Evaluation(kit, world);
        var strategy = new ByInformation();
        var random = new Random(SeedOf(kit));
        var lines = new List<Line>();
        for (var d = 0; d < draws; d++)
        {
            if (evaluation.HuntTwo(random.Next(), strategy) is not var (first, second))
            {
                continue;
            }

            var both = first with
            {
                Verdict = second is null
                    ? (first.Right ? SuspectId.Of("only one of two") : first.Verdict)
                    : second.Verdict,
                Right = second?.Right == true,
                Readings = first.Readings + (second?.Readings ?? 0),
                Minutes = first.Minutes + (second?.Minutes ?? new Minutes(0)),
            };
            if (!both.Right)
            {
                Console.WriteLine(
                    $"       {first.FaultId}: first {first.Verdict?.Text ?? "none"} {(first.Right ? "right" : "not right")}, second {second?.Verdict?.Text ?? "none"}"
                );
            }

            lines.Add(new Line(kit.Circuit.Machine.Id.Text, strategy.Name, both));
        }

        return lines;
    }

    /// <summary>Leads put on wrongly and nothing broken: no single fault should be named for sure.</summary>
    private static List<Line> Misplaced(DiagnosisKit kit, World world, int draws)
    {
        var (evaluation, strategy, random) = (new Evaluation(kit, world), new ByInformation(), new Random(SeedOf(kit)));
        var lines = Enumerable
            .Range(0, draws)
            .Select(_ => evaluation.HuntMisplaced(random.Next(), strategy))
            .OfType<Hunt>()
            .Select(h => new Line(kit.Circuit.Machine.Id.Text, strategy.Name, h))
            .ToList();
        foreach (var hunt in lines.Select(l => l.Hunt))
        {
            Console.WriteLine(
                $"       {hunt.FaultId}: {hunt.Verdict?.Text ?? "no verdict"} at {hunt.Share:0.00} after {hunt.Readings}"
            );
        }

        return lines;
    }

    private static void Sum(string before, IEnumerable<IGrouping<string, Line>> groups)
    {
        foreach (var group in groups.OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            Console.WriteLine($"{before}{group.Key}: {Figures([.. group.Select(g => g.Hunt)])}");
        }
    }

    /// <summary>Minutes of the program over those of each other way, on the same hidden faults.</summary>
    private static void Ratios(List<Line> all)
    {
        var ours = all.Where(l => l.Strategy == new ByInformation().Name).Average(l => l.Hunt.Minutes.Value);
        foreach (var other in all.GroupBy(l => l.Strategy).Where(g => g.Key != new ByInformation().Name))
        {
            Console.WriteLine(
                $"minutes over those of {other.Key}: {ours / other.Average(l => l.Hunt.Minutes.Value):0.00}"
            );
        }
    }

    private static string Figures(List<Hunt> hunts)
    {
        var minutes = hunts.Select(h => h.Minutes.Value).Order().ToArray();
        var none = hunts.Average(h => h.Verdict is null ? 1.0 : 0);
        var right = hunts.Average(h => h.Right ? 1.0 : 0);
        return $"{hunts.Count} hunts, right {right:P1}, wrong {Math.Max(0, 1 - right - none):P1}, no verdict {none:P1}, readings {hunts.Average(h => h.Readings):0.0}, minutes {minutes.Average():0.0}, nine in ten within {minutes[(int)(0.9 * (minutes.Length - 1))]:0.0}";
    }

    /// <summary>Stated shares against how often they were right, with Wilson's 95 % interval of a binomial share.</summary>
    private static void Calibrate(List<(double Share, bool Right)> stated)
    {
        foreach (
            var (low, high) in new[]
            {
                (0.0, 0.2),
                (0.2, 0.35),
                (0.35, 0.5),
                (0.5, 0.8),
                (0.8, 0.95),
                (0.95, 0.99),
                (0.99, 1.01),
            }
        )
        {
            var bin = stated.Where(h => h.Share >= low && h.Share < high).ToList();
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
