using Pritchel.Core.Faults;
using Pritchel.Core.Simulation.Devices;

namespace Pritchel.Core.Machines;

/// <summary>How parts, terminals and wires of a machine are said, in one place.</summary>
public static class MachineWords
{
    /// <summary>Addresses of a wire's two ends, each with the terminal it is joined to.</summary>
    public static IEnumerable<(string Name, string At)> EndsOf(Wire wire) =>
        [(wire.Id + "@from", wire.From.At), (wire.Id + "@to", wire.To.At)];

    /// <summary>Splits "part.terminal".</summary>
    public static (string Part, string Terminal) Split(string address)
    {
        var dot = address.IndexOf('.', StringComparison.Ordinal);
        return dot < 0 ? (address, "") : (address[..dot], address[(dot + 1)..]);
    }

    /// <summary>The part a terminal's address names.</summary>
    public static Part PartAt(Machine machine, string address)
    {
        var (id, _) = Split(address);
        return machine.Parts.First(p => string.Equals(p.Id, id, StringComparison.Ordinal));
    }

    /// <summary>Address that volts are measured from: the first battery's negative post, else the first body's first bolt.</summary>
    public static string ReferenceOf(Machine machine) =>
        machine.Parts.FirstOrDefault(p => PartKinds.IsBattery(p.Kind)) is { } battery ? battery.Id + ".-"
        : FirstBody(machine) is { } body ? $"{body.Id}.{body.Terminals[0]}"
        : throw new ArgumentException("The machine has neither battery nor body.", nameof(machine));

    /// <summary>The machine's first ground body, or null.</summary>
    public static Part? FirstBody(Machine machine) =>
        machine.Parts.FirstOrDefault(p => string.Equals(p.Kind, PartKinds.Body, StringComparison.Ordinal));

    /// <summary>Place of a part.</summary>
    public static Place PlaceOf(Machine machine, Part part) =>
        machine.Places.First(p => string.Equals(p.Id, part.Place, StringComparison.Ordinal));

    /// <summary>"key switch B", "coupling P1 cavity 3, dash side", "splice SP2".</summary>
    public static string Terminal(Machine machine, string address)
    {
        var part = PartAt(machine, address);
        var (_, terminal) = Split(address);
        return part.Kind switch
        {
            PartKinds.Coupling => $"{part.Name} cavity {terminal[..^1]}, {SideOf(part, terminal)}",
            "splice" => part.Name,
            PartKinds.Body => $"{part.Name}, {terminal}",
            _ when terminal is "case" => part.Name + " body",
            _ => $"{part.Name} {Letter(terminal)}",
        };
    }

    /// <summary>A terminal's letter as printed: a minus is a minus.</summary>
    public static string Letter(string terminal) => terminal is "-" ? "−" : terminal;

    /// <summary>With its preposition: "at key switch B", "in coupling P1…", "on frame, seat bolt".</summary>
    public static string AtTerminal(Machine machine, string address)
    {
        var part = PartAt(machine, address);
        var word = part.Kind switch
        {
            PartKinds.Coupling => "in ",
            "splice" => "",
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

    /// <summary>The repair that renews a wire with its ends.</summary>
    public static Faults.Repair RepairOf(Machine machine, Wire wire) =>
        new(
            "wire:" + wire.Id,
            WireRun(machine, wire),
            $"{string.Join('/', wire.Colours)} {(wire.Cable == true ? "cable" : "wire")} {wire.Id}",
            wire.Cable == true ? Faults.RepairKind.RenewCable : Faults.RepairKind.RenewWire,
            PartAt(machine, wire.From.At).Place
        );

    /// <summary>Terminal without a coupling's side: "coupling P1 cavity 3".</summary>
    public static string Short(Machine machine, string address)
    {
        var part = PartAt(machine, address);
        var (_, terminal) = Split(address);
        return string.Equals(part.Kind, PartKinds.Coupling, StringComparison.Ordinal)
            ? $"{part.Name} cavity {terminal[..^1]}"
            : Terminal(machine, address);
    }

    private static string SideOf(Part part, string terminal) =>
        part.Sides is { Count: 2 } sides ? sides[terminal.EndsWith('a') ? 0 : 1] : "side " + terminal[^1];
}
