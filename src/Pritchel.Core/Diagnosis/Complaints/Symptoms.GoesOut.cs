using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>
/// What runs and goes out although an interlock is satisfied: in gear with the stand up, with the blades on and somebody on the seat.
/// </summary>
public sealed partial class Symptoms
{
    /// <summary>
    /// Every two controls that stop it together and not apart: the one moved as if to stop it, the other as it should be. There it must go on
    /// running.
    /// </summary>
    /// <param name="part">What fires, or lets it run.</param>
    /// <param name="group">Its circuit.</param>
    /// <param name="running">Where it runs, nearest to rest.</param>
    /// <param name="runs">The duty that says that it runs there.</param>
    private void FindGoesOut(Part part, CircuitGroup group, ControlSetting running, DutyId runs)
    {
        var known = new Dictionary<ControlSetting, bool>();
        bool Fires(ControlSetting setting) =>
            known.TryGetValue(setting, out var fires) ? fires : known[setting] = !Stops(part, setting);
        var ways =
            from move in Moves(running)
            let moved = After(running, move)
            where !AddsHeld(running, moved)
            from other in Enumerable.Range(0, running.Count)
            where other != move.Control && !IsolatesBattery(circuit.Machine.Controls[other])
            let positions = Enumerable.Range(0, circuit.Machine.Controls[other].Positions.Count).ToList()
            // Stopped by both, by neither alone.
            where positions.Exists(p => !Fires(moved.With(other, p)) && Fires(running.With(other, p)))
            from satisfied in positions
            let setting = moved.With(other, satisfied)
            where Fires(setting) && EngineRuns(setting)
            select (setting, Moves: new[] { move, new Move(other, satisfied) });
        foreach (var (setting, moves) in ways.DistinctBy(w => w.setting).ToList())
        {
            var said = Worded(moves.OrderBy(m => m.Control));
            Add(
                group,
                $"goes-on-{part.Id}-{string.Join('-', moves.Select(m => $"{Control(m).Id}-{m.Position}"))}",
                $"{SymptomWords.Said(part)} {(group == CircuitGroup.Ignition ? "goes on firing" : "stays in")}: {said}",
                setting,
                part,
                DutySpeed.Idle,
                $"Runs, but goes out: {said}{(circuit.Engines.Count < 2 && group == CircuitGroup.Ignition ? "" : $" ({part.Name})")}",
                onTheWay: [runs],
                goesOn: true
            );
        }
    }

    /// <summary>Every control moved to every other position; none that cuts a battery's cable.</summary>
    private IEnumerable<Move> Moves(ControlSetting start) =>
        from c in Enumerable.Range(0, start.Count)
        from p in Enumerable.Range(0, circuit.Machine.Controls[c].Positions.Count)
        where p != start[c] && !IsolatesBattery(circuit.Machine.Controls[c])
        select new Move(c, p);
}
