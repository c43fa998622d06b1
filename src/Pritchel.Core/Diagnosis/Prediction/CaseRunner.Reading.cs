using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Networks;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>What is read in a case that has been tried and visited.</summary>
internal sealed partial class CaseRunner : IPredictedCase
{
    private void Note(Predictions shown, int condition, int particle)
    {
        var wanted = table.Conditions[condition];
        if (wanted.Pairs is not { } pairs)
        {
            NoteVolts(shown, condition, particle);
            return;
        }

        var deadAs = table.DeadAs[condition];
        if (deadAs < 0 && wanted.IsReadPairByPair)
        {
            Open(condition);
        }

        if (deadAs >= 0 && standsDead != deadAs)
        {
            // An ohmmeter's half volt opens no diode and pulls no relay: what stands without it stands with it.
            Open(condition);
            dead ??= new DeadNetwork(circuit.Network);
            var standing = Standing(condition, wanted.Setting);
            dead.Stand(standing.Conductances, standing.SourceConductances);
            standsDead = deadAs;
        }

        figures = figures.Length < pairs.Count ? new double[pairs.Count] : figures;
        asked = wanted;
        wanted.Observable.Predict(this, pairs, figures.AsSpan(0, pairs.Count));
        for (var i = 0; i < pairs.Count; i++)
        {
            shown.Set(condition, i, particle, wanted.Observable.Scaled(figures[i]));
        }
    }

    /// <summary>
    /// A state with its batteries off in a setting. With nothing to drive it, no severity moves a relay: the first
    /// particle of a fault that is settled in a condition shows the others how it stands.
    /// </summary>
    private CircuitState Standing(int condition, ControlSetting setting)
    {
        if (stood[condition] is { } first)
        {
            still ??= new CircuitState(circuit);
            still.Begin(opened);
            still.StandAs(setting, first);
            return still;
        }

        var settling = new CircuitState(circuit) { Tolerance = tolerance };
        settling.Begin(opened);
        settling.Move(setting);
        return stood[condition] = settling;
    }

    Meter IPredictedCase.Meter => table.Meter;

    CircuitState IPredictedCase.State => state;

    Device IPredictedCase.Load => load;

    Jump? IPredictedCase.Jump => asked!.Jump;

    double IPredictedCase.DeadOhms(int red, int black) => dead!.Ohms(red, black);

    double IPredictedCase.WhileJoined(int from, int to)
    {
        // A bulb warms up from where it stands: only its first look begins afresh.
        var joined = Reading((from, to));
        joined.Begin(opened);
        return asked!.Jump!.Seen(
            joined,
            ohms =>
            {
                joined.ConnectMeter(0, ohms);
                return joined.Move(asked.Setting);
            },
            load,
            control,
            table.Meter
        );
    }

    double IPredictedCase.VoltsOf(int red, int black, double testVolts, double insideOhms)
    {
        var metering = Reading((red, black));
        metering.Begin(opened);
        metering.ConnectMeter(testVolts, insideOhms);
        metering.Move(asked!.Setting);
        return metering.Drop(red, black);
    }

    private CircuitState Reading((int Red, int Black) pair)
    {
        if (!metered.TryGetValue(pair, out var reading))
        {
            reading = new CircuitState(circuit, circuit.WithMeter(pair.Red, pair.Black)) { Tolerance = tolerance };
            metered.Add(pair, reading);
        }

        return reading;
    }

    private void NoteVolts(Predictions shown, int condition, int particle)
    {
        var reference = table.Circuit.Reference;
        meterLoad.Look(state);
        for (var n = 0; n < table.Circuit.Network.NodeCount; n++)
        {
            if (state.Joined(n, reference))
            {
                NoteJoined(shown, condition, n, particle);
                continue;
            }

            var (island, anchor) = meterLoad.IslandOf(n);
            shown.Set(condition, n, particle, Across.Afloat(island, state.Drop(n, anchor)));
        }

        for (var l = 0; l < lamps.Length; l++)
        {
            shown.Glows[condition][(l * table.Particles) + particle] = (float)lamps[l].Effect(state).Level;
        }
    }

    /// <summary>
    /// Whether an ignition's pulses stand at a node: it is of a kill lead, or closed contacts join it to one that is not grounded.
    /// </summary>
    private bool Pulses(int node)
    {
        const double NotGroundVolts = 1;
        const double JoinedVolts = 0.05;
        if (table.Circuit.Topology.KillWiring.Contains(node))
        {
            return true;
        }

        if (Math.Abs(state.Drop(node, table.Circuit.Reference)) > NotGroundVolts)
        {
            foreach (var kill in kills)
            {
                if (Math.Abs(state.Drop(node, kill)) < JoinedVolts)
                {
                    return true;
                }
            }
        }

        return false;
    }

    /// <summary>
    /// Open volts of a node, and how it gives way to a meter; not a number where only the meter's own load
    /// decides what a diode lets through of a wave, nor where an ignition's pulses stand: what a meter makes of hundreds of
    /// volts that last some microseconds is its own affair.
    /// </summary>
    private void NoteJoined(Predictions shown, int condition, int node, int particle)
    {
        const double NothingVolts = 0.05;
        var volts = state.Drop(node, table.Circuit.Reference);
        var how = meterLoad.Of(node);
        var known =
            !(table.Conditions[condition].Speed != DutySpeed.Rest && Pulses(node))
            && (
                how.Share >= 1
                || !state.IsAveraged
                || (state.Steady(node, table.Circuit.Reference) && Math.Abs(volts) > NothingVolts)
            );
        shown.Set(condition, node, particle, known ? volts : double.NaN);
        if (known && how.Share < 1)
        {
            shown.SetHanging(condition, node, particle, how);
        }
    }
}
