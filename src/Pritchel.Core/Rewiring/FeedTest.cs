using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>
/// A bulb of two amps from a node to ground, in the settings near rest and in a machine's duties': what lights it feeds
/// something. What comes through a lamp, a gauge or a coil is pulled down by it, and is a signal.
/// </summary>
internal sealed class FeedTest
{
    private const double LitShare = 0.75;

    private readonly Circuit circuit;
    private readonly Part? battery;
    private readonly ControlSetting rest;

    public FeedTest(Circuit circuit, IEnumerable<Duty> duties)
    {
        (this.circuit, rest) = (circuit, circuit.Setting(null));
        battery = circuit.PartsThat(PartTraits.StoresCharge).FirstOrDefault();
        Settings = [.. circuit.SettingsTried(duties)];
        var trial = new Trial(circuit);
        Cranking = Enumerable.Range(0, Settings.Count).Where(s => trial.Cranks(Settings[s])).ToHashSet();
    }

    /// <summary>Settings it is held in, by number.</summary>
    public IReadOnlyList<ControlSetting> Settings { get; }

    /// <summary>Those in which a starter turns.</summary>
    public IReadOnlySet<int> Cranking { get; }

    /// <summary>Settings in which the bulb is lit at a node.</summary>
    /// <param name="node">The node.</param>
    /// <param name="off">Wire's end that is off what it is joined to, all else as it was; null for none.</param>
    public HashSet<int> LitIn(int node, WireEndId? off = null)
    {
        if (battery is null || node == circuit.Reference)
        {
            return [];
        }

        var values = circuit.NominalParameters();
        foreach (
            var parameter in off is { } end ? circuit.Opening.Of(end, circuit.Machine.Index.TerminalOf(end)!.Value) : []
        )
        {
            values[parameter.Index] = double.PositiveInfinity;
        }

        var state = new CircuitState(circuit, circuit.WithMeter(node, circuit.Reference))
        {
            FollowsWaves = false,
            Tolerance = DutyWaves.BeliefTolerance,
        };
        var (plus, minus) = (circuit.NodeOf(battery.At("+")), circuit.NodeOf(battery.At("-")));
        var lit = new HashSet<int>();
        for (var s = 0; s < Settings.Count; s++)
        {
            state.Begin(values);
            state.ConnectMeter(0, Jump.BulbOhms);
            state.Move(rest);
            state.Move(Settings[s]);
            if (state.Drop(node, circuit.Reference) > LitShare * state.Drop(plus, minus))
            {
                lit.Add(s);
            }
        }

        return lit;
    }
}
