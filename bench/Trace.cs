using System.Globalization;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Practice;

namespace Pritchel.Bench;

/// <summary>Tells the hunts of an evaluation reading by reading: all of one fault, or those that were not right.</summary>
internal static class Trace
{
    public static int Run(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        if (args is not [var machine, var duty, var draws, .. var rest])
        {
            return Usage.Show();
        }

        var kit = DiagnosisKit.Build(Usage.Circuits(machine).First(), new DutyId(duty), []);
        foreach (var at in draws == "0" ? kit.Plan.Allowed(new Situation()) : [])
        {
            Console.WriteLine(Words(kit, at));
        }

        var evaluation = new Evaluation(kit, Worlds.First(rest));
        var random = new Random(Evaluate.SeedOf(kit));
        const string Seed = "seed=";
        int? told = rest.Where(r => r.StartsWith(Seed, StringComparison.Ordinal))
            .Select(r => (int?)int.Parse(r[Seed.Length..], CultureInfo.InvariantCulture))
            .FirstOrDefault();
        for (var d = 0; d < int.Parse(draws, CultureInfo.InvariantCulture); d++)
        {
            var telling = new Telling(new ByInformation(), kit);
            if (
                evaluation.Hunt(told ?? random.Next(), telling) is { } hunt
                && (
                    rest.FirstOrDefault(r => r.Contains('/')) is { } fault
                        ? hunt.FaultId.Text == fault
                        : rest.Contains("every") || !hunt.Right
                )
            )
            {
                Console.WriteLine($"=== {hunt.FaultId}: {hunt.Verdict?.Text ?? "no verdict"} at {hunt.Share:0.000}");
                telling.Lines.ForEach(Console.WriteLine);
            }
        }

        return 0;
    }

    /// <summary>Another strategy, with what it was shown and what it chose written down.</summary>
    private sealed class Telling(IStrategy inner, DiagnosisKit kit) : IStrategy
    {
        public List<string> Lines { get; } = [];

        public string Name => inner.Name;

        public PlannedWiggle? Stir(WiggleTests wiggleTests, Beliefs beliefs, Situation situation)
        {
            var stir = inner.Stir(wiggleTests, beliefs, situation);
            if (stir is not null)
            {
                Lines.Add(
                    $"    stir {stir.By} {stir.Reach.Place.Id} {stir.Reach.Alone?.Id}, watch {(stir.Watch is { } w ? Words(w.At) : "duty")}: {stir.Bits:0.000} bits, {stir.Minutes.Value:0.0} min"
                );
            }

            foreach (var tried in beliefs.SideEvidence.WiggleEvidence.Tried)
            {
                Lines.Add($"      stirred {tried.By} {tried.Reach.Place.Id} {tried.Reach.Alone?.Id}: {tried.Changed}");
            }

            return stir;
        }

        public PlannedTest? Next(TestPlan plan, Beliefs beliefs, Situation situation)
        {
            if (beliefs.Readings.Count > 0)
            {
                var (at, figure, _, _) = beliefs.Readings[^1];
                Lines.Add($"    {Words(at)} = {figure?.ToString("0.000", CultureInfo.InvariantCulture) ?? "jumps"}");
            }
            else
            {
                var told = beliefs.Complaint;
                Lines.Add(
                    $"  heard {told.Heard}, {string.Join(' ', told.Lamps.Select(l => $"{l.Lamp}@{l.Setting} {l.Look}"))}"
                );
            }

            Lines.Add("  " + string.Join(", ", beliefs.Suspects.Take(5).Select(s => $"{s.Id} {s.Share:0.000}")));
            var next = inner.Next(plan, beliefs, situation);
            if (next is not null)
            {
                Lines.Add(
                    $"    next {Words(next.At)}: {next.Bits:0.000} bits ({next.ByChance:0.000} by chance), {next.Minutes.Value:0.0} min"
                );
            }

            foreach (var also in plan.Best(beliefs, situation, 4).Skip(1))
            {
                Lines.Add(
                    $"      or {Words(also.At)}: {also.Bits:0.000} bits ({also.ByChance:0.000} by chance), {also.Minutes.Value:0.0} min"
                );
            }

            return next;
        }

        private string Words(ProbePair at) => Trace.Words(kit, at);
    }

    /// <summary>A test in a line.</summary>
    public static string Words(DiagnosisKit kit, ProbePair at)
    {
        var condition = kit.Table.Conditions[at.Condition];
        return $"{condition.Observable.Key} {kit.Points.At(at.Red).Address} to {kit.Points.At(at.Black).Address} [{condition.Words}; {condition.Speed}; off {string.Join(' ', condition.Off)}]";
    }
}
