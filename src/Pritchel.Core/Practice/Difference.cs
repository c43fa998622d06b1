using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Practice;

/// <summary>What a machine is built otherwise in than its drawing says, and nobody knows.</summary>
public enum Difference
{
    /// <summary>No relay: what commands its coil goes straight to what it would feed.</summary>
    RelayAbsent,

    /// <summary>A lead commands a relay that is not drawn, and the relay feeds what the lead fed.</summary>
    RelayExtra,

    /// <summary>A lead between two metals is missing.</summary>
    GroundAbsent,

    /// <summary>A lead that is not drawn joins a part's metal to the battery.</summary>
    GroundExtra,

    /// <summary>A charger is left on.</summary>
    ChargerOn,

    /// <summary>A part that looks right and is of another kind: a contact that opens for one that closes, a coil for twice the volts.</summary>
    WrongKind,
}

/// <summary>A machine that differs from its drawing.</summary>
/// <param name="Machine">As it is built, but for a lead that is not there.</param>
internal sealed record Differing(Machine Machine)
{
    /// <summary>A part of the wrong kind; null for none.</summary>
    public PartId? Wrong { get; init; }

    /// <summary>A lead that is drawn and not there; null for none.</summary>
    public WireId? Missing { get; init; }
}

/// <summary>Ways in which a machine may differ from its drawing.</summary>
internal static class Differences
{
    /// <summary>Every machine that differs so around a duty.</summary>
    /// <param name="circuit">As drawn.</param>
    /// <param name="duty">What should work.</param>
    /// <param name="difference">In what.</param>
    public static IEnumerable<Differing> Of(Circuit circuit, Duty duty, Difference difference)
    {
        var machine = circuit.Machine;
        return difference switch
        {
            Difference.RelayAbsent => Relays(machine)
                .Select(r => new Differing(new LeadExchange([(r.At("87"), r.At("86"))], BothWays: false).In(machine))),
            Difference.RelayExtra => machine
                .Wires.Where(w => w.Cable is not true && circuit.PartsThat(PartTraits.StoresCharge).Any())
                .SelectMany(w =>
                    w.Ends.Where(e => e.At.Part == duty.Load || e.At.Part == duty.Control)
                        .Select(e => new Differing(WithRelay(circuit, w, e.At.Part)))
                ),
            Difference.GroundAbsent => machine
                .Wires.Where(w => w.Ends.All(e => circuit.Is(e.At.Part, PartTraits.IsMetal)))
                .Select(w => new Differing(machine) { Missing = w.Id }),
            Difference.GroundExtra => machine
                .Mounts.Select(m => m.Terminal)
                .Concat(circuit.PartsThat(PartTraits.IsMetal).Select(p => p.Addresses.First()))
                .Where(a => circuit.NodeOf(a) != circuit.Reference)
                .Select(a => new Differing(With(machine, [Lead(machine.Wires[0], "not-drawn", a, Negative(circuit))]))),
            Difference.ChargerOn => [new Differing(machine)],
            _ => [.. OtherContacts(machine), .. OtherCoils(machine)],
        };
    }

    /// <summary>What holds whatever else is wrong: a lead that is missing, a charger's volts.</summary>
    /// <param name="built">The machine as it is.</param>
    /// <param name="differing">How it differs.</param>
    /// <param name="difference">In what.</param>
    public static IReadOnlyList<PlantedFault> Always(Circuit built, Differing differing, Difference difference)
    {
        // A charger's volts over a battery's at rest.
        const double Held = 1.08;
        var some = built.Faults[0];
        return
        [
            .. from end in differing.Missing is { } missing ? new[] { missing.From, missing.To } : []
            from joint in built.Opening.Of(end)
            select Planted(some, joint, double.PositiveInfinity),
            .. from part in difference == Difference.ChargerOn ? built.PartsThat(PartTraits.StoresCharge) : []
            let cell = built.Faults.First(f =>
                f.Id.Of.Owner.Part == part.Id && f.Changes is [{ Rule: ChangeRule.Set, Amount: > 0 and < 1 }]
            )
            select Planted(cell, cell.Changes[0].Parameter, Held),
        ];
    }

    // Only what it changes matters: a planted fault stands for it.
    private static PlantedFault Planted(Fault like, ParameterId parameter, double value) =>
        new(like with { Changes = [new ParameterChange(parameter, ChangeRule.Set, value)], Paths = [] }, 1);

    private static IEnumerable<Part> Relays(Machine machine) => machine.Parts.Where(p => p.Kind == PartKinds.Relay);

    private static TerminalAddress Positive(Circuit circuit) =>
        circuit.PartsThat(PartTraits.StoresCharge).First().At("+");

    private static TerminalAddress Negative(Circuit circuit) => circuit.TerminalsAt(circuit.Reference).First();

    private static Wire Lead(Wire like, string id, TerminalAddress from, TerminalAddress to)
    {
        const string Joint = "ring";
        return like with { Id = new WireId(id), From = new(from, Joint), To = new(to, Joint), Cable = null };
    }

    private static Machine With(Machine machine, IEnumerable<Wire> more) =>
        machine with
        {
            Wires = [.. machine.Wires, .. more],
        };

    /// <summary>A lead at the load commands a relay, and the relay feeds the load from the battery.</summary>
    private static Machine WithRelay(Circuit circuit, Wire wire, PartId load)
    {
        var machine = circuit.Machine;
        var atLoad = wire.From.At.Part == load ? wire.From : wire.To;
        var relay = new Part
        {
            Id = new PartId("relay-not-drawn"),
            Name = "relay that is not drawn",
            Kind = PartKinds.Relay,
            Place = machine.Index.Part(load)!.Place,
            Terminals = [new("85"), new("86"), new("30"), new("87"), new("87a")],
        };
        var commands = atLoad with { At = relay.At("86") };
        var moved = atLoad == wire.From ? wire with { From = commands } : wire with { To = commands };
        return With(
            machine with
            {
                Parts = [.. machine.Parts, relay],
                Wires = [.. machine.Wires.Select(w => w == wire ? moved : w)],
            },
            [
                Lead(wire, "not-drawn-1", relay.At("87"), atLoad.At),
                Lead(wire, "not-drawn-2", Positive(circuit), relay.At("30")),
                Lead(wire, "not-drawn-3", relay.At("85"), Negative(circuit)),
            ]
        );
    }

    /// <summary>Switches that open where they should close.</summary>
    private static IEnumerable<Differing> OtherContacts(Machine machine) =>
        from part in machine.Parts
        where part.Kind == PartKinds.Switch && part.Contacts!.Select(c => c.Control).Distinct().Count() == 1
        let control = machine.Controls.First(c => c.Id == part.Contacts![0].Control)
        where control.Positions.Count == 2
        let contacts = part.Contacts!.Select(c => c with { ClosedIn = [.. control.Positions.Except(c.ClosedIn)] })
            .ToList()
        select new Differing(Instead(machine, part with { Contacts = contacts })) { Wrong = part.Id };

    /// <summary>Relays for twice the volts.</summary>
    private static IEnumerable<Differing> OtherCoils(Machine machine) =>
        from part in Relays(machine)
        let values = new Dictionary<string, double>(part.Values ?? new Dictionary<string, double>())
        {
            ["coilOhms"] = 340,
            ["pullInVolts"] = 14,
        }
        select new Differing(Instead(machine, part with { Values = values })) { Wrong = part.Id };

    private static Machine Instead(Machine machine, Part part) =>
        machine with
        {
            Parts = [.. machine.Parts.Select(p => p.Id == part.Id ? part : p)],
        };
}
