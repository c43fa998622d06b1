using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation;

/// <summary>Position of every control of a machine, by index.</summary>
public sealed class ControlSetting(int[] positions) : IEquatable<ControlSetting>
{
    private readonly int[] positions = positions;

    /// <summary>Position index of a control.</summary>
    public int this[int control] => positions[control];

    /// <summary>Number of controls.</summary>
    public int Count => positions.Length;

    /// <summary>The same with one control in another position.</summary>
    public ControlSetting With(int control, int position)
    {
        var other = (int[])positions.Clone();
        other[control] = position;
        return new ControlSetting(other);
    }

    /// <summary>Positions by name of the controls that are not at rest, by control id.</summary>
    public IReadOnlyDictionary<ControlId, PositionId> Moved(Machine machine) =>
        machine
            .Controls.Select((c, i) => (Control: c, Position: c.Positions[positions[i]]))
            .Where(x => x.Position != x.Control.Rest)
            .ToDictionary(x => x.Control.Id, x => x.Position);

    /// <summary>In words, naming only what is not at rest.</summary>
    public string Words(Machine machine) =>
        string.Join(" · ", Differences(machine).DefaultIfEmpty("everything at rest"));

    /// <summary>In words, every control named: for settings in which what is at rest matters too.</summary>
    public string AllWords(Machine machine) =>
        string.Join(" · ", machine.Controls.Select((c, i) => c.Said(c.Positions[positions[i]])));

    /// <summary>Position of every control.</summary>
    public NamedSetting Named(Machine machine) =>
        new(machine.Controls.Select((c, i) => KeyValuePair.Create(c.Id, c.Positions[positions[i]])));

    /// <summary>Controls that must be held against a spring or a weight in this setting.</summary>
    public IEnumerable<Control> Held(Machine machine) =>
        machine.Controls.Where((c, i) => c.Held.Contains(c.Positions[positions[i]]));

    /// <inheritdoc/>
    public bool Equals(ControlSetting? other) => other is not null && positions.AsSpan().SequenceEqual(other.positions);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as ControlSetting);

    /// <inheritdoc/>
    public override int GetHashCode() => positions.Aggregate(17, (hash, p) => (hash * 31) + p);

    private IEnumerable<string> Differences(Machine machine)
    {
        for (var c = 0; c < positions.Length; c++)
        {
            var control = machine.Controls[c];
            var position = control.Positions[positions[c]];
            if (position != control.Rest)
            {
                yield return control.Said(position);
            }
        }
    }
}
