using Pritchel.Core.Circuits;
using Pritchel.Core.Reference;
using Pritchel.Core.Units;

namespace Pritchel.Core.Meters;

/// <summary>
/// A test lamp between two points. It loads the circuit, which is its use; its own filament is nonlinear, so the circuit
/// is solved with it until its resistance and its volts agree. Never on a kill wire: a magneto's hundreds of volts come
/// back through it.
/// </summary>
internal static class TestLamp
{
    private const double RatedVolts = 12;
    private const double KillOhms = 50;
    private const int MostRounds = 100;

    public static MeterDisplay Read(Case @case, Meter meter, int red, int black)
    {
        if (OnKillWire(@case, red) || OnKillWire(@case, black))
        {
            return MeterDisplay.Refused(
                "Never a test lamp on a kill wire: running, it carries hundreds of volts, and fed it ruins the coil. Use ohms, with the wire off at the coil."
            );
        }

        var hot = RatedVolts / meter.TestLamp.Value;
        var (ohms, settlement, state) = (
            hot,
            Settlement.Settled,
            new CircuitState(@case.Circuit, @case.Circuit.WithMeter(red, black))
        );
        for (var round = 0; round < MostRounds; round++)
        {
            settlement = Bench.Settle(state, @case, 0, ohms);
            var share = Math.Abs(state.Drop(red, black)) / RatedVolts;
            var next = hot * Filament.OhmsShare(share);
            if (Math.Abs(next - ohms) < 1e-9 * ohms)
            {
                break;
            }

            ohms = next;
        }

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
        var state = new CircuitState(@case.Circuit, @case.Circuit.WithMeter(lead.Kill, node));
        var values = @case.FaultyParameters();
        lead.Unwound.Apply(values, 1);
        state.Begin(values);
        state.ConnectMeter(0, double.PositiveInfinity);
        foreach (var setting in @case.Settings)
        {
            state.Move(setting);
        }

        // A kill wire that a switch holds to ground is ground, and so is everything else that is.
        return state.Joined(lead.Kill, lead.Ground) ? double.PositiveInfinity : state.OhmsAtMeter();
    }
}
