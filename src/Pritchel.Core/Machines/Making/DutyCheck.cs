using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Machines.Making;

/// <summary>Whether a machine as drawn does what it says it should, found by solving it sound.</summary>
public static class DutyCheck
{
    private const double DullShare = 0.75;

    /// <summary>Whether the sound machine does a duty in the duty's setting.</summary>
    public static bool Does(Circuit circuit, Duty duty)
    {
        var state = Settled(circuit, duty);
        var sign = circuit.DeviceOf(duty.Load).Effect(state);
        return sign.Kind switch
        {
            EffectKind.Turns or EffectKind.Glows or EffectKind.Works or EffectKind.Sounds => sign.Level >= DullShare,
            EffectKind.None => true,
            _ => sign.Level > 0,
        };
    }

    /// <summary>What a machine still lacks: the validator's problems, or else duties that it does not do as drawn.</summary>
    public static IReadOnlyList<MachineProblem> Lacks(Machine machine)
    {
        var problems = MachineValidator.Check(machine);
        if (problems.Count > 0)
        {
            return problems;
        }

        var circuit = Circuit.Compile(machine);
        return
        [
            .. machine
                .Duties.Select((duty, i) => (Duty: duty, Index: i))
                .Where(d => !Does(circuit, d.Duty))
                .Select(d => new MachineProblem(
                    $"/duties/{d.Index}",
                    $"As drawn, the sound machine does not do “{d.Duty.Name}” in its setting ({Setting(machine, d.Duty)}). Change the wiring, or the setting."
                        + Why(circuit, d.Duty),
                    Unfinished: true
                )),
        ];
    }

    private static string Setting(Machine machine, Duty duty) =>
        duty.Setting.Count == 0
            ? "everything at rest"
            : string.Join(
                ", ",
                duty.Setting.Select(s => $"{machine.Index.Control(s.Key)?.Name ?? s.Key.Text} {s.Value}")
            );

    private static string Why(Circuit circuit, Duty duty) =>
        circuit.DeviceOf(duty.Load).WhyNot(Settled(circuit, duty)) is { } why ? " " + why : "";

    private static CircuitState Settled(Circuit circuit, Duty duty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        state.Move(circuit.Setting(duty.Setting));
        return state;
    }
}
