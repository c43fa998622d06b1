using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Jobs;

/// <summary>All that is fixed for one machine, one duty and what was altered: predictions, probe points, tests, lines.</summary>
public sealed class DiagnosisKit
{
    private readonly ConditionKey[] keys;

    private DiagnosisKit(PredictionTable table)
    {
        Table = table;
        keys = [.. table.Conditions.Select(c => c.Key(table.Circuit))];
        Points = ProbePoints.Of(table.Circuit);
        Plan = new TestPlan(table, Points);
        WiggleTests = new WiggleTests(table, Plan);
        var duty = table.Conditions[0].Setting;
        Lines =
        [
            .. new[] { table.Duty.Control, table.Duty.Load }
                .Where(p => p is not null)
                .Select(p => p!.Value)
                .Distinct()
                .Where(_ =>
                    table.Conditions[0].IsFree
                    && table.Effect
                        is EffectKind.Turns
                            or EffectKind.Glows
                            or EffectKind.Works
                            or EffectKind.Sounds
                            or EffectKind.LetsRun
                            or EffectKind.Holds
                            or EffectKind.Reads
                )
                .Select(part => LinePath.Through(table.Circuit, duty, part))
                .Where(l => l.Pieces.Count > 0),
        ];
    }

    /// <summary>Predictions.</summary>
    public PredictionTable Table { get; }

    /// <summary>The circuit.</summary>
    public Circuit Circuit => Table.Circuit;

    /// <summary>Where probes can go.</summary>
    public ProbePoints Points { get; }

    /// <summary>Chooser of tests.</summary>
    public TestPlan Plan { get; }

    /// <summary>Chooser of what to move, warm or wet.</summary>
    public WiggleTests WiggleTests { get; }

    /// <summary>The circuit laid out straight: through the part that commands, then the part that does.</summary>
    public IReadOnlyList<LinePath> Lines { get; }

    /// <summary>Works everything out; takes a second or two.</summary>
    public static DiagnosisKit Build(Circuit circuit, DutyId duty, IReadOnlyList<AlterationId> altered) =>
        Build(circuit, Symptoms.Duty(circuit, duty), altered);

    /// <summary>Works everything out for a duty, in the setting it names.</summary>
    public static DiagnosisKit Build(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter? meter = null,
        int? threads = null,
        CancellationToken cancel = default
    ) => new(PredictionTable.Build(circuit, duty, altered, meter, threads: threads, cancel: cancel));

    /// <summary>What predictions that were worked out before give.</summary>
    public static DiagnosisKit Of(PredictionTable table) => new(table);

    /// <summary>Works out enough to choose the first test by: most often within a second.</summary>
    public static DiagnosisKit BuildCoarse(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter? meter = null,
        CancellationToken cancel = default
    ) =>
        new(
            PredictionTable.BuildCoarse(
                circuit,
                duty,
                altered,
                (table, most) => new TestPlan(table, ProbePoints.Of(circuit)).Soonest(most),
                meter,
                cancel: cancel
            )
        );

    /// <summary>The same with the sound machine's predictions alone; at once.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">Duty that fails.</param>
    /// <param name="altered">What was found altered.</param>
    /// <param name="meter">Meter that will be used; an ordinary one when null.</param>
    /// <param name="seed">Seed of the sound machines drawn.</param>
    public static DiagnosisKit Sketch(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<AlterationId> altered,
        Meter? meter = null,
        int seed = PredictionTable.UsualSeed
    ) => new(PredictionTable.Sketch(circuit, duty, altered, meter, seed));

    /// <summary>What a condition is, apart from its number here.</summary>
    public ConditionKey KeyOf(int condition) => keys[condition];

    /// <summary>How a pair of points is told so that it outlives a change of numbering.</summary>
    public ProbedAt Told(ProbePair at) =>
        new(keys[at.Condition], Points.At(at.Red).Address, Points.At(at.Black).Address);

    /// <summary>Whether a pair of points is read in its condition, so that what is read there is weighed.</summary>
    public bool Reads(ProbePair at) => Table.Conditions[at.Condition].Pairs?.Contains((at.Red, at.Black)) ?? true;

    /// <summary>The pair of points that was told, or null when this duty is not read there in that condition.</summary>
    public ProbePair? Pair(ProbedAt told)
    {
        if (!Circuit.HasNode(told.Red) || !Circuit.HasNode(told.Black))
        {
            return null;
        }

        var condition = Called(told.Condition);
        var pair = (Red: Circuit.NodeOf(told.Red), Black: Circuit.NodeOf(told.Black));
        for (var c = 0; c < keys.Length; c++)
        {
            if (keys[c].Equals(condition) && (Table.Conditions[c].Pairs?.Contains(pair) ?? true))
            {
                return new ProbePair(c, pair.Red, pair.Black);
            }
        }

        return null;
    }

    /// <summary>The same condition with what is joined called as it is here: a node has several names.</summary>
    private ConditionKey Called(ConditionKey told) =>
        told.Joined is { } joined && Circuit.HasNode(joined.From) && Circuit.HasNode(joined.To)
            ? told with
            {
                Joined = joined with
                {
                    From = Condition.Handiest(Circuit, Circuit.NodeOf(joined.From)),
                    To = Condition.Handiest(Circuit, Circuit.NodeOf(joined.To)),
                },
            }
            : told;
}
