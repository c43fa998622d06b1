using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>What works one way and not another: a brake lamp by one lever alone, an alarm that one of its sensors no longer calls.</summary>
public sealed partial class Symptoms
{
    /// <summary>
    /// Every further control that by itself sets a part to work where it stopped for another that was moved: one way may be dead while the
    /// other works. A control that springs back may have two such positions itself, up and down.
    /// </summary>
    /// <param name="part">The part.</param>
    /// <param name="works">Where it works at rest.</param>
    private List<(ControlSetting Setting, Move[] Moves)> OtherWays(Part part, ControlSetting works)
    {
        var ways =
            from moved in Enumerable.Range(0, works.Count)
            where !IsolatesBattery(circuit.Machine.Controls[moved])
            from to in Enumerable.Range(0, circuit.Machine.Controls[moved].Positions.Count)
            where to != works[moved]
            let without = works.With(moved, to)
            where !AddsHeld(works, without) && Level(part, without, DutySpeed.Rest) < Dark
            from way in WaysFrom(part, without, DutySpeed.Rest)
            where way.Control != moved || Springs(works, moved, way.Position)
            let last = new Move(way.Control, way.Position)
            let isLetGo = circuit.Machine.Controls[moved] is var control && control.Positions[to] == control.Rest
            select (way.Setting, Moves: isLetGo ? new[] { last } : [new Move(moved, to), last]);
        return [.. ways.DistinctBy(w => w.Moves[^1])];
    }

    private void FindOtherWays(Part part, ControlSetting works)
    {
        foreach (var (setting, moves) in OtherWays(part, works))
        {
            AddWay(part, setting, moves, DutySpeed.Rest, "");
        }
    }

    /// <summary>What cranks in neutral and not in gear with the clutch pulled; on the one bank of batteries and not on the other.</summary>
    private void FindOtherStarts(Duty duty)
    {
        var (starter, cranks) = (circuit.Machine.Index.Part(duty.Load)!, circuit.Setting(duty.Setting));
        foreach (var (setting, moves) in OtherWays(starter, cranks).Concat(OnOtherBanks(starter, cranks)))
        {
            var worded = Worded(moves);
            found.Add(
                new Symptom(
                    CircuitGroup.Starting,
                    duty with
                    {
                        Id = new DutyId($"{duty.Id}-{Control(moves[^1]).Id}-{moves[^1].Position}"),
                        Name = $"{duty.Name}: {worded}",
                        Setting = setting.Moved(circuit.Machine),
                        Complaint =
                            $"Does not crank: {worded}{(circuit.Engines.Count < 2 ? "" : $" ({starter.Name})")}",
                    }
                )
            );
        }
    }

    private IEnumerable<(ControlSetting Setting, Move[] Moves)> OnOtherBanks(Part starter, ControlSetting cranks) =>
        from control in Enumerable.Range(0, cranks.Count)
        where IsolatesBattery(circuit.Machine.Controls[control])
        from position in Enumerable.Range(0, circuit.Machine.Controls[control].Positions.Count)
        where position != cranks[control]
        let other = cranks.With(control, position)
        where Level(starter, other, DutySpeed.Rest) > 0
        select (other, new[] { new Move(control, position) });

    private bool Springs(ControlSetting works, int control, int position)
    {
        var other = works.With(control, position);
        return position != works[control]
            && works.Held(circuit.Machine).Contains(circuit.Machine.Controls[control])
            && other.Held(circuit.Machine).Contains(circuit.Machine.Controls[control]);
    }

    /// <summary>What is felt and must call an alarm that is silent with the engine running.</summary>
    /// <param name="part">Lamp or buzzer.</param>
    /// <param name="quiet">Where it is silent.</param>
    private void FindCalls(Part part, ControlSetting quiet)
    {
        foreach (
            var (setting, control, position) in WaysFrom(part, quiet, DutySpeed.Work)
                .Where(w => circuit.Machine.Controls[w.Control].Sensed == true)
                .ToList()
        )
        {
            AddWay(part, setting, [new Move(control, position)], DutySpeed.Work, ", engine running");
        }
    }

    private IEnumerable<(ControlSetting Setting, int Control, int Position)> WaysFrom(
        Part part,
        ControlSetting start,
        DutySpeed speed
    ) =>
        from control in Enumerable.Range(0, start.Count)
        from position in Enumerable.Range(0, circuit.Machine.Controls[control].Positions.Count)
        where position != start[control]
        let setting = start.With(control, position)
        where Level(part, setting, speed) >= Plainly(part) && (speed != DutySpeed.Rest || !Cranks(part, setting))
        select (setting, control, position);

    // Surely done: what stands on the border between dim and bright is no complaint.
    private double Plainly(Part part) => KindOf(part) == EffectKind.Works ? 1 : 0.9;

    /// <summary>Whether a starter turns beside it: nobody holds START to see to anything else.</summary>
    private bool Cranks(Part besides, ControlSetting setting) =>
        circuit.Machine.Parts.Any(p =>
            p != besides
            && circuit.HasDevice(p.Id)
            && circuit.DeviceOf(p.Id).Effect(state).Kind == EffectKind.Turns
            && Level(p, setting, DutySpeed.Rest) > 0
        );

    private void AddWay(Part part, ControlSetting setting, Move[] moves, DutySpeed speed, string when)
    {
        var (last, kind, worded) = (moves[^1], KindOf(part), Worded(moves));
        var id = $"does-{part.Id}-{Control(last).Id}-{last.Position}";
        if (found.Exists(s => s.Duty.Id.Text == id))
        {
            // Called at rest already, as it is with the engine running.
            return;
        }

        Add(
            kind == EffectKind.Sounds ? CircuitGroup.Alarms : CircuitGroup.Accessories,
            id,
            $"{SymptomWords.Said(part)} {SymptomWords.Verb(kind)}: {worded}{when}",
            setting,
            part,
            speed,
            $"{SymptomWords.Said(part)} {SymptomWords.Dead(kind)}: {worded}{when}"
        );
    }

    private string Worded(IEnumerable<Move> moves) =>
        string.Join(", ", moves.Select(m => Worded(Control(m), m.Position)));
}
