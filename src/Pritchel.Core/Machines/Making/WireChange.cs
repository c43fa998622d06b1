using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines.Making;

/// <summary>Changes to wires: drawn, recoloured, regauged, taken out, cut in two and joined again.</summary>
public static class WireChange
{
    /// <summary>Puts a wire in: a new one, or in place of the one that was called <paramref name="old"/>.</summary>
    public static MachineChange Put(Machine machine, Wire wire, WireId? old) =>
        MachineChange.Told(machine, machine with { Wires = Lists.Put(machine.Wires, wire, old, w => w.Id) });

    /// <summary>Takes a wire out.</summary>
    public static MachineChange TakeOut(Machine machine, WireId id) =>
        MachineChange.Told(machine, machine with { Wires = Lists.Without(machine.Wires, id, w => w.Id) });

    /// <summary>Wires with an end at a terminal, and which end it is.</summary>
    internal static IEnumerable<(Wire Wire, bool AtFrom)> EndingAt(Machine machine, TerminalAddress address) =>
        machine
            .Wires.SelectMany(w => new[] { (Wire: w, AtFrom: true), (Wire: w, AtFrom: false) })
            .Where(e => (e.AtFrom ? e.Wire.From : e.Wire.To).At == address);

    /// <summary>Cuts a wire half way and leads both ends to terminals. The half nearer the wire's beginning keeps its number.</summary>
    internal static Machine Cut(Machine machine, Wire wire, WireEnd first, WireEnd second)
    {
        const double Shortest = 0.02;
        var half = Math.Max(Shortest, Math.Round(wire.LengthM / 2, 3));
        var rest = wire with
        {
            Id = new WireId(Lists.Free(wire.Id.Text, machine.Wires.Select(w => w.Id.Text), letters: true)),
            From = second,
            LengthM = half,
        };
        var at = machine.Wires.ToList().FindIndex(w => w.Id == wire.Id);
        return machine with
        {
            Wires =
            [
                .. machine.Wires.Take(at),
                wire with
                {
                    To = first,
                    LengthM = half,
                },
                rest,
                .. machine.Wires.Skip(at + 1),
            ],
        };
    }

    /// <summary>
    /// Joins two wires where a part between them is gone: into one wire when they are alike, else by a splice in its place.
    /// </summary>
    internal static Machine Join(Machine machine, TerminalAddress a, TerminalAddress b, PlaceId place)
    {
        var (ends, others) = (EndingAt(machine, a).ToList(), EndingAt(machine, b).ToList());
        if (ends is [var (one, oneAtFrom)] && others is [var (other, otherAtFrom)] && Alike(one, other))
        {
            var joined = one with
            {
                From = oneAtFrom ? one.To : one.From,
                To = otherAtFrom ? other.To : other.From,
                LengthM = Math.Round(one.LengthM + other.LengthM, 3),
            };
            return machine with
            {
                Wires = Lists.Put(
                    Lists.Without(machine.Wires, other.Id, w => w.Id),
                    joined,
                    (WireId?)one.Id,
                    w => w.Id
                ),
            };
        }

        var splice = new Part
        {
            Id = new PartId(Lists.Free("SP", machine.Parts.Select(p => p.Id.Text).Append("SP"), letters: false)),
            Name = "",
            Kind = PartKinds.Splice,
            Place = place,
            Terminals = [new TerminalId("x")],
        };
        splice = splice with { Name = "splice " + splice.Id };
        var end = new WireEnd(splice.At("x"), "splice");
        Wire Led(Wire wire) =>
            wire with
            {
                From = wire.From.At == a || wire.From.At == b ? end : wire.From,
                To = wire.To.At == a || wire.To.At == b ? end : wire.To,
            };
        return machine with { Parts = [.. machine.Parts, splice], Wires = [.. machine.Wires.Select(Led)] };
    }

    private static bool Alike(Wire one, Wire other) =>
        one != other
        && one.Gauge == other.Gauge
        && one.Colours.SequenceEqual(other.Colours, StringComparer.Ordinal)
        && one.Cable == other.Cable;
}
