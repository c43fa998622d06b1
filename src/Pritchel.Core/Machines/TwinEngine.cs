using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>
/// The other of two like engines: what stands where a part, terminal or wire end of this one stands. The best reference
/// there is for a reading is the same reading on the engine that works.
/// </summary>
public sealed class TwinEngine
{
    private readonly Machine machine;
    private readonly (Engine Engine, string Prefix)[] sides;

    private TwinEngine(Machine machine, (Engine Engine, string Prefix)[] sides)
    {
        this.machine = machine;
        this.sides = sides;
    }

    /// <summary>The pair of engines of a machine; null unless it has two whose parts are named alike but for how they begin.</summary>
    public static TwinEngine? Of(Machine machine)
    {
        if (machine.Engines is not { Count: 2 } engines)
        {
            return null;
        }

        var sides = engines
            .Select(e => (e, Shared([.. machine.Parts.Where(p => p.Engine == e.Id).Select(p => p.Id.Text)])))
            .ToArray();
        return sides.All(s => s.Item2.Length > 0) && sides[0].Item2 != sides[1].Item2
            ? new TwinEngine(machine, sides)
            : null;
    }

    /// <summary>The engine that a point does not belong to; null for what both share.</summary>
    public Engine? OtherThan(PointId point) =>
        SideOf(point.Terminal?.Part.Text ?? point.WireEnd!.Value.Wire.Text) is { } side ? sides[1 - side].Engine : null;

    /// <summary>The same place on the other engine; null for what both share, or where the other has none.</summary>
    public PointId? Opposite(PointId point) =>
        point.WireEnd is { } end ? Opposite(end)
        : point.Terminal is { } terminal ? Opposite(terminal)
        : null;

    private WireEndId? Opposite(WireEndId end) =>
        machine.Index.Wire(end.Wire) is { } wire
        && (Opposite(wire.From.At), Opposite(wire.To.At)) is ({ } from, { } to)
        && machine.Wires.FirstOrDefault(w => w.From.At == from && w.To.At == to) is { } other
            ? new WireEndId(other.Id, end.Side)
            : null;

    private TerminalAddress? Opposite(TerminalAddress at)
    {
        if (SideOf(at.Part.Text) is { } side)
        {
            var opposite = new PartId(sides[1 - side].Prefix + at.Part.Text[sides[side].Prefix.Length..]);
            return Having(opposite.At(at.Terminal));
        }

        // A stud of what both share may be named after the engine.
        var own = Array.FindIndex(sides, s => s.Engine.Id.Text == at.Terminal.Text);
        return own >= 0 ? Having(at.Part.At(sides[1 - own].Engine.Id.Text)) : null;
    }

    /// <summary>A position of the controls with this engine's put on the other's; null unless every one has its like.</summary>
    public NamedSetting? Opposite(NamedSetting setting)
    {
        var turned = new Dictionary<ControlId, PositionId>();
        foreach (var (control, position) in setting)
        {
            var like = SideOf(control.Text) is { } side
                ? new ControlId(sides[1 - side].Prefix + control.Text[sides[side].Prefix.Length..])
                : control;
            if (machine.Index.Control(like)?.Positions.Contains(position) != true)
            {
                return null;
            }

            turned[like] = position;
        }

        return new NamedSetting(turned);
    }

    private int? SideOf(string name)
    {
        var side = Array.FindIndex(sides, s => name.StartsWith(s.Prefix, StringComparison.Ordinal));
        return side < 0 ? null : side;
    }

    private TerminalAddress? Having(TerminalAddress at) =>
        machine.Index.Part(at.Part)?.Terminals.Contains(at.Terminal) == true ? at : null;

    /// <summary>How all of some names begin.</summary>
    private static string Shared(IReadOnlyList<string> names)
    {
        if (names.Count == 0)
        {
            return "";
        }

        var shared = names[0].Length;
        foreach (var name in names)
        {
            shared = Math.Min(shared, name.Length);
            while (!name.AsSpan(0, shared).SequenceEqual(names[0].AsSpan(0, shared)))
            {
                shared--;
            }
        }

        return names[0][..shared];
    }
}
