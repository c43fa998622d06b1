using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>In what a machine that cranks stands otherwise than its own start asks for: in gear with the clutch in.</summary>
public static class CrankedOtherwise
{
    /// <summary>
    /// Controls that were moved to where they alone would keep the machine's own start from cranking, in a setting in which the sound
    /// machine cranks all the same; none where it does not crank, or cranks as it should.
    /// </summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="setting">How its controls stand.</param>
    public static IReadOnlyList<Control> Of(Circuit circuit, ControlSetting setting)
    {
        var (cranked, rest) = (Cranked(circuit, setting), circuit.Setting(null));
        return cranked.Count == 0
            ? []
            :
            [
                .. circuit
                    .Machine.Duties.Where(d => !d.Refuses)
                    .Select(d => circuit.Setting(d.Setting))
                    .Where(own => Cranked(circuit, own).Overlaps(cranked))
                    .SelectMany(own =>
                        Enumerable
                            .Range(0, setting.Count)
                            .Where(c =>
                                setting[c] != own[c]
                                && setting[c] != rest[c]
                                && !Cranked(circuit, own.With(c, setting[c])).Overlaps(cranked)
                            )
                    )
                    .Distinct()
                    .Select(c => circuit.Machine.Controls[c]),
            ];
    }

    private static HashSet<EngineId> Cranked(Circuit circuit, ControlSetting setting) =>
        [.. Outcome.Of(new Case { Circuit = circuit, Settings = [setting] }).Cranks.Keys];
}
