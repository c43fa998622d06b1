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
    private readonly Dictionary<(int, int), CircuitState> metered = [];
    private readonly CircuitState running;
    private readonly double[] dead;
    private (Machines.DutySpeed Speed, ControlSetting Setting)? turned;

    /// <summary>For a circuit of the sheet's rig, with the paths that its faults lay.</summary>
    public SheetSolver(Circuit circuit, IReadOnlyList<SheetReading> readings)
    {
        (this.circuit, this.readings) = (circuit, readings);
        pairs = [.. readings.Select(r => (circuit.NodeOf(r.Red), circuit.NodeOf(r.Black)))];
        settings = [.. readings.Select(r => circuit.Setting(r.Setting))];
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
            figures[r] = readings[r].Observable switch
            {
                // A coil is fed while the ohms of its contacts are read: its supply stays on.
                DeadOhms => Ohms(r, values, meter) is var ohms && ohms + leadOhms < meter.OhmsRanges[^1]
                    ? ohms + leadOhms
                    : double.PositiveInfinity,
                Beep => Beep.Of(meter, Ohms(r, values, meter)),
                DiodeVolts => Diode(r, meter),
                AlternatingVolts => Alternating(r, values),
                PeakVolts => Peak(r, values),
                _ => Volts(r, values, meter),
            };
        }

        return figures;
    }

    private double Ohms(int reading, double[] values, Meter meter)
    {
        var source = meter.OhmsSource.Value;
        var volts = Metered(reading, IsFed(reading) ? values : dead, source, OhmsInside);
        return volts >= source ? double.PositiveInfinity : Math.Max(0, volts / ((source - volts) / OhmsInside));
    }

    private bool IsFed(int reading) =>
        readings[reading].Setting.TryGetValue(BenchMachine.Fed, out var position) && position.Text == "fed";

    private double Diode(int reading, Meter meter)
    {
        var volts = Metered(reading, dead, meter.DiodeSource.Value, meter.DiodeInside.Value);
        return Math.Abs(volts) > Bench.MostDiodeVolts ? double.PositiveInfinity : volts;
    }

    private double Volts(int reading, double[] values, Meter meter) => Metered(reading, values, 0, meter.Input.Value);

    private double Metered(int reading, double[] values, double emf, double ohms)
    {
        var pair = pairs[reading];
        if (!metered.TryGetValue(pair, out var state))
        {
            state = new CircuitState(circuit, circuit.WithMeter(pair.Red, pair.Black));
            metered.Add(pair, state);
        }

        state.Begin(values);
        state.ConnectMeter(emf, ohms);
        state.Move(settings[reading]);
        return state.Drop(pair.Red, pair.Black);
    }

    private double Alternating(int reading, double[] values)
    {
        // One turn is looked at from all pairs.
        if (turned is not { } last || last.Speed != readings[reading].Speed || !last.Setting.Equals(settings[reading]))
        {
            Turn(reading, values);
            turned = (readings[reading].Speed, settings[reading]);
        }

        return running.Alternating(pairs[reading].Red, pairs[reading].Black);
    }

    private double Peak(int reading, double[] values)
    {
        Turn(reading, values);
        turned = null;
        return running.Fire(pairs[reading].Red, pairs[reading].Black);
    }

    private void Turn(int reading, double[] values)
    {
        running.Begin(values);
        running.SetSpeeds(readings[reading].Speed);
        running.Move(settings[reading]);
    }
}
