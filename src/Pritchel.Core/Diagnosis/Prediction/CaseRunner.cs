using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>Solves particles of a hypothesis: tries the duty once, then visits every condition from rest.</summary>
internal sealed partial class CaseRunner
{
    private readonly PredictionTable table;
    private readonly Circuit circuit;
    private readonly CircuitState state;
    private readonly ControlSetting rest;
    private readonly ControlSetting? before;
    private readonly Device load;
    private readonly Device? control;
    private readonly Device[] lamps;
    private readonly double[] values;
    private readonly double[] opened;
    private readonly ParameterId[][] off;
    private readonly ParameterId[] batteries;
    private readonly ParameterId[][] tested;
    private readonly Dictionary<(int Red, int Black), CircuitState> metered = [];
    private readonly double tolerance;
    private readonly MeterLoad meterLoad;
    private readonly int[] asTried;
    private readonly int[] kills;
    private double[] figures = [];
    private Condition? asked;
    private DeadNetwork? dead;

    // The condition whose dead circuit stands eliminated; −1 for none.
    private int standsDead = -1;
    private readonly CircuitState?[] stood;
    private CircuitState? still;
    private Snapshot tried;
    private Snapshot spare;
    private Snapshot[] stands = [];
    private readonly CaseRunner? sound;
    private Snapshot? carriedIn;
    private Settlement settled;

    /// <summary>A runner of a table's conditions.</summary>
    /// <param name="table">The table.</param>
    /// <param name="circuit">The table's circuit, or that circuit with the paths a fault lays.</param>
    /// <param name="tolerance">How near values must come to rest.</param>
    /// <param name="sound">Runner of the sound machine on the same draws, where windings carry about what they will here.</param>
    public CaseRunner(PredictionTable table, Circuit circuit, double tolerance, CaseRunner? sound = null)
    {
        this.sound = sound;
        this.table = table;
        this.circuit = circuit;
        this.tolerance = tolerance;
        state = new CircuitState(circuit) { Tolerance = tolerance, FollowsWaves = table.FollowsWaves };
        rest = circuit.Setting(null);
        before = table.Duty.From is { } from ? circuit.Setting(from) : null;
        load = circuit.DeviceOf(table.Duty.Load);
        control = table.Duty.Control is { } commands ? circuit.DeviceOf(commands) : null;
        lamps = [.. table.Lamps.Select(circuit.DeviceOf)];
        kills = [.. table.Circuit.Topology.KillWiring];
        values = new double[circuit.Parameters.Count];
        opened = new double[values.Length];
        (off, batteries, tested) = (table.Off, table.Batteries, table.Tested);
        if (circuit.LaysThrough)
        {
            off =
            [
                .. table.Conditions.Select(
                    (c, i) =>
                        off[i]
                            .Concat(
                                c.Off.SelectMany(o => o.Coupling is { } coupling ? circuit.LaidThrough(coupling) : [])
                            )
                            .ToArray()
                ),
            ];
        }

        meterLoad = new MeterLoad(circuit, table.Meter.Input);
        stood = new CircuitState?[table.Conditions.Count];
        (tried, spare) = (new Snapshot(circuit), new Snapshot(circuit));
        asTried = [.. Enumerable.Range(0, table.Conditions.Count).Where(AsTried)];
    }

    /// <summary>Whether a condition is where things stand once the duty has been tried: its own, or on another range.</summary>
    private bool AsTried(int condition)
    {
        var (wanted, duty) = (table.Conditions[condition], table.Conditions[0]);
        if (condition == 0)
        {
            return wanted.IsFree;
        }

        return wanted.Observable is AlternatingVolts
            && wanted.Off.Count == 0
            && wanted.Speed == duty.Speed
            && wanted.Setting.Equals(duty.Setting);
    }

    /// <summary>The state last solved.</summary>
    public CircuitState State => state;

