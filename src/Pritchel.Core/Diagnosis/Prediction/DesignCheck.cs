using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Prediction;

/// <summary>A control and the position in which the sound machine would do its duty.</summary>
/// <param name="Control">The control.</param>
/// <param name="Stood">Position it stood in.</param>
/// <param name="Wanted">Position it would have to be in.</param>
public sealed record ControlWanted(Control Control, PositionId Stood, PositionId Wanted);

/// <summary>
/// Whether a sound machine would do the same in the setting a complaint was made in, or with what was found altered: then it
/// works as designed, or as altered, and no fault is to be looked for there.
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
    /// <summary>What was found altered and gives the complaint by itself on a machine otherwise sound; mostly none.</summary>
    public IReadOnlyList<Alteration> Altered { get; init; } = [];

    /// <summary>
    /// Whether what stood otherwise was felt by a sensor and not moved by hand: a warning that tells of it may be telling the
    /// truth, and is not put aside as designed.
    /// </summary>
    public bool MayBeTrue { get; init; }

    /// <summary>Tries the duty on the sound machine in a setting, as drawn and then as altered.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="duty">The duty.</param>
    /// <param name="found">Setting of the complaint.</param>
    /// <param name="altered">What was found altered; null for nothing.</param>
    public static DesignCheck Of(
        Circuit circuit,
        Duty duty,
        ControlSetting found,
        IReadOnlyList<AlterationId>? altered = null
    )
    {
        if (Does(circuit, duty, found, []))
        {
            return altered is not { Count: > 0 } || Does(circuit, duty, found, altered)
                ? new DesignCheck(found, AsDesigned: false, [], [])
                : new DesignCheck(found, AsDesigned: true, [], []) { Altered = Guilty(circuit, duty, found, altered) };
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
            .Where(m => m.p != found[m.c] && Does(circuit, duty, found.With(m.c, m.p), []))
            .Select(m => Wanted(m.c, m.p))
            .ToList();
        var together = Enumerable.Range(0, found.Count).Where(c => found[c] != own[c]).Select(c => Wanted(c, own[c]));
        IReadOnlyList<ControlWanted> all = singly.Count > 0 ? [] : [.. together];
        return new DesignCheck(found, AsDesigned: true, singly, all)
        {
            MayBeTrue =
                DutyEffect.Of(circuit, duty) is EffectKind.Glows or EffectKind.Sounds
                && singly.Concat(all).Any(w => w.Control.Sensed == true),
        };
    }

    /// <summary>Those alterations that give it one by one; all of them where only together they do.</summary>
    private static List<Alteration> Guilty(
        Circuit circuit,
        Duty duty,
        ControlSetting found,
        IReadOnlyList<AlterationId> altered
    )
    {
        var all = Alteration.Of(circuit).Where(a => altered.Contains(a.Id)).ToList();
        var singly = all.Where(a => !Does(circuit, duty, found, [a.Id])).ToList();
        return singly.Count > 0 ? singly : all;
    }

    private static bool Does(Circuit circuit, Duty duty, ControlSetting setting, IReadOnlyList<AlterationId> altered)
    {
        var table = PredictionTable.Bare(circuit, duty with { Setting = setting.Named(circuit.Machine) }, altered);
        return new CaseRunner(table, circuit, DutyWaves.BeliefTolerance).Begin(null, circuit.NominalParameters(), 0)
            == Heard.Works;
    }
}
