using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Rewiring;

/// <summary>What a machine does in one setting, as far as a proof asks.</summary>
/// <param name="Cranks">Whether a starter turns, the engine at rest.</param>
/// <param name="Runs">Whether an engine that is turning goes on: spark and fuel.</param>
/// <param name="Opened">Fuses and breakers that open, the engine at rest.</param>
/// <param name="FedKills">Ignitions whose kill lead has battery volts on it.</param>
/// <param name="Working">Parts that glow, sound or work.</param>
/// <param name="DrainAmps">Amps out of the batteries at rest.</param>
public sealed record Behaviour(
    bool Cranks,
    bool Runs,
    IReadOnlyList<PartId> Opened,
    IReadOnlyList<PartId> FedKills,
    IReadOnlyList<PartId> Working,
    double DrainAmps
);

/// <summary>
/// Tries one machine in one setting after another, from rest each time. Charge windings' waves are not followed: they take
/// no part in what cranks, sparks and stops.
/// </summary>
internal sealed class Trial
{
    // On a kill lead no battery volts belong; a leak gives less.
    private const double FedVolts = 5;

    private readonly Circuit circuit;
    private readonly CircuitState state;
    private readonly double[] values;
    private readonly ControlSetting rest;
    private readonly Device[] starters;
    private readonly (PartId Part, int Kill, int Ground)[] kills;
    private readonly (PartId Part, IProtects Opens)[] protectors;

    public Trial(Circuit circuit, Fault? fault = null)
    {
        this.circuit = fault is null ? circuit : circuit.With([fault]);
        state = new CircuitState(this.circuit) { FollowsWaves = false, Tolerance = DutyWaves.BeliefTolerance };
        values = this.circuit.NominalParameters();
        if (fault is not null)
        {
            this.circuit.Plant(fault, fault.Severity.At(1), values);
        }

        rest = this.circuit.Setting(null);
        starters = this.circuit.Cranking;
        kills = [.. this.circuit.Kills.Select(k => (k.Part.Id, k.Kill, k.Ground))];
        protectors = [.. this.circuit.Devices.OfType<IProtects>().Select(p => (((Device)p).PartId!.Value, p))];
    }

    /// <summary>The machine with every battery's lead taken off once it runs.</summary>
    public static Trial WithoutBattery(Circuit circuit)
    {
        var trial = new Trial(circuit);
        foreach (var battery in circuit.Opening.Batteries)
        {
            trial.values[battery.Index] = double.PositiveInfinity;
        }

        return trial;
    }

    /// <summary>Whether a starter turns in a setting, the engine at rest.</summary>
    public bool Cranks(ControlSetting setting)
    {
        Stand(setting, DutySpeed.Rest);
        return AnyTurns;
    }

    /// <summary>Whether a starter still turns after going from one setting into another.</summary>
    public bool CranksAfter(ControlSetting first, ControlSetting then)
    {
        Stand(first, DutySpeed.Rest);
        state.Move(then);
        return AnyTurns;
    }

    /// <summary>Whether an engine that turned in a setting goes on in another.</summary>
    public bool RunsAfter(ControlSetting first, ControlSetting then)
    {
        Stand(first, DutySpeed.Work);
        return Outcome.Of(state, state.Move(then)).Runs;
    }

    /// <summary>Whether an engine that is turning goes on in a setting that is gone into from rest.</summary>
    public bool GoesOn(ControlSetting setting) => Outcome.Of(state, Stand(setting, DutySpeed.Work)).Runs;

    /// <summary>Whether an engine runs in a setting, with no starter turning in it.</summary>
    public bool Runs(ControlSetting setting) => RunsAfter(setting, setting) && !Cranks(setting);

    /// <summary>A machine running in a setting at a speed, the waves of its charge windings followed.</summary>
    public static (CircuitState State, Settlement Settled) Turning(
        Circuit circuit,
        ControlSetting setting,
        DutySpeed speed
    )
    {
        var state = new CircuitState(circuit) { Tolerance = DutyWaves.BeliefTolerance };
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
        state.SetSpeeds(speed);
        return (state, state.Move(setting));
    }

    /// <summary>Amps into the batteries of a machine that runs so; out of them when negative.</summary>
    public static double AmpsIn(Circuit circuit, ControlSetting setting, DutySpeed speed)
    {
        var (state, settled) = Turning(circuit, setting, speed);
        return Outcome.Of(state, settled).Charges.Values.Sum();
    }

    /// <summary>All that a proof asks of a setting.</summary>
    public Behaviour In(ControlSetting setting)
    {
        var still = Stand(setting, DutySpeed.Rest);
        var cranks = AnyTurns;
        PartId[] opened = [.. protectors.Where(p => p.Opens.HasOpened(state)).Select(p => p.Part)];
        var fed = kills.Where(k => Math.Abs(state.Drop(k.Kill, k.Ground)) > FedVolts).Select(k => k.Part).ToList();
        var shown = Outcome.Of(state, still);
        var drain = -shown.Charges.Values.Where(a => a < 0).Sum();
        var turning = Stand(setting, DutySpeed.Work);
        var shownTurning = Outcome.Of(state, turning);
        return new Behaviour(
            cranks,
            shownTurning.Runs,
            opened,
            fed,
            [.. Working(shown).Union(Working(shownTurning))],
            drain
        );
    }

    private bool AnyTurns => Array.Exists(starters, s => s.Effect(state).Level > 0);

    private static IEnumerable<PartId> Working(Outcome shown) =>
        shown
            .Glows.Where(g => g.Value >= Handbook.Filament.BrightFrom)
            .Select(g => g.Key)
            .Concat(shown.Sounds)
            .Concat(shown.Works);

    private Settlement Stand(ControlSetting setting, DutySpeed speed)
    {
        state.Begin(values);
        state.Move(rest);
        state.SetSpeeds(speed);
        return state.Move(setting);
    }
}
