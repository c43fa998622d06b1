using System.Globalization;
using Pritchel.Core.Circuits;
using Pritchel.Core.Diagnosis;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Meters;
using Pritchel.Core.Practice;
using Pritchel.Core.Units;

namespace Pritchel.Bench;

/// <summary>
/// The program's choice of tests against the best there is, on complaints small enough to look all the way ahead: every
/// repair once, by its share, each reading as its middle machine gives it, without noise. The best is found by looking
/// through every order of tests with access, controls and battery as they then stand (dynamic programming over what is left
/// and how things stand); both pay an hour for the wrong part.
/// </summary>
internal static class Lookahead
{
    private const double WrongMinutes = 60;
    private const double LeastShare = 0.004;
    private const int CheapestOfAKind = 2;
    private const int Deepest = 6;

    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        if (args is [var machine, var duty])
        {
            Compare(machine, duty, Heard.Nothing);
            return 0;
        }

        Compare("hedgerow-mower-2", "stops-magneto-lever-0", Heard.Nothing);
        Compare("packhouse-generator-1", "stops-magneto-switch-0", Heard.Nothing);
        return 0;
    }

    private static void Compare(string machine, string duty, Heard heard)
    {
        var file = Path.Combine(AppContext.BaseDirectory, "machines", machine + ".json");
        var kit = DiagnosisKit.Build(Circuit.Compile(MachineFile.Read(File.ReadAllText(file)).Machine!), duty, []);
        var problem = new Problem(kit, heard);
        var best = problem.Best();
        var (ours, right, readings) = problem.Ours();
        Console.WriteLine(
            $"{machine} {duty}, {heard}: {problem.Repairs} repairs, {problem.Tests} tests that tell, {problem.States} states looked through; best {best:0.00} min, ours {ours:0.00} ({ours / best - 1:P0} more), right {right:P1}, readings {readings:0.0}"
        );
    }

    private sealed class Problem
    {
        private readonly DiagnosisKit kit;
        private readonly Complaint complaint;
        private readonly Beliefs told;
        private readonly (Fault Fault, double Share)[] repairs;
        private readonly List<(ProbePair At, byte[] Outcomes)> tests = [];
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
            repairs = [.. suspects.Select(s => (s.Likeliest!, s.Share / all))];
            foreach (var at in kit.Plan.Allowed(new Situation()))
            {
                var quantity = kit.Table.Conditions[at.Condition].Quantity;
                if (!Scale.CanRead(Meter.Ordinary, quantity))
                {
                    continue;
                }

                var outcomes = Told(at, quantity);
                if (outcomes.Distinct().Count() > 1)
                {
                    tests.Add((at, outcomes));
                }
            }
        }

        public int Repairs => repairs.Length;

        public int Tests => tests.Count;

        public int States => known.Count;

        /// <summary>Least expected minutes, wrong parts counted.</summary>
        public double Best() => Best((1UL << repairs.Length) - 1, new Situation(), 0);

        /// <summary>The program's own, on the same readings.</summary>
        public (double Minutes, double Right, double Readings) Ours()
        {
            var (minutes, right, taken) = (0.0, 0.0, 0.0);
            foreach (var (fault, share) in repairs)
            {
                var (readings, situation, spent) = (new List<Reading>(), new Situation(), 0.0);
                while (true)
                {
                    var beliefs = Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, readings);
                    var next = kit.Plan.Best(beliefs, situation, 1).FirstOrDefault();
                    var verdict = Verdict.Of(beliefs, next).Suspect;
                    if (verdict is not null || next is null || readings.Count >= Rehearsal.MostReadings)
                    {
                        var hit = verdict?.Id == fault.Repair.Id;
                        minutes += share * (spent + (hit ? 0 : WrongMinutes));
                        right += hit ? share : 0;
                        taken += share * readings.Count;
                        break;
                    }

                    spent += next.Minutes.Value;
                    readings.Add(new Reading(next.At, Staircase.Shown(told, fault, next.At), SymptomNow.Present));
                    situation = JobDiagnosis.Measured(situation, kit, next.At);
                }
            }

            return (minutes, right, taken);
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

                var then = JobDiagnosis.Measured(stands, kit, test) with { Done = new HashSet<ProbePair>() };
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

        private static List<ulong> Parts(byte[] outcomes, ulong left)
        {
            var parts = new SortedDictionary<byte, ulong>();
            for (var r = 0; r < outcomes.Length; r++)
            {
                if ((left & (1UL << r)) != 0)
                {
                    parts[outcomes[r]] = parts.GetValueOrDefault(outcomes[r]) | (1UL << r);
                }
            }

            return [.. parts.Values];
        }

        private (double All, double Top) Shares(ulong left)
        {
            var (all, top) = (0.0, 0.0);
            for (var r = 0; r < repairs.Length; r++)
            {
                if ((left & (1UL << r)) != 0)
                {
                    all += repairs[r].Share;
                    top = Math.Max(top, repairs[r].Share);
                }
            }

            return (all, top);
        }

        /// <summary>Which repairs a test cannot tell from one another: figures with no gap wider than its doubt between them.</summary>
        private byte[] Told(ProbePair at, Quantity quantity)
        {
            const double Slack = 0.15;
            const double Deviations = 4;
            var shown = repairs
                .Select((r, i) => (Figure: Staircase.Shown(told, r.Fault, at), Index: i))
                .OrderBy(x => x.Figure)
                .ToArray();
            var outcomes = new byte[shown.Length];
            for (var i = 1; i < shown.Length; i++)
            {
                var doubt = (Deviations * Scale.Noise(Meter.Ordinary, quantity, shown[i].Figure)) + Slack;
                var apart = shown[i].Figure - shown[i - 1].Figure > doubt;
                outcomes[shown[i].Index] = (byte)(outcomes[shown[i - 1].Index] + (apart ? 1 : 0));
            }

            return outcomes;
        }

        private static string Key(Situation stands) =>
            $"{string.Join(',', stands.Opened.Order(StringComparer.Ordinal))}|{stands.Condition}|{stands.BatteryOff}|{stands.MadeSafe}|";
    }
}
