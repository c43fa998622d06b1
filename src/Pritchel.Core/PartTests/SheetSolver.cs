using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests;

/// <summary>Solves one part on its bench for what each reading of its sheet shows.</summary>
public sealed class SheetSolver
{
    private const double OhmsInside = 1000;

    private readonly Circuit circuit;
    private readonly IReadOnlyList<SheetReading> readings;
    private readonly (int Red, int Black)[] pairs;
    private readonly ControlSetting[] settings;
    private readonly ControlSetting?[] from;
    private readonly ControlSetting rest;
    private readonly Device tested;
    private readonly bool chargesAtSpeed;
    private readonly Dictionary<(int, int), CircuitState> metered = [];
    private readonly CircuitState running;
    private readonly double[] dead;
    private readonly Dictionary<(Machines.DutySpeed, ControlSetting), Snapshot> turns = [];
    private (Machines.DutySpeed Speed, ControlSetting Setting)? turned;

    /// <summary>For a circuit of the sheet's rig, with the paths that its faults lay.</summary>
    public SheetSolver(Circuit circuit, IReadOnlyList<SheetReading> readings)
    {
        (this.circuit, this.readings) = (circuit, readings);
        pairs = [.. readings.Select(r => (circuit.NodeOf(r.Red), circuit.NodeOf(r.Black)))];
        settings = [.. readings.Select(r => circuit.Setting(r.Setting))];
        from = [.. readings.Select(r => r.From is { } before ? circuit.Setting(before) : null)];
        rest = circuit.Setting(null);
        chargesAtSpeed = readings.Any(r => r.Speed != Machines.DutySpeed.Rest && !r.Observable.Alternates);
        tested = circuit.DeviceOf(circuit.Machine.Parts[0].Id);
        running = new CircuitState(circuit) { Tolerance = DutyWaves.BeliefTolerance };
        dead = new double[circuit.Parameters.Count];
    }

    /// <summary>Figures in each reading's unit: infinite for OL.</summary>
    /// <param name="values">The part's parameters, faults applied.</param>
    /// <param name="meter">The meter.</param>
    /// <param name="leadOhms">Ohms of the leads that are in every ohms reading.</param>
    public double[] Solve(double[] values, Meter meter, double leadOhms)
    {
        var figures = new double[readings.Count];
        values.CopyTo(dead, 0);
        foreach (var battery in circuit.Opening.Batteries)
        {
            dead[battery.Index] = double.PositiveInfinity;
        }

        turned = null;
        for (var r = 0; r < figures.Length; r++)
        {
            figures[r] = readings[r].IsNoted
                ? 0
                : readings[r].Observable.OnBench(new Standing(this, r, values, meter, leadOhms));
        }

        return figures;
    }

    private double Ohms(int reading, double[] values, Meter meter)
    {
        var source = meter.OhmsSource.Value;
        var volts = Metered(reading, IsFed(reading) ? values : dead, source, OhmsInside);
        return volts >= source ? double.PositiveInfinity : Math.Max(0, volts / ((source - volts) / OhmsInside));
    }

    private bool IsFed(int reading) => IsFed(readings[reading].Setting) || IsFed(readings[reading].From);

    private static bool IsFed(IReadOnlyDictionary<Identity.ControlId, Identity.PositionId>? setting) =>
        setting is not null && setting.TryGetValue(BenchMachine.Fed, out var position) && position.Text == "fed";

    private double Metered(int reading, double[] values, double emf, double ohms)
    {
        var pair = pairs[reading];
        if (!metered.TryGetValue(pair, out var state))
        {
            state = new CircuitState(circuit, circuit.WithMeter(pair.Red, pair.Black)) { FollowsWaves = false };
            metered.Add(pair, state);
        }

        state.Begin(values);
        state.SetSpeeds(readings[reading].Speed);
        state.ConnectMeter(emf, ohms);
        Set(reading, state);
        return state.Drop(pair.Red, pair.Black);
    }

