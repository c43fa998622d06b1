using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Bench;

/// <summary>
/// The program's choice of tests against the best there is, on complaints small enough to look all the way ahead: every
/// repair by its share, by a few machines of it as they may be, since nobody knows how bad a fault is, each reading as that
/// machine gives it, without noise. The best is found by looking
/// through every order of tests with access, controls and battery as they then stand (dynamic programming over what is left
/// and how things stand); both pay an hour for the wrong part.
/// </summary>
internal static class Lookahead
{
    private const double WrongMinutes = 60;
    private const double LeastShare = 0.004;
    private const int CheapestOfAKind = 2;
    private const int Deepest = 6;
    private const int MostFaults = 2;

    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        if (args is [var machine, var duty, .. var rest])
        {
            Compare(machine, duty, Heard.Nothing, rest.Contains("tree"));
            return 0;
        }

        Compare("hedgerow-mower-2", "stops-magneto-lever-0", Heard.Nothing);
        Compare("packhouse-generator-1", "stops-magneto-switch-0", Heard.Nothing);
        return 0;
    }

    private static void Compare(string machine, string duty, Heard heard, bool tree = false)
    {
        var file = Path.Combine(AppContext.BaseDirectory, "machines", machine + ".json");
        var kit = DiagnosisKit.Build(
            Circuit.Compile(MachineFile.Read(File.ReadAllText(file)).Machine!),
            new DutyId(duty),
            []
        );
        var problem = new Problem(kit, heard);
        var best = problem.Best();
        var (ours, right, readings) = problem.Ours();
        Console.WriteLine(
            $"{machine} {duty}, {heard}: {problem.Repairs} repairs in {problem.Machines} machines, {problem.Tests} tests that tell, {problem.States} states looked through; best {best:0.00} min, ours {ours:0.00} ({ours / best - 1:P0} more), right {right:P1}, readings {readings:0.0}"
        );
        if (tree)
        {
            problem.Tell();
        }
    }

    private sealed class Problem
    {
        private readonly DiagnosisKit kit;
        private readonly Complaint complaint;
        private readonly Beliefs told;
        private readonly Hidden[] hidden;
        private readonly List<(ProbePair At, List<ulong> Outcomes)> tests = [];
        private readonly Dictionary<(ulong Left, string Stands), double> known = [];

        public Problem(DiagnosisKit kit, Heard heard)
        {
            this.kit = kit;
            complaint = new Complaint
            {
                Duty = kit.Table.Duty.Id,
                Heard = heard,
                Failed = 3,
                Tried = 3,
            };
            told = Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, []);
            var suspects = told.Suspects.Where(s => s.Likeliest is not null && s.Share > LeastShare).Take(60).ToList();
            var all = suspects.Sum(s => s.Share);
            Repairs = suspects.Count;
            hidden = [.. suspects.SelectMany(s => Drawn(s.Repair!.Id.Text, s.Share / all))];
            foreach (var at in kit.Plan.Allowed(new Situation()))
            {
                var observable = kit.Table.Conditions[at.Condition].Observable;
                if (!observable.CanRead(Meter.Ordinary))
                {
                    continue;
                }

                var outcomes = Told(at, observable);
                if (outcomes.Count > 1)
                {
                    tests.Add((at, outcomes));
                }
            }
        }

        public int Repairs { get; }

        public int Machines => hidden.Length;

        public int Tests => tests.Count;

        public int States => known.Count;

        /// <summary>Least expected minutes, wrong parts counted.</summary>
        public double Best() => Best((1UL << hidden.Length) - 1, new Situation(), 0);

        /// <summary>Writes down the best order as a tree, and the program's own order for each repair.</summary>
        public void Tell()
        {
            Console.WriteLine("best:");
            Tell((1UL << hidden.Length) - 1, new Situation(), 0);
            foreach (var one in hidden)
            {
                Console.WriteLine($"ours, {one.Shown.Fault!.Id} number {one.Particle} ({one.Share:0.000}):");
                foreach (var line in Follow(one).Told)
                {
                    Console.WriteLine("    " + line);
                }
            }
        }

        private void Tell(ulong left, Situation stands, int depth)
        {
            var indent = new string(' ', 2 * (depth + 1));
            var (all, top) = Shares(left);
            var names = string.Join(
                ", ",
                hidden
                    .Where((_, i) => (left & (1UL << i)) != 0)
                    .GroupBy(h => h.Repair, h => h.Share)
                    .OrderByDescending(g => g.Sum())
                    .Select(g => $"{g.Key} {g.Sum():0.000}")
            );
            var value = Best(left, stands, depth);
            if (value >= (all - top) * WrongMinutes - 1e-9)
            {
                Console.WriteLine($"{indent}act: {names}");
                return;
            }

            foreach (var (test, parts, cost) in Offers(left, stands))
            {
                var then = kit.Plan.After(stands, test) with { Done = new HashSet<ProbePair>() };
                if (Math.Abs((cost * all) + parts.Sum(p => Best(p, then, depth + 1)) - value) < 1e-9)
                {
                    Console.WriteLine($"{indent}{Trace.Words(kit, test)} {cost:0.0} min, of {names}");
                    parts.ForEach(p => Tell(p, then, depth + 1));
                    return;
                }
            }
        }

        /// <summary>The program's own, on the same readings.</summary>
        public (double Minutes, double Right, double Readings) Ours()
        {
            var (minutes, right, taken) = (0.0, 0.0, 0.0);
            foreach (var one in hidden)
            {
                var (spent, hit, readings, _) = Follow(one);
                minutes += one.Share * (spent + (hit ? 0 : WrongMinutes));
                right += hit ? one.Share : 0;
                taken += one.Share * readings;
            }

            return (minutes, right, taken);
        }

        private (double Spent, bool Hit, int Readings, List<string> Told) Follow(Hidden one)
        {
            var (readings, situation, spent, lines) = (new List<Reading>(), new Situation(), 0.0, new List<string>());
            while (true)
            {
                var beliefs = Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, readings);
                var next = kit.Plan.Best(beliefs, situation, 1).FirstOrDefault();
                var verdict = Verdict.Of(beliefs, next).Suspect;
                lines.Add(string.Join(", ", beliefs.Suspects.Take(4).Select(s => $"{s.Id} {s.Share:0.000}")));
                if (verdict is not null || next is null || readings.Count >= Rehearsal.MostReadings)
                {
                    return (spent, verdict?.Id.Text == one.Repair, readings.Count, lines);
                }

                spent += next.Minutes.Value;
                readings.Add(new Reading(next.At, one.Shows(next.At), SymptomNow.Present));
                lines.Add($"{Trace.Words(kit, next.At)} {next.Minutes.Value:0.0} min: {readings[^1].Value:0.00}");
                situation = kit.Plan.After(situation, next.At);
            }
        }

        private double Best(ulong left, Situation stands, int depth)
        {
            var (all, top) = Shares(left);
            var acting = (all - top) * WrongMinutes;
            if (acting < 1e-9 || depth >= Deepest)
            {
                return acting;
            }

            var key = (left, Key(stands) + depth);
            if (known.TryGetValue(key, out var before))
            {
                return before;
            }

            var best = acting;
            foreach (var (test, parts, cost) in Offers(left, stands))
            {
                if (cost * all >= best)
                {
                    continue;
                }

                var then = kit.Plan.After(stands, test) with { Done = new HashSet<ProbePair>() };
                best = Math.Min(best, (cost * all) + parts.Sum(p => Best(p, then, depth + 1)));
            }

            known[key] = best;
            return best;
        }

        /// <summary>Tests that split what is left, the cheapest few of those that split it alike.</summary>
        private IEnumerable<(ProbePair Test, List<ulong> Parts, double Cost)> Offers(ulong left, Situation stands) =>
            tests
                .Select(t => (t.At, Parts: Parts(t.Outcomes, left)))
                .Where(t => t.Parts.Count > 1)
                .Select(t => (t.At, t.Parts, Cost: kit.Plan.Cost(t.At, stands).Value))
                .GroupBy(t => string.Join(',', t.Parts.Order()))
                .SelectMany(g => g.OrderBy(t => t.Cost).Take(CheapestOfAKind))
                .OrderBy(t => t.Cost);

        private static List<ulong> Parts(List<ulong> outcomes, ulong left) =>
            [.. outcomes.Select(o => o & left).Where(o => o != 0)];

        private (double All, double Top) Shares(ulong left)
        {
            var shares = new Dictionary<string, double>(StringComparer.Ordinal);
            for (var h = 0; h < hidden.Length; h++)
            {
                if ((left & (1UL << h)) != 0)
                {
                    shares[hidden[h].Repair] = shares.GetValueOrDefault(hidden[h].Repair) + hidden[h].Share;
                }
            }

            return (shares.Values.Sum(), shares.Values.Max());
        }

        /// <summary>
        /// A few machines that a repair would cure: its likeliest faults, each at the same few severities as everybody
        /// else's, so that two faults that look alike at each severity are not told apart by having been drawn at others.
        /// </summary>
        private IEnumerable<Hidden> Drawn(string repair, double share)
        {
            var faults = Enumerable
                .Range(0, kit.Table.Hypotheses.Count)
                .Where(h =>
                    kit.Table.Hypotheses[h].Fault?.Repair.Id.Text == repair && kit.Table.Hypotheses[h].HasPredictions
                )
                .OrderByDescending(told.Share)
                .Take(MostFaults)
                .SelectMany(h =>
                    Severities.Select(p => (Shown: kit.Table.Hypotheses[h], Particle: p, Weight: told.Weights(h)[p]))
                )
                .Where(x => x.Weight > 0)
                .ToList();
            var all = faults.Sum(x => x.Weight);
            return faults.Select(x => new Hidden(repair, x.Shown, x.Particle, share * x.Weight / all));
        }

        /// <summary>Particles a third of all severities apart.</summary>
        private int[] Severities
        {
            get
            {
                var severities = kit
                    .Table.Hypotheses.First(h => h is { Fault: not null, HasPredictions: true })
                    .SeverityBy.ToArray();
                var order = Enumerable.Range(0, severities.Length).OrderBy(p => severities[p]).ToArray();
                return [.. new[] { 1, 3, 5 }.Select(sixth => order[sixth * order.Length / 6])];
            }
        }

        /// <summary>Which hidden machines a test cannot tell from one another: figures with no gap wider than its doubt between them.</summary>
        private List<ulong> Told(ProbePair at, Observable observable)
        {
            const double Slack = 0.15;
            const double Deviations = 4;
            var shown = hidden.Select((h, i) => (Figure: h.Shows(at), Index: i)).OrderBy(x => x.Figure).ToArray();
            var outcomes = new List<ulong> { 1UL << shown[0].Index };
            for (var i = 1; i < shown.Length; i++)
            {
                var doubt = (Deviations * observable.Noise(Meter.Ordinary, shown[i].Figure)) + Slack;
                if (shown[i].Figure - shown[i - 1].Figure > doubt)
                {
                    outcomes.Add(0);
                }

                outcomes[^1] |= 1UL << shown[i].Index;
            }

            return outcomes;
        }

        private static string Key(Situation stands) =>
            $"{string.Join(',', stands.Opened.Select(p => p.Text).Order(StringComparer.Ordinal))}|{stands.Condition}|{stands.BatteryOff}|{stands.MadeSafe}|";
    }

    /// <summary>A machine with a fault as it may be.</summary>
    private sealed record Hidden(string Repair, Hypothesis Shown, int Particle, double Share)
    {
        public double Shows(ProbePair at) => Shown.Across(at)[Particle];
    }
}
