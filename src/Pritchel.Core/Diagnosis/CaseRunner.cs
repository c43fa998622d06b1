using Pritchel.Core.Circuits;
using Pritchel.Core.Faults;
using Pritchel.Core.Reference;

namespace Pritchel.Core.Diagnosis;

/// <summary>Solves particles of a hypothesis: tries the duty once, then visits every condition from rest.</summary>
internal sealed class CaseRunner
{
    private const double SlowShare = 0.75;

    private readonly PredictionTable table;
    private readonly CircuitState state;
    private readonly ControlSetting rest;
    private readonly Device load;
    private readonly Device? control;
    private readonly Device[] lamps;
    private readonly double[] values;
    private Settlement settled;

    public CaseRunner(PredictionTable table, double tolerance)
    {
        this.table = table;
        var circuit = table.Circuit;
        state = new CircuitState(circuit) { Tolerance = tolerance };
        rest = circuit.Setting(null);
        load = circuit.DeviceOf(table.Duty.Load);
        control = table.Duty.Control is null ? null : circuit.DeviceOf(table.Duty.Control);
        lamps = [.. table.Lamps.Select(circuit.DeviceOf)];
        values = new double[circuit.Parameters.Count];
    }

    /// <summary>
    /// Solves all particles of one hypothesis. One that does its duty whatever its severity is not a suspect for this
    /// complaint: it borrows the sound machine's lamps and keeps no volts.
    /// </summary>
    public Hypothesis Predict(Fault? fault, ParticleDraws draws, Hypothesis? healthy)
    {
        var heard = new Heard[draws.Count];
        for (var p = 0; p < draws.Count; p++)
        {
            heard[p] = Begin(fault, draws.Parameters(p), draws.Severity(p));
        }

        if (healthy is not null && Hypothesis.Does(heard))
        {
            return healthy.AsHarmless(fault!, heard);
        }

        var (conditions, nodes, count) = (table.Conditions.Count, table.Circuit.Network.NodeCount, draws.Count);
        var volts = new float[conditions][];
        var glows = new float[conditions][];
        var chatters = new bool[conditions][];
        for (var c = 0; c < conditions; c++)
        {
            volts[c] = new float[nodes * count];
            glows[c] = new float[lamps.Length * count];
            chatters[c] = new bool[count];
        }

        for (var p = 0; p < count; p++)
        {
            Begin(fault, draws.Parameters(p), draws.Severity(p));
            for (var c = 0; c < conditions; c++)
            {
                chatters[c][p] = Visit(c) == Settlement.Chatters;
                Note(volts[c], glows[c], p, count);
            }
        }

        return new Hypothesis(fault, volts, glows, heard, chatters);
    }

    private void Note(float[] volts, float[] glows, int particle, int count)
    {
        var reference = table.Circuit.Reference;
        for (var n = 0; n < table.Circuit.Network.NodeCount; n++)
        {
            volts[(n * count) + particle] = state.Joined(n, reference) ? (float)state.Drop(n, reference) : float.NaN;
        }

        for (var l = 0; l < lamps.Length; l++)
        {
            glows[(l * count) + particle] = (float)lamps[l].Sign(state).Level;
        }
    }

    /// <summary>Starts a case and tries the duty; what is heard.</summary>
    public Heard Begin(Fault? fault, ReadOnlySpan<double> parameters, double severity)
    {
        parameters.CopyTo(values);
        table.ApplyBridges(values);
        fault?.Apply(values, fault.Severity.At(severity));
        state.Begin(values);
        return Listen(state.Move(table.Conditions[0].Setting));
    }

    /// <summary>Goes back to rest and into a condition.</summary>
    public Settlement Visit(int condition)
    {
        if (condition == 0)
        {
            // Already there: the duty was tried last.
            return settled;
        }

        state.Move(rest);
        return state.Move(table.Conditions[condition].Setting);
    }

    /// <summary>The state last solved.</summary>
    public CircuitState State => state;

    /// <summary>What is heard in the state now, if its last move settled so.</summary>
    private Heard Listen(Settlement settlement)
    {
        settled = settlement;
        var shown = load.Sign(state);
        if (settlement == Settlement.Chatters)
        {
            return Heard.Chatter;
        }

        if (shown.Kind == SignKind.Turns && shown.Level > 0)
        {
            return shown.Level >= SlowShare ? Heard.Works : Heard.Slow;
        }

        if (shown.Kind == SignKind.Glows)
        {
            return shown.Level >= Filament.BrightFrom ? Heard.Works : Heard.Nothing;
        }

        if (shown.Kind == SignKind.Works && shown.Level >= 1)
        {
            return Heard.Works;
        }

        return control?.Sign(state).Level > 0 ? Heard.OneClick : Heard.Nothing;
    }
}
