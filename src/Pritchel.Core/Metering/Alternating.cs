using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Metering;

/// <summary>AC volts and peaks, of an engine turned at a speed or by its starter.</summary>
internal static class Alternating
{
    // π/(2√2): what turns a sine's rectified mean into its r.m.s.
    private const double MeanToEffective = 1.1107207345395915;

    /// <summary>AC volts: direct volts are blocked; the reading fades with frequency.</summary>
    public static MeterDisplay Read(Case @case, Meter meter, int red, int black, double? range)
    {
        var (state, settlement) = Turned(@case, meter, red, black);
        var volts = meter.TrueRms ? state.Alternating(red, black) : state.RectifiedMean(red, black) * MeanToEffective;
        var faded = state.WaveHertz / meter.AcFadesAt.Value;
        return MeterDisplay.OfVolts(
            meter,
            new Volts(volts / Math.Sqrt(1 + (faded * faded))),
            settlement == Settlement.Chatters,
            range,
            alternating: true
        );
    }

    /// <summary>Peak volts through the adapter, of charge windings' waves and of ignition windings alike.</summary>
    public static MeterDisplay ReadPeak(Case @case, Meter meter, int red, int black, double? range)
    {
        var (state, settlement) = Turned(@case, meter, red, black);
        var peak = Math.Max(state.Peak(red, black), state.Fire(red, black));
        return MeterDisplay.OfVolts(
            meter,
            new Volts(peak),
            settlement == Settlement.Chatters,
            range,
            alternating: true
        );
    }

    private static (CircuitState State, Settlement Settlement) Turned(Case @case, Meter meter, int red, int black)
    {
        var (state, settlement) = Bench.Connected(@case, red, black, 0, meter.Input.Value);
        return (state, state.FollowStarters(settlement));
    }
}
