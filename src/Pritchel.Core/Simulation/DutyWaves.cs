using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>How the part of a duty shows itself.</summary>
public static class DutyEffect
{
    /// <summary>Its kind, as everything stands at rest.</summary>
    public static EffectKind Of(Circuit circuit, Duty duty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        return circuit.DeviceOf(duty.Load).Effect(state).Kind;
    }
}

/// <summary>Whether a duty is done by the waves of charge windings.</summary>
public static class DutyWaves
{
    /// <summary>Relative change below which values count as settled where they are only believed, not drawn.</summary>
    public const double BeliefTolerance = 1e-4;

    /// <summary>Whether a duty is done by the waves of charge windings, rather than by an ignition or a battery at rest.</summary>
    public static bool Matter(Circuit circuit, Duty duty) =>
        circuit.WaveEngine >= 0
        && duty.Speed != DutySpeed.Rest
        && DutyEffect.Of(circuit, duty)
            is EffectKind.Charges
                or EffectKind.Works
                or EffectKind.Glows
                or EffectKind.Sounds
        && !(duty.Speed == DutySpeed.Crank && StandsStill(circuit, duty));

    /// <summary>The sound machine with a duty tried.</summary>
    public static CircuitState Tried(Circuit circuit, Duty duty, bool waves = true)
    {
        var state = new CircuitState(circuit) { FollowsWaves = waves };
        state.Begin(circuit.NominalParameters());
        state.SetSpeeds(duty.Speed);
        state.MoveThrough(duty);
        return state;
    }

    /// <summary>
    /// Whether charge windings leave the sound machine as it is at a duty's speed: too slow to overcome the battery, they
    /// change no volts that a meter shows as a mean.
    /// </summary>
    private static bool StandsStill(Circuit circuit, Duty duty)
    {
        const double NothingVolts = 0.05;
        var (still, waving) = (Tried(circuit, duty, waves: false), Tried(circuit, duty, waves: true));
        return Enumerable
            .Range(0, circuit.Network.NodeCount)
            .All(n => Math.Abs(still.Drop(n, circuit.Reference) - waving.Drop(n, circuit.Reference)) < NothingVolts);
    }
}
