using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>A duty that fails, on its machine: what kinds of test ask of it when they look for where they may be taken.</summary>
public sealed class TestedDuty
{
    private readonly Lazy<CircuitState> atRest;
    private readonly Dictionary<PartId, LinePath> lines = [];

    /// <summary>Looks at a duty.</summary>
    public TestedDuty(Circuit circuit, Duty duty)
    {
        (Circuit, Duty) = (circuit, duty);
        Own = circuit.Setting(duty.Setting);
        Rest = circuit.Setting(null);
        HasBattery = circuit.PartsThat(PartTraits.StoresCharge).Any();
        Effect = DutyEffect.Of(circuit, duty);
        FollowsWaves = DutyWaves.Matter(circuit, duty);
        Feeding = new Feeding(circuit);
        atRest = new(() =>
        {
            var state = new CircuitState(circuit);
            state.Begin(circuit.NominalParameters());
            state.Move(Rest);
            return state;
        });
    }

    /// <summary>The machine's circuit.</summary>
    public Circuit Circuit { get; }

    /// <summary>The machine.</summary>
    public Machine Machine => Circuit.Machine;

    /// <summary>The duty.</summary>
    public Duty Duty { get; }

    /// <summary>The duty's own setting.</summary>
    public ControlSetting Own { get; }

    /// <summary>Everything at rest.</summary>
    public ControlSetting Rest { get; }

    /// <summary>What the battery feeds, and through what.</summary>
    public Feeding Feeding { get; }

    /// <summary>Whether the machine has a battery.</summary>
    public bool HasBattery { get; }

    /// <summary>How the part of the duty shows itself.</summary>
    public EffectKind Effect { get; }

    /// <summary>Whether the duty is done by the waves of charge windings.</summary>
    public bool FollowsWaves { get; }

    /// <summary>Whether the duty's current runs along a line from the battery that can be laid out straight.</summary>
    public bool HasLine => HasBattery && !Duty.Refuses && Duty.Speed == DutySpeed.Rest && !IsEnergy;

    /// <summary>Whether the duty is a spark or a charge, whose way is not from battery to load.</summary>
    public bool IsEnergy => Effect is EffectKind.Sparks or EffectKind.Charges;

    /// <summary>The part that does the duty.</summary>
    public Part Load => Machine.Index.Part(Duty.Load)!;

    /// <summary>The sound machine with everything at rest.</summary>
    public CircuitState AtRest => atRest.Value;

    /// <summary>The line through a part in the duty's setting.</summary>
    public LinePath Line(PartId part)
    {
        if (!lines.TryGetValue(part, out var line))
        {
            lines.Add(part, line = LinePath.Through(Circuit, Own, part));
        }

        return line;
    }

    /// <summary>Parts that the duty's current is laid out through: the one that commands, then the one that does.</summary>
    public IEnumerable<PartId> LineParts
    {
        get
        {
            if (Duty.Control is { } control)
            {
                yield return control;
            }

            yield return Duty.Load;
        }
    }

    /// <summary>
    /// The duty's own setting, the same with its many-way control (a key) in each other working position, and everything at
    /// rest; each once.
    /// </summary>
    public IEnumerable<ControlSetting> Settings()
    {
        var all = new List<ControlSetting> { Own };
        for (var c = 0; c < Own.Count; c++)
        {
            var control = Machine.Controls[c];
            if (!Duty.Setting.ContainsKey(control.Id) || control.Positions.Count <= 2)
            {
                continue;
            }

            for (var p = 0; p < control.Positions.Count; p++)
            {
                if (p != Own[c] && control.Positions[p] != control.Rest)
                {
                    all.Add(Own.With(c, p));
                }
            }
        }

        return all.Append(Rest).Distinct();
    }

    /// <summary>A condition that reads volts in a setting with nothing done for it.</summary>
    public Condition In(ControlSetting setting, bool isDuty = false)
    {
        var state = new CircuitState(Circuit);
        state.Begin(Circuit.NominalParameters());
        state.Move(setting);

        // A starter that turns when it must not may do so in any setting that is fed; and what is at rest is what refuses it.
        var mustNot = Duty.Refuses && Effect == EffectKind.Turns;
        var turns = mustNot || Circuit.Devices.Any(d => d.Effect(state) is { Kind: EffectKind.Turns, Level: > 0 });
        return new Condition(
            setting,
            isDuty,
            turns,
            WordsOf(setting, isDuty, mustNot),
            [.. setting.Held(Machine).Select(c => c.Name)]
        );
    }

    private string WordsOf(ControlSetting setting, bool isDuty, bool all)
    {
        var words = all ? setting.AllWords(Machine) : setting.Words(Machine);
        return isDuty && Duty.From is { } from
            ? $"{Circuit.Setting(from).Words(Machine)}, then {words}: at once, while its timer runs"
            : words;
    }

    /// <summary>A condition of a dead circuit, nothing turning.</summary>
    public Condition Dead(
        ControlSetting setting,
        IReadOnlyList<Disconnection> off,
        IReadOnlyList<(int Red, int Black)> pairs,
        string words
    ) =>
        In(setting) with
        {
            Observable = DeadOhms.Instance,
            Off = off,
            MayTurnEngine = false,
            Pairs = pairs,
            Words = words,
        };

    /// <summary>A condition with the engine turned at a speed.</summary>
    public Condition Turning(
        ControlSetting setting,
        DutySpeed speed,
        Observable observable,
        IReadOnlyList<(int Red, int Black)> pairs,
        string words
    ) =>
        In(setting) with
        {
            Observable = observable,
            Speed = speed,
            MayTurnEngine = true,
            Pairs = pairs,
            Words = $"{words} · {SpeedWords.Of(speed)}",
        };

    /// <summary>The same by ear: quicker, and enough where only open or closed is asked.</summary>
    public static Condition ByEar(Condition ohms) => ohms with { Observable = Beep.Instance };
}

/// <summary>How speeds are said.</summary>
public static class SpeedWords
{
    /// <summary>A speed in words.</summary>
    public static string Of(DutySpeed speed) =>
        speed switch
        {
            DutySpeed.Crank => "engine turned over",
            DutySpeed.Idle => "at idle",
            DutySpeed.Work => "at working speed",
            _ => "engine at rest",
        };
}
