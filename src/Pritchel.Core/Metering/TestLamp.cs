using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>
/// A test lamp between two points. It loads the circuit, which is its use; its own filament is nonlinear, so the circuit
/// is solved with it until its resistance and its volts agree. Never on a kill wire: a magneto's hundreds of volts come
/// back through it.
/// </summary>
internal static class TestLamp
{
    private const double RatedVolts = 12;
    private const double KillOhms = 50;

    public static MeterDisplay Read(Case @case, Meter meter, int red, int black)
    {
        if (
            @case.Circuit.KillLeads.Count > 0
            && KillWiring(@case) is var kill
            && (kill.Contains(red) || kill.Contains(black))
        )
        {
            return MeterDisplay.Refused(
                "Never a test lamp on a kill wire: running, it carries hundreds of volts, and fed it ruins the coil. Use ohms, with the wire off at the coil."
            );
        }

        var hot = RatedVolts / meter.TestLamp.Value;
        var wired = @case.Wired;
        var (settlement, state) = (Settlement.Settled, new CircuitState(wired, wired.WithMeter(red, black)));
        Filament.ShareOf(
            hot,
            ohms =>
            {
                settlement = @case.Settle(state, () => state.ConnectMeter(0, ohms));
                return Math.Abs(state.Drop(red, black)) / RatedVolts;
            }
        );
        var volts = state.Drop(red, black);
        var lit = Math.Abs(volts) / RatedVolts;
        var look =
            lit >= Filament.BrightFrom ? "bright"
            : lit >= Filament.GlowsFrom ? "dim"
            : "out";
        return new MeterDisplay(
            volts,
            $"{look} ({Engineering.Reading(new Volts(volts))})",
            null,
            settlement == Settlement.Chatters
        );
    }

    /// <summary>
    /// What ignition's volts may stand on: the kill wires' own metal whatever the switches do, past diodes too, and what
    /// contacts, strays and shorts join to it as things stand. What a switch holds to ground is ground beyond that switch.
    /// Metal is followed, not leakage: a blocking diode's microamp joins nothing.
    /// </summary>
    private static HashSet<int> KillWiring(Case @case)
    {
        var circuit = @case.Circuit;
        var structural = circuit.Topology.KillWiring;

        // Judged with the engine at rest and the coils' own windings out: what is joined does not depend on its turning.
        var unwound = @case with
        {
            Faults = [.. @case.Faults, .. circuit.KillLeads.Select(l => new PlantedFault(l.Unwound, 1))],
            Speeds = new Dictionary<EngineId, Rpm>(),
        };
        var state = new CircuitState(unwound.Wired);
        unwound.Settle(state);
        var joins = NodeLinks.Both(Joins(state));
        var ground = NodeLinks.Reached(circuit.KillLeads.Select(l => l.Ground).Append(circuit.Reference), joins);
        var live = NodeLinks.Reached(
            circuit.KillLeads.Select(l => l.Kill).Where(k => !ground.Contains(k)),
            joins,
            ground
        );
        live.UnionWith(structural);
        return live;
    }

    /// <summary>Nodes that something of few ohms, or a diode, joins.</summary>
    private static IEnumerable<(int A, int B)> Joins(CircuitState state)
    {
        var circuit = state.Circuit;
        var metal = circuit
            .Network.Branches.Select((b, i) => (b.From, b.To, Siemens: state.Conductances[i]))
            .Where(b => b.Siemens > 1 / KillOhms)
            .Select(b => (b.From, b.To));
        var diodes = circuit
            .PartsThat(PartTraits.IsOneWay)
            .Select(p => (circuit.NodeOf(p.Addresses.First()), circuit.NodeOf(p.Addresses.Last())));
        return metal.Concat(diodes);
    }
}
