using Pritchel.Core.Circuits;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis;

/// <summary>A setting in which readings are taken, after the duty has been tried once.</summary>
/// <param name="Setting">Positions of the controls.</param>
/// <param name="IsDuty">Whether this is the failing setting itself.</param>
/// <param name="MayTurnEngine">Whether a sound machine's engine would turn in it.</param>
/// <param name="Words">In words, for the test card.</param>
/// <param name="Held">Controls to be held.</param>
public sealed record Condition(
    ControlSetting Setting,
    bool IsDuty,
    bool MayTurnEngine,
    string Words,
    IReadOnlyList<string> Held
);

/// <summary>
/// The settings worth measuring in for one duty: the duty's own, the same with its many-way control (a key) in each
/// other working position, and everything at rest. Derived from the machine; no family is known by name.
/// </summary>
public static class Conditions
{
    /// <summary>Conditions of a duty; the duty's own is always the first.</summary>
    public static IReadOnlyList<Condition> Of(Circuit circuit, Duty duty)
    {
        var machine = circuit.Machine;
        var own = circuit.Setting(duty.Setting);
        var settings = new List<ControlSetting> { own };
        for (var c = 0; c < machine.Controls.Count; c++)
        {
            if (
                !duty.Setting.TryGetValue(machine.Controls[c].Id, out var position)
                || machine.Controls[c].Positions.Count <= 2
            )
            {
                continue;
            }

            foreach (
                var other in machine
                    .Controls[c]
                    .Positions.Except([position, machine.Controls[c].Rest], StringComparer.Ordinal)
            )
            {
                var varied = new Dictionary<string, string>(duty.Setting, StringComparer.Ordinal)
                {
                    [machine.Controls[c].Id] = other,
                };
                settings.Add(circuit.Setting(varied));
            }
        }

        settings.Add(circuit.Setting(null));
        return [.. settings.Distinct().Select(s => Describe(circuit, s, s.Equals(own)))];
    }

    private static Condition Describe(Circuit circuit, ControlSetting setting, bool isDuty)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
        var turns = circuit.Devices.Any(d => d.Sign(state) is { Kind: SignKind.Turns, Level: > 0 });
        return new Condition(
            setting,
            isDuty,
            turns,
            setting.Words(circuit.Machine),
            [.. setting.Held(circuit.Machine).Select(c => c.Name)]
        );
    }
}
