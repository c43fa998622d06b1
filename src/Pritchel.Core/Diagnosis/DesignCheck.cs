using Pritchel.Core.Circuits;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis;

/// <summary>A control and the position in which the sound machine would do its duty.</summary>
/// <param name="Control">The control.</param>
/// <param name="Stood">Position it stood in.</param>
/// <param name="Wanted">Position it would have to be in.</param>
public sealed record ControlWanted(Control Control, string Stood, string Wanted);

/// <summary>
/// Whether a sound machine would do the same in the setting a complaint was made in: then it works as designed, and no
/// fault is to be looked for there.
/// </summary>
/// <param name="Setting">The setting.</param>
/// <param name="AsDesigned">Whether a sound machine fails the duty in it too.</param>
/// <param name="AnyOf">Single moves of a control, any one of which would have it done.</param>
/// <param name="AllOf">Where no single move does: moves that together do.</param>
public sealed record DesignCheck(
    ControlSetting Setting,
    bool AsDesigned,
    IReadOnlyList<ControlWanted> AnyOf,
    IReadOnlyList<ControlWanted> AllOf
)
{
    /// <summary>Tries the duty on the sound machine in a setting, everything as drawn.</summary>
    public static DesignCheck Of(Circuit circuit, Duty duty, ControlSetting found)
    {
        if (Does(circuit, duty, found))
        {
            return new DesignCheck(found, AsDesigned: false, [], []);
        }

        var own = circuit.Setting(duty.Setting);
        ControlWanted Wanted(int control, int position) =>
            new(
                circuit.Machine.Controls[control],
                circuit.Machine.Controls[control].Positions[found[control]],
                circuit.Machine.Controls[control].Positions[position]
            );
        var singly = Enumerable
            .Range(0, found.Count)
            .SelectMany(c => Enumerable.Range(0, circuit.Machine.Controls[c].Positions.Count).Select(p => (c, p)))
            .Where(m => m.p != found[m.c] && Does(circuit, duty, found.With(m.c, m.p)))
            .Select(m => Wanted(m.c, m.p))
            .ToList();
        var together = Enumerable.Range(0, found.Count).Where(c => found[c] != own[c]).Select(c => Wanted(c, own[c]));
        return new DesignCheck(found, AsDesigned: true, singly, singly.Count > 0 ? [] : [.. together]);
    }

    private static bool Does(Circuit circuit, Duty duty, ControlSetting setting)
    {
        var table = PredictionTable.Bare(circuit, duty with { Setting = setting.Named(circuit.Machine) }, []);
        return new CaseRunner(table, circuit, PredictionTable.BeliefTolerance).Begin(
                null,
                circuit.NominalParameters(),
                0
            ) == Heard.Works;
    }
}
