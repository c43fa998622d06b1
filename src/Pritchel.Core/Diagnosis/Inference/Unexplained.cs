using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Faults;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// What to make of readings that no single fault of the drawing explains: the one that stands against the rest, what the
/// others say without it, and two faults that would show all of them together.
/// </summary>
/// <param name="Odd">The reading without which a single fault explains the rest best; null with fewer than two.</param>
/// <param name="WithoutIt">The first suspect without that reading, when it stands clear.</param>
/// <param name="Two">Two faults that show every reading when the circuit is solved with both; null when none were found.</param>
/// <param name="Drawn">One change of the drawing that would show every reading; null when none was found.</param>
public sealed record Unexplained(
    Reading? Odd,
    Suspect? WithoutIt,
    (Fault First, Fault Second)? Two,
    NotAsDrawn? Drawn = null
)
{
    private const double Clear = 0.5;
    private const int MostSingles = 7;
    private static readonly double[] Degrees = [0.5, 1];

    private const int TwoMisfits = 2;

    /// <summary>
    /// Whether no fault of the drawing is the first suspect, or the one that is leaves two readings or more unexplained: one may
    /// be a slipped probe, two are seldom.
    /// </summary>
    public static bool Is(Beliefs beliefs) => NoneLeads(beliefs) || Misfits(beliefs).Count >= TwoMisfits;

    /// <summary>Whether no fault of the drawing is the first suspect.</summary>
    public static bool NoneLeads(Beliefs beliefs) => beliefs.Suspects[0] is { Repair: null, IsSound: false };

    /// <summary>Readings that the likeliest fault does not show, whatever its severity and however the sound parts vary.</summary>
    public static IReadOnlyList<Reading> Misfits(Beliefs beliefs)
    {
        const double Counts = 0.01;
        if (beliefs.Leading is not { } leading)
        {
            return [];
        }

        var (weights, share) = (beliefs.Weights(beliefs.LeadingIndex).ToArray(), beliefs.Share(beliefs.LeadingIndex));
        bool Fits(Reading reading)
        {
            var figures = leading.Across(reading.At);
            for (var p = 0; p < weights.Length; p++)
            {
                if (weights[p] > Counts * share && Near(figures[p], reading.Value!.Value))
                {
                    return true;
                }
            }

            return false;
        }

        return
        [
            .. beliefs.Readings.Where(r =>
                r is { Value: not null, Symptom: SymptomNow.Present }
                && IsPlain(beliefs.Table.Conditions[r.At.Condition].Observable)
                && beliefs.Table.Predicts(r.At.Condition)
                && !Fits(r)
            ),
        ];
    }

    /// <summary>Whether a meter reads it plainly, so that a circuit solved anew can be held against it: volts and ohms.</summary>
    private static bool IsPlain(Observable observable) => observable is DirectVolts or DeadOhms;

    private static bool Near(double shown, double read)
    {
        const double SlackShare = 0.06;
        const double SlackVolts = 0.4;
        return Math.Abs(shown - read) < SlackVolts + (SlackShare * Math.Abs(read));
    }

    /// <summary>Works it out; a second or so.</summary>
    public static Unexplained Of(Beliefs beliefs)
    {
        var without = beliefs.Readings.Select(r => (Reading: r, Then: beliefs.Without(r))).ToList();
        if (without.Count < 2)
        {
            return new Unexplained(null, null, null);
        }

        var (odd, then) = without.MinBy(w => w.Then.NoneOfThese);
        var first = then.Suspects[0];

        // Either of two faults is a fair single suspect of what the other does not touch.
        var singles = without
            .SelectMany(w => w.Then.Suspects)
            .Where(s => s.Likeliest is not null)
            .OrderByDescending(s => s.Share)
            .Select(s => s.Likeliest!)
            .DistinctBy(f => f.Repair.Id)
            .Take(MostSingles)
            .ToList();
        var pair = singles
            .SelectMany((a, i) => singles.Skip(i + 1).Select(b => (First: a, Second: b)))
            .Where(p => Shows(beliefs, p.First, p.Second))
            .Select(p => ((Fault, Fault)?)p)
            .FirstOrDefault();
        return new Unexplained(
            odd,
            first.Repair is not null && first.Share > Clear ? first : null,
            pair,
            NotAsDrawn.Of(beliefs)
        );
    }

    /// <summary>Whether both at once, at some severity, would give the complaint's readings.</summary>
    private static bool Shows(Beliefs beliefs, Fault first, Fault second) =>
        Degrees.Any(a => Degrees.Any(b => Shows(beliefs, [new PlantedFault(first, a), new PlantedFault(second, b)])));

    /// <summary>Whether the circuit shows every reading when it is solved with what is planted.</summary>
    internal static bool Shows(Beliefs beliefs, IReadOnlyList<PlantedFault> planted) =>
        beliefs.Readings.All(r => IsShown(beliefs, r, planted));

    private static bool IsShown(Beliefs beliefs, Reading reading, IReadOnlyList<PlantedFault> planted)
    {
        const double SlackShare = 0.06;
        const double SlackVolts = 0.25;
        var table = beliefs.Table;
        var condition = table.Conditions[reading.At.Condition];
        if (!IsPlain(condition.Observable) || reading.Value is not { } read)
        {
            return true;
        }

        var fresh = reading.At.Condition == 0 || condition.Off.Count > 0 || condition.Observable.WantsDeadCircuit;
        var @case = new Case
        {
            Circuit = table.Circuit,
            Settings = fresh
                ? reading.At.Condition == 0
                    ? DutyMoment.Settings(table.Circuit, table.Duty)
                    : [condition.Setting]
                : [.. DutyMoment.Settings(table.Circuit, table.Duty), table.Circuit.Setting(null), condition.Setting],
            Speeds = table.Circuit.Engines.ToDictionary(e => e.Id, e => e.At(condition.Speed)),
            Off = condition.Off,
            BatteryDisconnected = condition.Observable.WantsDeadCircuit,
            Faults = planted,
        };
        var function = condition.Observable.WantsDeadCircuit ? MeterFunction.Ohms : MeterFunction.DcVolts;
        var shown = Bench.Read(
            @case,
            beliefs.Meter with
            {
                LeadsNulled = true,
            },
            function,
            reading.At.Red,
            reading.At.Black
        );
        if (shown.Value is not { } value)
        {
            return shown.OverRange && read >= Observable.Open - 1;
        }

        var scaled = shown.OverRange ? Observable.Open : condition.Observable.Scaled(value);
        return Math.Abs(scaled - read) < SlackVolts + (SlackShare * Math.Abs(read));
    }
}
