using System.Collections.Concurrent;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>Chooses what to measure next: most expected information per minute.</summary>
public sealed partial class TestPlan
{
    // Times of handling, in minutes: common practice, no source.
    private const double FiddlyMinutes = 0.4;
    private const double ControlMinutes = 0.2;
    private const double MakeSafeMinutes = 1.5;
    private const double AloneMinutes = 0.7;

    private const double TakeOffMinutes = 0.5;
    private const double BatteryMinutes = 1;
    private const double EngineMinutes = 0.7;

    /// <summary>Below this a test tells nothing worth its while.</summary>
    public const double LeastBits = 0.02;

    private readonly PredictionTable table;
    private readonly ProbePoints points;
    private readonly List<(int Red, int Black)> pairs = [];
    private readonly ConcurrentDictionary<(ProbePair At, bool Alone), TestCost> costs = new();
    private readonly Place[][] offPlaces;

    /// <summary>Lists every pair of points worth probing on a machine.</summary>
    public TestPlan(PredictionTable table, ProbePoints points)
    {
        this.table = table;
        this.points = points;
        offPlaces = [.. table.Conditions.Select(c => OffPlaces(c).ToArray())];
        ListPairs();
    }

    /// <summary>Tests allowed in a situation, whatever they would tell.</summary>
    public IEnumerable<ProbePair> Allowed(Situation situation)
    {
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            if (!CanTakeOff(c, situation) || !table.Predicts(c))
            {
                continue;
            }

            foreach (var (red, black) in table.Conditions[c].Pairs ?? pairs)
            {
                var pair = new ProbePair(c, red, black);
                if (!situation.Done.Contains(pair) && CanRead(pair, situation))
                {
                    yield return pair;
                }
            }
        }
    }

    /// <summary>
    /// The conditions that some test is read in soonest from rest, with nothing opened yet; none where two points are joined,
    /// which is dear for whoever does it and for the work of predicting it.
    /// </summary>
    /// <param name="most">How many.</param>
    internal IEnumerable<int> Soonest(int most)
    {
        var rest = new Situation();
        return Allowed(rest)
            .Where(at => table.Conditions[at.Condition].Jump is null)
            .GroupBy(at => at.Condition)
            .OrderBy(tests => tests.Min(at => Cost(at, rest).Value))
            .Take(most)
            .Select(tests => tests.Key);
    }

    /// <summary>One test with its cost.</summary>
    /// <param name="at">Where.</param>
    /// <param name="situation">How things stand.</param>
    /// <param name="bits">What it would tell.</param>
    /// <param name="counting">Particles of a hypothesis that still count.</param>
    public PlannedTest Plan(
        ProbePair at,
        Situation situation,
        double bits,
        double counting = PredictionTable.UsualParticles
    ) =>
        new(at, points.At(at.Red), points.At(at.Black), table.Conditions[at.Condition], Cost(at, situation), bits)
        {
            ByChance = PlannedTest.ChanceOf(Math.Max(1, counting)),
        };

    /// <summary>Minutes a test takes from how things stand.</summary>
    public Minutes Cost(ProbePair at, Situation situation) => Cost(at, situation.Alone).From(situation);

    /// <summary>What a test takes, by what it depends on.</summary>
    internal TestCost Cost(ProbePair at, bool alone) =>
        costs.TryGetValue((at, alone), out var known) ? known : costs.GetOrAdd((at, alone), CostAnew(at, alone));

    private TestCost CostAnew(ProbePair at, bool alone)
    {
        var condition = table.Conditions[at.Condition];
        var feedsItself = condition.Observable.WantsDeadCircuit;
        var always =
            condition.Observable.Handling.Value
            + condition.SettingUp.Value
            + (TakeOffMinutes * offPlaces[at.Condition].Length);
        always += condition.Speed == DutySpeed.Rest ? 0 : EngineMinutes;
        always += points.At(at.Red).Fiddly ? FiddlyMinutes : 0;
        always += points.At(at.Black).Fiddly ? FiddlyMinutes : 0;
        always += condition.Held.Count > 0 && alone ? AloneMinutes : 0;
        return new TestCost(
            always,
            [.. Places(at)],
            at.Condition,
            ControlMinutes,
            condition.MayTurnEngine ? MakeSafeMinutes : 0,
            feedsItself && table.Conditions[0].IsFree ? BatteryMinutes : 0,
            feedsItself ? 0 : BatteryMinutes
        );
    }

    /// <summary>How things stand after a reading: places stay open, controls stay put, safe stays safe.</summary>
    public Situation After(Situation before, ProbePair at) =>
        before with
        {
            Opened = before.Opened.Union(Places(at).Select(p => p.Id)).ToHashSet(),
            Condition = at.Condition,
            BatteryOff = table.Conditions[at.Condition].Observable.WantsDeadCircuit && table.Conditions[0].IsFree,
            MadeSafe = before.MadeSafe || table.Conditions[at.Condition].MayTurnEngine,
            Done = new HashSet<ProbePair>(before.Done) { at },
            Read = new Dictionary<ProbePair, int>(before.Read) { [at] = before.Read.GetValueOrDefault(at) + 1 },
        };

    private bool CanRead(ProbePair at, Situation situation) =>
        CanProbe(at.Condition, at.Red, situation) && CanProbe(at.Condition, at.Black, situation);

    private bool CanProbe(int condition, int node, Situation situation)
    {
        var place = points.At(node).Place;
        var wanted = table.Conditions[condition];

        // A spark tester sits on the plug lead, away from what was opened to take the kill wire off.
        return !points.At(node).IsInside
            && !situation.Unreachable.Contains(place.Id)
            && (place.EngineMayTurn || !wanted.MayTurnEngine || !wanted.Observable.IsProbed);
    }

    /// <summary>Places that a test reaches into: where something is taken off, and where the probes go.</summary>
    public IEnumerable<Place> Places(ProbePair at)
    {
        var condition = table.Conditions[at.Condition];

        // On the plug lead a spark is away from the coil; a tester at the coil sits on its tower.
        var probed =
            condition.Tester == SparkTesterAt.Coil ? [points.At(at.Red).Place]
            : condition.Observable.IsProbed ? new[] { points.At(at.Red).Place, points.At(at.Black).Place }
            : [];
        return offPlaces[at.Condition].Concat(probed).DistinctBy(p => p.Id);
    }

    private bool CanTakeOff(int condition, Situation situation) =>
        Array.TrueForAll(offPlaces[condition], p => !situation.Unreachable.Contains(p.Id));

    /// <summary>Places where a condition's wires and couplings are taken off.</summary>
    private IEnumerable<Place> OffPlaces(Condition condition)
    {
        var machine = table.Circuit.Machine;
        return condition
            .Off.Select(what =>
                what.WireEnd is { } end
                    ? machine.Index.PartAt(machine.Index.TerminalOf(end)!.Value)!
                    : machine.Index.Part(what.Coupling!.Value)!
            )
            .Select(p => MachineWords.PlaceOf(machine, p))
            .DistinctBy(p => p.Id);
    }

    private void ListPairs()
    {
        var grounds = points.Grounds.Select(g => g.Node).Distinct().ToArray();
        var seen = new HashSet<(int, int)>();
        foreach (var point in points.All)
        {
            foreach (var ground in grounds.Where(g => g != point.Node))
            {
                seen.Add((point.Node, ground));
            }
        }

        foreach (var branch in table.Circuit.Network.Branches.Where(b => b.From != b.To && Near(b.From, b.To)))
        {
            if (!seen.Contains((branch.To, branch.From)))
            {
                seen.Add((branch.From, branch.To));
            }
        }

        pairs.AddRange(seen);
    }

    /// <summary>Both probes within reach of one pair of leads: one place, or the two ends of a cable.</summary>
    private bool Near(int a, int b) =>
        points.At(a).Place.Zone == points.At(b).Place.Zone
        || table.Circuit.Machine.Wires.Any(w =>
            w.Cable == true && table.Circuit.NodeOf(w.Id.From) == a && table.Circuit.NodeOf(w.Id.To) == b
        );
}
