using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>
/// In what a machine that turns stands otherwise than its own start allows: in gear with the clutch in, blades on with somebody on the seat.
/// What its start refuses drives something.
/// </summary>
public static class AgainstStart
{
    /// <summary>
    /// Controls that were moved to where they alone would keep the machine's own start from cranking, in a setting in which the sound
    /// machine cranks all the same, or in which it runs; none where nothing turns, or all stands as its start wants it.
    /// </summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="setting">How its controls stand.</param>
    /// <param name="runs">Whether its engines run by themselves.</param>
    public static IReadOnlyList<Control> Controls(Circuit circuit, ControlSetting setting, bool runs)
    {
        var (cranked, rest) = (Cranked(circuit, setting), circuit.Setting(null));
        if (cranked.Count == 0 && !runs)
        {
            return [];
        }

        return
        [
            .. (
                from own in circuit.Machine.Duties.Where(d => !d.Refuses).Select(d => circuit.Setting(d.Setting))
                let turned = Cranked(circuit, own)
                where runs ? turned.Count > 0 : turned.Overlaps(cranked)
                from c in Enumerable.Range(0, setting.Count)
                // What is held to start it is let go once it runs.
                where
                    setting[c] != own[c]
                    && setting[c] != rest[c]
                    && !(runs && IsHeld(circuit.Machine.Controls[c], own[c]))
                where !Cranked(circuit, own.With(c, setting[c])).Overlaps(turned)
                select c
            )
                .Distinct()
                .Select(c => circuit.Machine.Controls[c]),
        ];
    }

    private static bool IsHeld(Control control, int position) => control.Held.Contains(control.Positions[position]);

    private static HashSet<EngineId> Cranked(Circuit circuit, ControlSetting setting) =>
        [.. Outcome.Of(new Case { Circuit = circuit, Settings = [setting] }).Cranks.Keys];
}
