using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>How parts, terminals and wires of a machine are said, in one place.</summary>
public static class MachineWords
{
    /// <summary>The part that a terminal is on.</summary>
    public static Part PartAt(Machine machine, TerminalAddress address) => machine.Index.PartAt(address)!;

    /// <summary>
    /// Address that volts are measured from: the first battery's negative post, else the first body's first bolt, and on a
    /// fragment of a machine that has neither the first terminal there is.
    /// </summary>
    public static TerminalAddress ReferenceOf(Machine machine) =>
        machine.Parts.FirstOrDefault(p => PartKinds.IsBattery(p.Kind)) is { } battery ? battery.At("-")
        : FirstBody(machine) is { } body ? body.At(body.Terminals[0])
        : machine.Parts.FirstOrDefault(p => p.Terminals.Count > 0) is { } first ? first.At(first.Terminals[0])
        : throw new ArgumentException("The machine has no terminal.", nameof(machine));

    /// <summary>The machine's first ground body, or null.</summary>
    public static Part? FirstBody(Machine machine) => machine.Parts.FirstOrDefault(p => p.Kind == PartKinds.Body);

    /// <summary>
    /// The metal that a wire runs along, or null: what the file says, or else a body where one of its ends is, in its zone, or
    /// the machine's first.
    /// </summary>
    public static Part? MetalAlong(Machine machine, Wire wire)
    {
        if (wire.NoMetal == true)
        {
            return null;
        }

        if (wire.ChafesOn is { } named)
        {
            return machine.Index.Part(named);
        }

        var bodies = machine.Parts.Where(p => p.Kind == PartKinds.Body).ToList();
        var here = wire.Ends.Select(e => machine.Index.PartAt(e.At)?.Place).ToList();
        var along = bodies.Where(b => PlaceOf(machine, b).Zone == wire.Zone).ToList();
        return along.Find(b => here.Contains(b.Place)) ?? along.FirstOrDefault() ?? bodies.FirstOrDefault();
    }

    /// <summary>Place of a part.</summary>
    public static Place PlaceOf(Machine machine, Part part) => machine.Index.Place(part.Place)!;

    /// <summary>"key switch B", "coupling P1 cavity 3, dash side", "splice SP2".</summary>
    public static string Terminal(Machine machine, TerminalAddress address)
    {
        var (part, terminal) = (PartAt(machine, address), address.Terminal);
        return part.Kind switch
        {
            PartKinds.Coupling => $"{part.Name} cavity {Cavity.NameOf(terminal)}, {SideOf(part, terminal)}",
            PartKinds.Splice => part.Name,
            PartKinds.Body => $"{part.Name}, {terminal}",
            _ when terminal.Text is "case" => part.Name + " body",
            _ => $"{part.Name} {Letter(terminal)}",
        };
    }

    /// <summary>A terminal's letter as printed: a minus is a minus.</summary>
    public static string Letter(TerminalId terminal) => terminal.Text is "-" ? "−" : terminal.Text;

    /// <summary>With its preposition: "at key switch B", "in coupling P1…", "on frame, seat bolt".</summary>
    public static string AtTerminal(Machine machine, TerminalAddress address)
    {
        var part = PartAt(machine, address);
        var word = part.Kind switch
        {
            PartKinds.Coupling => "in ",
            PartKinds.Splice => "",
            PartKinds.Body => "on ",
            _ => "at ",
        };
        return word + Terminal(machine, address);
    }

    /// <summary>"grey with green tracer".</summary>
    public static string Colours(Wire wire) =>
        wire.Colours.Count == 1 ? wire.Colours[0] : $"{wire.Colours[0]} with {wire.Colours[1]} tracer";

    /// <summary>"grey wire with green tracer, key switch S to coupling P1 cavity 4".</summary>
    public static string WireRun(Machine machine, Wire wire)
    {
        var noun = wire.Cable == true ? "cable" : "wire";
        var colour =
            wire.Colours.Count == 1
                ? $"{wire.Colours[0]} {noun}"
                : $"{wire.Colours[0]} {noun} with {wire.Colours[1]} tracer";
        return $"{colour}, {Short(machine, wire.From.At)} to {Short(machine, wire.To.At)}";
    }

    /// <summary>Terminal without a coupling's side: "coupling P1 cavity 3".</summary>
    public static string Short(Machine machine, TerminalAddress address)
    {
        var part = PartAt(machine, address);
        return part.Kind == PartKinds.Coupling
            ? $"{part.Name} cavity {Cavity.NameOf(address.Terminal)}"
            : Terminal(machine, address);
    }

    private static string SideOf(Part part, TerminalId terminal) =>
        part.Sides is { Count: 2 } sides ? sides[Cavity.SideOf(terminal)] : "side " + terminal.Text[^1];
}
