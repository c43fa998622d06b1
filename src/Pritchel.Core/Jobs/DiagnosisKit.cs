using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Jobs;

/// <summary>All that is fixed for one machine, one duty and what was altered: predictions, probe points, tests, lines.</summary>
public sealed class DiagnosisKit
{
    private DiagnosisKit(PredictionTable table)
    {
        Table = table;
        Points = ProbePoints.Of(table.Circuit);
        Plan = new TestPlan(table, Points);
        WiggleTests = new WiggleTests(table, Plan);
        var duty = table.Conditions[0].Setting;
        Lines =
        [
            .. new[] { table.Duty.Control, table.Duty.Load }
                .OfType<string>()
                .Distinct(StringComparer.Ordinal)
                .Where(_ =>
                    table.Conditions[0].IsFree
                    && table.Effect
                        is EffectKind.Turns
                            or EffectKind.Glows
                            or EffectKind.Works
                            or EffectKind.Sounds
                            or EffectKind.LetsRun
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
    public static DiagnosisKit Build(Circuit circuit, string dutyId, IReadOnlyList<string> altered) =>
        Build(circuit, Symptoms.Duty(circuit, dutyId), altered);

    /// <summary>Works everything out for a duty, in the setting it names.</summary>
    public static DiagnosisKit Build(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<string> altered,
        CancellationToken cancel = default
    ) => new(PredictionTable.Build(circuit, duty, altered, cancel: cancel));

    /// <summary>Works out enough to choose the first test by: most often within a second.</summary>
    public static DiagnosisKit BuildCoarse(
        Circuit circuit,
        Duty duty,
        IReadOnlyList<string> altered,
        CancellationToken cancel = default
    ) => new(PredictionTable.BuildCoarse(circuit, duty, altered, cancel: cancel));

    /// <summary>The same with the sound machine's predictions alone; at once.</summary>
    public static DiagnosisKit Sketch(Circuit circuit, Duty duty, IReadOnlyList<string> altered) =>
        new(PredictionTable.Sketch(circuit, duty, altered));

    /// <summary>How a pair of points is told so that it outlives a change of numbering.</summary>
    public ProbedAt Told(ProbePair at) =>
        new(
            Table.Conditions[at.Condition].Setting.Named(Circuit.Machine),
            Points.At(at.Red).Address,
            Points.At(at.Black).Address,
            Table.Conditions[at.Condition].Quantity,
            Table.Conditions[at.Condition].Speed,
            Table.Conditions[at.Condition].Off.Count == 0 ? null : Table.Conditions[at.Condition].Off
        );

    /// <summary>The pair of points that was told, or null when this machine has no such point or condition.</summary>
    public ProbePair? Pair(ProbedAt told)
    {
        if (!Circuit.HasNode(told.Red) || !Circuit.HasNode(told.Black))
        {
            return null;
        }

        var setting = Circuit.Setting(told.Setting);
        var pair = (Circuit.NodeOf(told.Red), Circuit.NodeOf(told.Black));
        var condition = Table
            .Conditions.ToList()
            .FindIndex(c =>
                c.Setting.Equals(setting)
                && c.Quantity == told.Quantity
                && c.Speed == told.Speed
                && c.Off.SequenceEqual(told.Off ?? [], StringComparer.Ordinal)
                && (c.Pairs is null || c.Pairs.Contains(pair))
            );
        return condition >= 0 ? new ProbePair(condition, pair.Item1, pair.Item2) : null;
    }
}
