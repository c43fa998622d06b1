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
        if (OnKillWire(@case, red) || OnKillWire(@case, black))
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

    private static bool OnKillWire(Case @case, int node) =>
        @case.Circuit.KillLeads.Any(lead => lead.Kill != node ? OhmsBetween(@case, lead, node) < KillOhms : true);

    /// <summary>From a coil's kill terminal to a point, the coil's own winding left out, as the contacts stand.</summary>
    private static double OhmsBetween(Case @case, KillTerminal lead, int node)
    {
        // Judged with the engine at rest: what is joined does not depend on its turning.
        var unwound = @case with
        {
            Faults = [.. @case.Faults, new PlantedFault(lead.Unwound, 1)],
            Speeds = new Dictionary<EngineId, Rpm>(),
        };
        var (state, _) = Bench.Connected(unwound, lead.Kill, node, 0, double.PositiveInfinity);

        // A kill wire that a switch holds to ground is ground, and so is everything else that is.
        return state.Joined(lead.Kill, lead.Ground) ? double.PositiveInfinity : state.OhmsAtMeter();
    }
}
