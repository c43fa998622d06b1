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
            .Select(e => (e, Shared([.. machine.Parts.Where(p => p.Engine == e.Id).Select(p => p.Id)])))
            .ToArray();
        return sides.All(s => s.Item2.Length > 0) && sides[0].Item2 != sides[1].Item2
            ? new TwinEngine(machine, sides)
            : null;
    }

    /// <summary>The engine that an address does not belong to; null for what both share.</summary>
    public Engine? OtherThan(string address) => SideOf(address) is { } side ? sides[1 - side].Engine : null;

    /// <summary>The same place on the other engine; null for what both share, or where the other has none.</summary>
    public string? Opposite(string address)
    {
        var at = address.IndexOf('@', StringComparison.Ordinal);
        if (at >= 0)
        {
            return
                machine.Wires.FirstOrDefault(w => w.Id == address[..at]) is { } wire
                && (Opposite(wire.From.At), Opposite(wire.To.At)) is ({ } from, { } to)
                && machine.Wires.FirstOrDefault(w => w.From.At == from && w.To.At == to) is { } other
                ? other.Id + address[at..]
                : null;
        }

        var (part, terminal) = MachineWords.Split(address);
        if (SideOf(address) is { } side)
        {
            var opposite = sides[1 - side].Prefix + part[sides[side].Prefix.Length..];
            return Has(opposite, terminal) ? $"{opposite}.{terminal}" : null;
        }

        // A stud of what both share may be named after the engine.
        var own = Array.FindIndex(sides, s => s.Engine.Id == terminal);
        return own >= 0 && Has(part, sides[1 - own].Engine.Id) ? $"{part}.{sides[1 - own].Engine.Id}" : null;
    }

    /// <summary>A position of the controls with this engine's put on the other's; null unless every one has its like.</summary>
    public IReadOnlyDictionary<string, string>? Opposite(IReadOnlyDictionary<string, string> setting)
    {
        var turned = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (control, position) in setting)
        {
            var side = Array.FindIndex(sides, s => control.StartsWith(s.Prefix, StringComparison.Ordinal));
            var like = side < 0 ? control : sides[1 - side].Prefix + control[sides[side].Prefix.Length..];
            if (
                machine.Controls.FirstOrDefault(c => c.Id == like)?.Positions.Contains(position, StringComparer.Ordinal)
                != true
            )
            {
                return null;
            }

            turned[like] = position;
        }

        return turned;
    }

    private int? SideOf(string address)
    {
        var side = Array.FindIndex(sides, s => address.StartsWith(s.Prefix, StringComparison.Ordinal));
        return side < 0 ? null : side;
    }

    private bool Has(string part, string terminal) =>
        machine.Parts.FirstOrDefault(p => p.Id == part)?.Terminals.Contains(terminal, StringComparer.Ordinal) == true;

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
