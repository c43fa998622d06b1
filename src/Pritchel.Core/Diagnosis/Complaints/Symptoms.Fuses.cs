using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>Fuses that blow and breakers that trip, and when.</summary>
public sealed partial class Symptoms
{
    // What is fed with one thing moved, and then another: further off, a fuse's ways are the same again.
    private const int MostMovedForFuses = 2;

    /// <summary>
    /// A fuse or breaker may blow with everything at rest, or only once a control feeds more through it: one complaint for
    /// each setting, nearest to rest first, that feeds what none before it did. That is how it is told, and it halves the loom.
    /// </summary>
    private void FindOverloads(Part part)
    {
        var told = new HashSet<int>();
        var before = new List<(ControlSetting Setting, DutyId Id)>();
        var rest = circuit.Setting(null);
        foreach (var setting in circuit.SettingsNearRest(MostMovedForFuses))
        {
            var fed = Guarded(part, setting);
            if (fed.Count == 0 || !fed.Except(told).Any() || Level(part, setting, DutySpeed.Rest) < 1)
            {
                continue;
            }

            told.UnionWith(fed);
            var moved = Enumerable
                .Range(0, setting.Count)
                .Where(c => setting[c] != rest[c])
                .Select(c => (Control: c, Position: setting[c]))
                .ToList();
            var when =
                moved.Count == 0
                    ? "with everything off"
                    : "with "
                        + string.Join(", ", moved.Select(m => Worded(circuit.Machine.Controls[m.Control], m.Position)));
            var verb = circuit.Is(part.Id, PartTraits.Trips) ? "trips" : "blows";
            var id = new DutyId(
                $"holds-{part.Id}"
                    + string.Concat(moved.Select(m => $"-{circuit.Machine.Controls[m.Control].Id}-{m.Position}"))
            );
            var passed = before.Where(b => IsOnTheWay(b.Setting, setting, rest)).ToList();
            Add(
                CircuitGroup.Protection,
                id.Text,
                $"{SymptomWords.Said(part)} holds {when}",
                setting,
                part,
                DutySpeed.Rest,
                $"{SymptomWords.Said(part)} {verb} {when}{(passed.Count > 0 ? ", not before" : "")}",
                onTheWay: [.. passed.Select(b => b.Id)]
            );
            before.Add((setting, id));
        }
    }

    /// <summary>Whether one setting is passed on the way to another: each control at rest still, or moved less far.</summary>
    private static bool IsOnTheWay(ControlSetting passed, ControlSetting to, ControlSetting rest) =>
        !passed.Equals(to)
        && Enumerable
            .Range(0, to.Count)
            .All(c => passed[c] == to[c] || passed[c] == rest[c] || (rest[c] < passed[c] && passed[c] < to[c]));

    /// <summary>What a fuse feeds before the next one: beyond that, the next one blows.</summary>
    private HashSet<int> Guarded(Part part, ControlSetting setting)
    {
        var fed = feeding.Through(part.Id, setting);
        foreach (
            var next in circuit.Machine.Parts.Where(p =>
                p.Id != part.Id
                && circuit.HasDevice(p.Id)
                && circuit.Is(p.Id, PartTraits.PullsOut | PartTraits.Trips)
                && p.Terminals.Any(t => fed.Contains(circuit.NodeOf(p.At(t))))
            )
        )
        {
            fed.ExceptWith(feeding.Through(next.Id, setting));
        }

        return fed;
    }
}
