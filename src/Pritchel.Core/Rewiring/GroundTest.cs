using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>
/// A node laid on ground while the engine runs: what stops every spark so is a kill lead, where a switch sits on it, whatever
/// unit it belongs to. A pickup's lead does the same, and no switch does.
/// </summary>
internal sealed class GroundTest
{
    // A clip lead with its two contacts: from memory.
    private const double LeadOhms = 0.05;
    private const int MostMoved = 3;

    private readonly Circuit circuit;
    private readonly ControlSetting? sparking;

    public GroundTest(Circuit circuit)
    {
        this.circuit = circuit;
        var trial = new Trial(circuit);
        sparking = circuit.HasIgnition ? circuit.SettingsNearRest(MostMoved).FirstOrDefault(trial.Runs) : null;
    }

    /// <summary>Whether the engine, running, loses all its sparks with a node on ground.</summary>
    public bool Stops(int node)
    {
        if (sparking is null || node == circuit.Reference)
        {
            return false;
        }

        var state = new CircuitState(circuit, circuit.WithMeter(node, circuit.Reference)) { FollowsWaves = false };
        state.Begin(circuit.NominalParameters());
        state.ConnectMeter(0, LeadOhms);
        state.Move(circuit.Setting(null));
        state.SetSpeeds(DutySpeed.Work);
        return Outcome.Of(state, state.Move(sparking)).NoneSparks;
    }
}
