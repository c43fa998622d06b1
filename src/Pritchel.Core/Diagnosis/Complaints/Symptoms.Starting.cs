using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>Starters that must stay still, and batteries that must be charged and hold it.</summary>
public sealed partial class Symptoms
{
    /// <summary>A starter stays still with everything at rest, its battery not switched off, and wherever one interlock refuses it.</summary>
    private void FindStill(Part part)
    {
        var own = circuit.Machine.Duties.FirstOrDefault(d => d.Load == part.Id);
        var go = own is null ? First(s => Level(part, s, DutySpeed.Rest) > 0) : circuit.Setting(own.Setting);
        if (go is null || Level(part, Live(go), DutySpeed.Rest) > 0)
        {
            return;
        }

        Add(
            CircuitGroup.Starting,
            "not-" + part.Id,
            $"{SymptomWords.Said(part)} stays still",
            Live(go),
            part,
            DutySpeed.Rest,
            $"{SymptomWords.Said(part)} turns by itself, or stays in",
            refuses: true
        );
        for (var c = 0; c < go.Count; c++)
        {
            var control = circuit.Machine.Controls[c];

            // What springs back is let go; anything else may be moved to wherever it refuses.
            var springs = control.Held.Contains(control.Positions[go[c]]);
            foreach (var position in Enumerable.Range(0, control.Positions.Count).Where(p => p != go[c]))
            {
                if (springs && control.Positions[position] != control.Rest)
                {
                    continue;
                }

                var refused = go.With(c, position);
                if (Level(part, refused, DutySpeed.Rest) <= 0)
                {
                    Add(
                        CircuitGroup.Starting,
                        $"refuses-{part.Id}-{control.Id}-{position}",
                        $"{SymptomWords.Said(part)} stays still: {Worded(control, position)}",
                        refused,
                        part,
                        DutySpeed.Rest,
                        $"Cranks though {Worded(control, position)}{(own is null || circuit.Engines.Count < 2 ? "" : $" ({part.Name})")}",
                        refuses: true
                    );
                }
            }
        }
    }

    /// <summary>Everything at rest, but battery switches as they stand in another setting.</summary>
    private ControlSetting Live(ControlSetting other) =>
        Enumerable
            .Range(0, other.Count)
            .Where(c => IsolatesBattery(circuit.Machine.Controls[c]))
            .Aggregate(circuit.Setting(null), (rest, c) => rest.With(c, other[c]));

    private static string Worded(Control control, int position) =>
        control.Says?.GetValueOrDefault(control.Positions[position])
        ?? $"{control.Name.ToLowerInvariant()} at {control.Positions[position]}";

    private void FindCharge(Part part)
    {
        // A machine that draws something at rest by design cannot be complained of for it.
        if (Level(part, settings[0], DutySpeed.Rest) > -DrainAmps)
        {
            Add(
                CircuitGroup.Charging,
                "holds-" + part.Id,
                $"{SymptomWords.Said(part)} holds its charge overnight",
                circuit.Setting(null),
                part,
                DutySpeed.Rest,
                $"{SymptomWords.Said(part)} flat overnight",
                refuses: true
            );
        }

        FindLeftOn(part);
        if (circuit.Engines.Count > 0 && Charging(part) is { } go)
        {
            Add(
                CircuitGroup.Charging,
                "charges-" + part.Id,
                $"{SymptomWords.Said(part)} is charged",
                go,
                part,
                DutySpeed.Work,
                $"{SymptomWords.Said(part)} is not charged"
            );
        }
    }

    /// <summary>
    /// A battery behind a switch that is off at rest: with that left on, and nothing else, it must hold its charge as well. What leaks or feeds
    /// back behind the switch is told so and no other way.
    /// </summary>
    private void FindLeftOn(Part part)
    {
        var rest = circuit.Setting(null);
        var fedAtRest = FedBy(part, rest);
        for (var c = 0; c < rest.Count; c++)
        {
            var control = circuit.Machine.Controls[c];
            if (!IsolatesBattery(control))
            {
                continue;
            }

            var left = Enumerable
                .Range(0, control.Positions.Count)
                .Select(p => (Position: p, Setting: rest.With(c, p)))
                .FirstOrDefault(s =>
                    FedBy(part, s.Setting) > fedAtRest && Level(part, s.Setting, DutySpeed.Rest) > -DrainAmps
                );
            if (left.Setting is { } setting)
            {
                var worded = Worded(control, left.Position);
                Add(
                    CircuitGroup.Charging,
                    $"holds-{part.Id}-{control.Id}-{left.Position}",
                    $"{SymptomWords.Said(part)} holds its charge overnight: {worded}",
                    setting,
                    part,
                    DutySpeed.Rest,
                    $"{SymptomWords.Said(part)} flat overnight: {worded}, all else off",
                    refuses: true
                );
            }
        }
    }

    /// <summary>How much of the machine a battery feeds by itself, every other one off its post.</summary>
    private int FedBy(Part battery, ControlSetting setting)
    {
        var values = circuit.NominalParameters();
        foreach (
            var other in circuit.Opening.Batteries.Where(b =>
                circuit.Parameters[b.Index].Key.Of.Owner.Part != battery.Id
            )
        )
        {
            values[other.Index] = double.PositiveInfinity;
        }

        state.Begin(values);
        state.Move(setting);
        return NodesUnderVolts();
    }

    /// <summary>
    /// The setting in which a battery is charged: one in which it is so from idle on, if any; what charges at work speed alone
    /// may do so by itself, whatever the controls say, and hide what should have woken it.
    /// </summary>
    private ControlSetting? Charging(Part part)
    {
        var charging = Running.Take(MostTriedTurning).Where(s => LevelAtWork(part, s) > ChargesFromAmps);
        ControlSetting? first = null;
        foreach (var setting in charging)
        {
            first ??= setting;
            if (LevelAtIdle(part, setting) > ChargesFromAmps)
            {
                return setting;
            }
        }

        return first;
    }

    private double LevelAtIdle(Part part, ControlSetting setting)
    {
        turning.Begin(circuit.NominalParameters());
        turning.Move(setting);
        turning.SetSpeeds(DutySpeed.Idle);
        turning.Move(setting);
        return circuit.DeviceOf(part.Id).Effect(turning).Level;
    }
}
