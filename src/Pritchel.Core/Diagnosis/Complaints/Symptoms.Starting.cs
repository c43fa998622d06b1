using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>Starters that must stay still, and batteries that must be charged and hold it.</summary>
public sealed partial class Symptoms
{
    /// <summary>A starter stays still with everything at rest, and wherever one interlock refuses it.</summary>
    private void FindStill(Part part)
    {
        var own = circuit.Machine.Duties.FirstOrDefault(d => d.Load == part.Id);
        var go = own is null ? First(s => Level(part, s, DutySpeed.Rest) > 0) : circuit.Setting(own.Setting);
        if (go is null || Level(part, circuit.Setting(null), DutySpeed.Rest) > 0)
        {
            return;
        }

        Add(
            CircuitGroup.Starting,
            "not-" + part.Id,
            $"{SymptomWords.Said(part)} stays still",
            circuit.Setting(null),
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
