using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>What works one way and not another: a brake lamp by one lever alone, an alarm that one of its sensors no longer calls.</summary>
public sealed partial class Symptoms
{
    private const int NoControl = -1;

    /// <summary>
    /// Every further control that by itself sets a part to work where the one it was found by is let go: one way may be dead while the
    /// other works.
    /// </summary>
    /// <param name="part">The part.</param>
    /// <param name="works">Where it works at rest.</param>
    private void FindOtherWays(Part part, ControlSetting works)
    {
        var rest = circuit.Setting(null);
        var ways =
            from command in Enumerable.Range(0, works.Count)
            where works[command] != rest[command]
            let released = works.With(command, rest[command])
            where Level(part, released, DutySpeed.Rest) < Dark
            from way in WaysFrom(part, released, command, DutySpeed.Rest)
            select way;
        foreach (var (setting, control, position) in ways.DistinctBy(w => (w.Control, w.Position)).ToList())
        {
            AddWay(part, setting, control, position, DutySpeed.Rest, "");
        }
    }

    /// <summary>What is felt and must call an alarm that is silent with the engine running.</summary>
    /// <param name="part">Lamp or buzzer.</param>
    /// <param name="quiet">Where it is silent.</param>
    private void FindCalls(Part part, ControlSetting quiet)
    {
        foreach (
            var (setting, control, position) in WaysFrom(part, quiet, NoControl, DutySpeed.Work)
                .Where(w => circuit.Machine.Controls[w.Control].Sensed == true)
                .ToList()
        )
        {
            AddWay(part, setting, control, position, DutySpeed.Work, ", engine running");
        }
    }

    private IEnumerable<(ControlSetting Setting, int Control, int Position)> WaysFrom(
        Part part,
        ControlSetting start,
        int besides,
        DutySpeed speed
    ) =>
        from control in Enumerable.Range(0, start.Count)
        where control != besides
        from position in Enumerable.Range(0, circuit.Machine.Controls[control].Positions.Count)
        where position != start[control]
        let setting = start.With(control, position)
        where Level(part, setting, speed) >= Shows
        select (setting, control, position);

    private void AddWay(Part part, ControlSetting setting, int control, int position, DutySpeed speed, string when)
    {
        var moved = circuit.Machine.Controls[control];
        var worded = Worded(moved, position);
        var id = $"does-{part.Id}-{moved.Id}-{position}";
        if (found.Exists(s => s.Duty.Id.Text == id))
        {
            // Called at rest already, as it is with the engine running.
            return;
        }

        Add(
            KindOf(part) == EffectKind.Sounds ? CircuitGroup.Alarms : CircuitGroup.Accessories,
            id,
            $"{SymptomWords.Said(part)} {SymptomWords.Verb(KindOf(part))}: {worded}{when}",
            setting,
            part,
            speed,
            $"{SymptomWords.Said(part)} {SymptomWords.Dead(KindOf(part))}: {worded}{when}"
        );
    }
}