    /// <summary>Moves to a reading's setting, from where it comes and for as long as it is waited for.</summary>
    private void Set(int reading, CircuitState state)
    {
        if (from[reading] is { } before)
        {
            state.Move(before);
        }

        state.Move(settings[reading]);
        if (readings[reading].Wait > TimeSpan.Zero)
        {
            state.Elapse(readings[reading].Wait.TotalSeconds);
        }
    }

    /// <summary>What flows out of all batteries, or into them.</summary>
    private double BatteryAmps(int reading, double[] values)
    {
        running.Begin(values);
        turned = null;
        Set(reading, running);
        return Math.Abs(Outcome.Of(running, Settlement.Settled).Charges.Values.Sum());
    }

    /// <summary>What the part does once it is fed that it did not before: 0 nothing, 1 weakly, 2 as it should.</summary>
    private double Acts(int reading, double[] values)
    {
        const double Weak = 0.15;
        const double Well = 0.8;
        running.Begin(values);
        turned = null;
        running.Move(rest);
        var before = tested.Effect(running).Level;
        Set(reading, running);
        return Math.Abs(tested.Effect(running).Level - before) switch
        {
            >= Well => 2,
            >= Weak => 1,
            _ => 0,
        };
    }

    private double Mean(int reading, double[] values)
    {
        TurnOnce(reading, values);
        return running.Drop(pairs[reading].Red, pairs[reading].Black);
    }

    private double Alternating(int reading, double[] values)
    {
        TurnOnce(reading, values);
        return running.Alternating(pairs[reading].Red, pairs[reading].Black);
    }

    /// <summary>One turn is looked at from all pairs.</summary>
    private void TurnOnce(int reading, double[] values)
    {
        if (turned is not { } last || last.Speed != readings[reading].Speed || !last.Setting.Equals(settings[reading]))
        {
            Turn(reading, values);
            turned = (readings[reading].Speed, settings[reading]);
        }
    }

    private double Peak(int reading, double[] values)
    {
        Turn(reading, values);
        turned = null;
        return running.Fire(pairs[reading].Red, pairs[reading].Black);
    }

    private double Sparks(int reading, double[] values)
    {
        Turn(reading, values);
        turned = null;
        running.Fire();
        return SparkSeen.Of(tested.Effect(running).Level);
    }

    private void Turn(int reading, double[] values)
    {
        // With nothing but open windings turning, the bench's battery is only one more thing to settle.
        running.Begin(chargesAtSpeed ? values : dead);
        var key = (readings[reading].Speed, settings[reading]);
        if (turns.TryGetValue(key, out var like))
        {
            running.CarryOn(like);
        }

        running.SetSpeeds(readings[reading].Speed);
        running.Move(settings[reading]);
        if (like is null)
        {
            running.Mark(turns[key] = new Snapshot(circuit));
        }
    }

    /// <summary>One reading, as its observable takes it.</summary>
    private sealed class Standing(SheetSolver bench, int reading, double[] values, Meter meter, double leadOhms)
        : IBenchCase
    {
        public Meter Meter => meter;

        public double LeadOhms => leadOhms;

        public bool Turns => bench.readings[reading].Speed != Machines.DutySpeed.Rest;

        public double Ohms() => bench.Ohms(reading, values, meter);

        public double Volts(double emf, double ohms) => bench.Metered(reading, values, emf, ohms);

        public double DeadVolts(double emf, double ohms) => bench.Metered(reading, bench.dead, emf, ohms);

        public double MeanVolts() => bench.Mean(reading, values);

        public double AlternatingVolts() => bench.Alternating(reading, values);

        public double PeakVolts() => bench.Peak(reading, values);

        public double Sparks() => bench.Sparks(reading, values);

        public double BatteryAmps() => bench.BatteryAmps(reading, values);

        public double Does() => bench.Acts(reading, values);
    }
}
