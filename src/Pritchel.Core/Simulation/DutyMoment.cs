using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>The settings that a duty is moved through when it is tried.</summary>
public static class DutyMoment
{
    /// <summary>In order; the last is the duty's own.</summary>
    public static IReadOnlyList<ControlSetting> Settings(Circuit circuit, Duty duty) =>
        duty.From is { } from
            ? [circuit.Setting(from), circuit.Setting(duty.Setting)]
            : [circuit.Setting(duty.Setting)];

    /// <summary>Moves a state through them; how the last move settled.</summary>
    public static Settlement MoveThrough(this CircuitState state, Duty duty)
    {
        var settlement = Settlement.Settled;
        foreach (var setting in Settings(state.Circuit, duty))
        {
            settlement = state.Move(setting);
        }

        return settlement;
    }
}