    /// <summary>
    /// Solves all particles of one hypothesis. One that does its duty whatever its severity is not a suspect for this
    /// complaint: it keeps no predictions and is taken for the sound machine.
    /// </summary>
    public Hypothesis Predict(Fault? fault, ParticleDraws draws, Hypothesis? healthy)
    {
        var heard = new Heard[draws.Count];
        StandAfresh(draws);
        if (healthy is not null && Screened(fault, draws, healthy))
        {
            return healthy.Harmless(fault);
        }

        var shown = new Predictions(table);
        var first = Screen(draws);
        foreach (var p in first)
        {
            heard[p] = Try(fault, draws, p, draws.Severity(p), shown);
            VisitFrom(p, shown, []);
        }

        // All hypotheses share the draws: where the mildest, the worst and two between show what the sound machine shows,
        // the fault does not reach, and the sound machine's figures are its own.
        var reaches = Enumerable
            .Range(0, table.Conditions.Count)
            .Select(c => c == 0 || healthy is null || !Array.TrueForAll(first, p => healthy.Shows(shown, c, p)))
            .ToArray();
        foreach (var p in Enumerable.Range(0, draws.Count).Except(first))
        {
            heard[p] = Try(fault, draws, p, draws.Severity(p), shown);
        }

        if (healthy?.IsLike(heard) == true)
        {
            return healthy.Harmless(fault);
        }

        var (severities, mass) = Gathered(fault, draws, healthy, heard, shown);
        for (var p = 0; p < draws.Count; p++)
        {
            if (!first.Contains(p) || severities[p] != draws.Severity(p))
            {
                VisitFrom(p, shown, reaches);
            }
        }

        healthy?.Lend(shown, reaches);
        return new Hypothesis(fault, shown, heard, mass) { Severities = severities };
    }

    /// <summary>
    /// The same hypothesis on the same machines with other severities, each standing for as much as it is told: what it
    /// reached before it reaches now.
    /// </summary>
    public Hypothesis Again(
        Hypothesis before,
        ParticleDraws draws,
        Hypothesis healthy,
        double[] severities,
        double[] mass
    )
    {
        var reaches = before.Reaches(healthy, table.Conditions.Count);
        var (shown, heard) = Visited(before.Fault, draws, p => severities[p], reaches);
        healthy.Lend(shown, reaches);
        return new Hypothesis(before.Fault, shown, heard, mass) { Severities = severities };
    }

    /// <summary>A fault's figures in every condition, whether it gives the complaint or not.</summary>
    public Hypothesis Planted(Fault fault, ParticleDraws draws)
    {
        var (shown, heard) = Visited(fault, draws, draws.Severity, []);
        return new Hypothesis(fault, shown, heard);
    }

    /// <summary>Every particle tried and followed into the conditions that are reached; all of them for none named.</summary>
    private (Predictions Shown, Heard[] Heard) Visited(
        Fault? fault,
        ParticleDraws draws,
        Func<int, double> severity,
        bool[] reaches
    )
    {
        var shown = new Predictions(table);
        var heard = new Heard[draws.Count];
        StandAfresh(draws);
        for (var p = 0; p < draws.Count; p++)
        {
            heard[p] = Try(fault, draws, p, severity(p), shown);
            VisitFrom(p, shown, reaches);
        }

        return (shown, heard);
    }

    private void StandAfresh(ParticleDraws draws)
    {
        Array.Clear(stood);
        if (stands.Length != draws.Count)
        {
            // Made as they are tried: most faults that lay a path are screened before that.
            stands = new Snapshot[draws.Count];
        }
    }

    /// <summary>One particle's duty tried, what stands then noted, and kept to go on from; what is heard.</summary>
    private Heard Try(Fault? fault, ParticleDraws draws, int particle, double severity, Predictions shown)
    {
        tried = stands[particle] ??= new Snapshot(circuit);
        carriedIn = sound?.stands[particle];
        var heard = Begin(fault, draws.Parameters(particle), severity);
        NoteAsTried(particle, shown);
        return heard;
    }

    private void NoteAsTried(int particle, Predictions shown)
    {
        foreach (var c in asTried)
        {
            shown.Chatters[c][particle] = settled == Settlement.Chatters;
            Note(shown, c, particle);
        }
    }

