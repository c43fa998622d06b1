using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>
/// Ways of stopping a spark: one control moved, two together where neither does it alone, or one that does it only from another
/// setting in which the engine runs.
/// </summary>
public sealed partial class Symptoms
{
    /// <summary>One control and where it is moved to.</summary>
    private readonly record struct Move(int Control, int Position);

    private void FindStops(Part part, ControlSetting go)
    {
        var moves = Moves(go).Where(m => !AddsHeld(go, After(go, m))).ToList();
        var alone = moves.Where(m => Stops(part, After(go, m))).ToList();
        foreach (var move in alone)
        {
            AddStop(part, After(go, move), move);
        }

        // A side stand that stops it in gear, a seat left with the blades in.
        var others = moves.Except(alone).ToList();
        var told = alone.ToHashSet();
        foreach (var first in others)
        {
            foreach (var second in others.Where(m => m.Control > first.Control))
            {
                if (Stops(part, After(go, first, second)))
                {
                    AddStop(part, After(go, first, second), first, second);
                    told.UnionWith([first, second]);
                }
            }
        }

        // Reverse that stops it while it mows: brake up, somebody on the seat, the blades in.
        var left = others.Where(m => !told.Contains(m)).ToList();
        int Moved(ControlSetting setting) => Enumerable.Range(0, go.Count).Count(c => setting[c] != go[c]);
        var nearby = left.Count == 0 ? [] : Running.OrderBy(Moved).Take(MostBegun).ToList();
        foreach (var move in left)
        {
            var from = nearby.Find(s =>
                s[move.Control] != move.Position && !Stops(part, s) && Stops(part, After(s, move))
            );
            if (from is not null)
            {
                var before = Enumerable
                    .Range(0, go.Count)
                    .Where(c => c != move.Control && from[c] != go[c])
                    .Select(c => new Move(c, from[c]));
                AddStop(part, After(from, move), [.. before, move]);
            }
        }
    }

    // Settings from which a stop is looked for that does nothing from the one nearest to rest.
    private const int MostBegun = 64;

    private void AddStop(Part part, ControlSetting stop, params Move[] moves)
    {
        var said = Worded(Telling(part, stop, moves));
        Add(
            CircuitGroup.Ignition,
            $"stops-{part.Id}-{string.Join('-', moves.Select(m => $"{Control(m).Id}-{m.Position}"))}",
            $"{char.ToUpperInvariant(said[0])}{said[1..]} stops the {part.Name}",
            stop,
            part,
            DutySpeed.Idle,
            $"Runs on with {said} ({part.Name})",
            refuses: true
        );
    }

    /// <summary>What was moved, and whatever else it takes: what would let it run on if it were moved instead.</summary>
    private IEnumerable<Move> Telling(Part part, ControlSetting stop, Move[] moves) =>
        Enumerable
            .Range(0, stop.Count)
            .Where(c => !Array.Exists(moves, m => m.Control == c) && !IsolatesBattery(circuit.Machine.Controls[c]))
            .Where(c =>
                Enumerable
                    .Range(0, circuit.Machine.Controls[c].Positions.Count)
                    .Any(p => p != stop[c] && !Stops(part, stop.With(c, p)))
            )
            .Select(c => new Move(c, stop[c]))
            .Concat(moves)
            .OrderBy(m => m.Control);

    private bool Stops(Part part, ControlSetting setting) => Level(part, setting, DutySpeed.Idle) < 1;

    private Control Control(Move move) => circuit.Machine.Controls[move.Control];

    private static ControlSetting After(ControlSetting go, params Move[] moves) =>
        moves.Aggregate(go, (setting, m) => setting.With(m.Control, m.Position));

    /// <summary>
    /// Whether a control cuts a battery's own cable. It is no way of stopping: the engine's alternator feeds on, and opening it
    /// at speed harms what it feeds (common practice, no source).
    /// </summary>
    private bool IsolatesBattery(Control control)
    {
        var machine = circuit.Machine;
        var posts = circuit.PartsThat(PartTraits.StoresCharge).SelectMany(p => p.Addresses).ToHashSet();
        var cabled = machine
            .Wires.Where(w => w.Cable == true && (posts.Contains(w.From.At) || posts.Contains(w.To.At)))
            .SelectMany(w => new[] { w.From.At, w.To.At })
            .ToHashSet();
        return machine.Parts.Any(p =>
            p.Contacts?.Any(c => c.Control == control.Id && c.Between.Any(t => cabled.Contains(p.At(t)))) == true
        );
    }
}
