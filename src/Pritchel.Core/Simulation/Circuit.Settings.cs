using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <content>Settings of the machine's controls.</content>
public sealed partial class Circuit
{
    /// <summary>Positions of all controls, given some; the rest at rest.</summary>
    /// <exception cref="ArgumentException">A position that its control has not.</exception>
    public ControlSetting Setting(IReadOnlyDictionary<ControlId, PositionId>? given)
    {
        var positions = new int[Machine.Controls.Count];
        for (var c = 0; c < positions.Length; c++)
        {
            var control = Machine.Controls[c];
            var wanted = given is not null && given.TryGetValue(control.Id, out var name) ? name : control.Rest;
            positions[c] = control.IndexOf(wanted);
            if (positions[c] < 0)
            {
                throw new ArgumentException($"{control.Id} has no position {wanted}.", nameof(given));
            }
        }

        return new ControlSetting(positions);
    }

    /// <summary>Number of combinations of control positions.</summary>
    public long SettingCount =>
        Machine.Controls.Aggregate(1L, (all, c) => Math.Min(long.MaxValue / 16, all) * c.Positions.Count);

    /// <summary>Every combination of control positions, one after another; there may be more than anyone can go through.</summary>
    public IEnumerable<ControlSetting> AllSettings()
    {
        var counts = Machine.Controls.Select(c => c.Positions.Count).ToArray();
        var positions = new int[counts.Length];
        while (true)
        {
            yield return new ControlSetting([.. positions]);
            var c = 0;
            while (c < counts.Length && ++positions[c] == counts[c])
            {
                positions[c++] = 0;
            }

            if (c == counts.Length)
            {
                yield break;
            }
        }
    }

    /// <summary>Settings within two moves of rest, and those of some duties whose controls there are; each once.</summary>
    /// <param name="duties">The duties.</param>
    public IEnumerable<ControlSetting> SettingsTried(IEnumerable<Duty> duties)
    {
        const int MostMoved = 2;
        return SettingsNearRest(MostMoved)
            .Concat(
                duties
                    .Where(d => d.Setting.Keys.All(c => Machine.Index.Control(c) is not null))
                    .Select(d => Setting(d.Setting))
            )
            .Distinct();
    }

    /// <summary>Settings by how many controls they move, none first.</summary>
    /// <param name="mostMoved">Most controls moved.</param>
    public IEnumerable<ControlSetting> SettingsNearRest(int mostMoved)
    {
        var rest = Setting(null);
        yield return rest;
        var last = new List<(ControlSetting Setting, int From)> { (rest, 0) };
        for (var moved = 1; moved <= mostMoved; moved++)
        {
            var next = new List<(ControlSetting Setting, int From)>();
            foreach (var (setting, from) in last)
            {
                for (var c = from; c < setting.Count; c++)
                {
                    var positions = Enumerable.Range(0, Machine.Controls[c].Positions.Count);
                    next.AddRange(positions.Where(p => p != rest[c]).Select(p => (setting.With(c, p), c + 1)));
                }
            }

            foreach (var (setting, _) in next)
            {
                yield return setting;
            }

            last = next;
        }
    }
}