    /// <summary>Goes on from where one particle's duty was tried into every other condition that the fault reaches.</summary>
    private void VisitFrom(int particle, Predictions shown, bool[] reaches)
    {
        tried = stands[particle];
        tried.Parameters.CopyTo(values, 0);
        standsDead = -1;
        for (var c = 0; c < table.Conditions.Count; c++)
        {
            if (table.HasFigures(c) && !asTried.Contains(c) && (reaches.Length == 0 || reaches[c]))
            {
                shown.Chatters[c][particle] = Visit(c) == Settlement.Chatters;
                Note(shown, c, particle);
            }
        }
    }

    /// <summary>Starts a case and tries the duty; what is heard.</summary>
    public Heard Begin(Fault? fault, ReadOnlySpan<double> parameters, double severity)
    {
        circuit.NominalTail(parameters.Length, values);
        parameters.CopyTo(values);
        table.ApplyAlterations(values);
        if (fault is not null)
        {
            circuit.Plant(fault, fault.Severity.At(severity), values);
        }

        return TryDuty();
    }

    /// <summary>The same with any number of faults at once.</summary>
    public Heard Begin(IEnumerable<PlantedFault> planted, ReadOnlySpan<double> parameters)
    {
        circuit.NominalTail(parameters.Length, values);
        parameters.CopyTo(values);
        table.ApplyAlterations(values);
        foreach (var (fault, fraction) in planted)
        {
            circuit.Plant(fault, fault.Severity.At(fraction), values);
        }

        return TryDuty();
    }

    /// <summary>Goes back to rest and into a condition.</summary>
    public Settlement Visit(int condition)
    {
        var wanted = table.Conditions[condition];
        if (condition == 0 && wanted.IsFree)
        {
            TryDuty();
            return settled;
        }

        if (wanted.IsReadPairByPair)
        {
            // Read pair by pair, with the meter, lead or bulb in the circuit.
            return Settlement.Settled;
        }

        if (wanted.Off.Count > 0 || wanted.Tester != SparkTesterAt.Nowhere)
        {
            Open(condition);
            state.Begin(opened);
        }
        else
        {
            // From where the duty left things, whatever was visited since: a fuse blown on the way is not everyone's.
            state.Back(tried);
        }

        SetSpeed(DutySpeed.Rest);
        state.Move(rest);
        return MoveAt(wanted.Speed, wanted.Setting);
    }

    private Heard TryDuty()
    {
        state.Begin(values);
        if (table.FollowsWaves && carriedIn is not null)
        {
            state.CarryOn(carriedIn);
        }

        if (before is { } stoodBefore)
        {
            MoveAt(table.Duty.Speed, stoodBefore);
        }

        var settlement = MoveAt(table.Duty.Speed, table.Conditions[0].Setting);
        state.Mark(tried);
        settled = settlement;
        return Hearing.Of(table, state, settlement);
    }

    /// <summary>
    /// Moves the controls and turns the engine. Where its waves must be followed, controls first, as an engine is started:
    /// relays and lamps are then near their rest before the first wave.
    /// </summary>
    private Settlement MoveAt(DutySpeed speed, ControlSetting setting)
    {
        if (table.FollowsWaves && speed != DutySpeed.Rest)
        {
            SetSpeed(DutySpeed.Rest);
            state.Move(setting);
        }

        SetSpeed(speed);
        return state.Move(setting);
    }

    private void SetSpeed(DutySpeed speed)
    {
        state.SetSpeeds(speed);
    }

    /// <summary>Parameters with what the condition wants off taken off; for ohms, the batteries too.</summary>
    private void Open(int condition)
    {
        values.CopyTo(opened, 0);
        foreach (var parameter in off[condition])
        {
            opened[parameter.Index] = double.PositiveInfinity;
        }

        foreach (var replaced in tested[(int)table.Conditions[condition].Tester])
        {
            opened[replaced.Index] = circuit.Parameters[replaced.Index].Nominal;
        }

        foreach (var parameter in table.Conditions[condition].Observable.WantsDeadCircuit ? batteries : [])
        {
            opened[parameter.Index] = double.PositiveInfinity;
        }
    }
}
