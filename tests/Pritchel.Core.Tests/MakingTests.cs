using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Machines.Making;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Changes to a machine: what is cut can be joined again, what is put in works, what would be wrong is refused.</summary>
public class MakingTests
{
    public static TheoryData<string> Machines => [.. Shipped.Ids];

    private static readonly Control Clutch = new(
        new ControlId("clutch"),
        "Clutch pedal",
        [new PositionId("up"), new PositionId("down")],
        new PositionId("up"),
        []
    );

    [Theory]
    [MemberData(nameof(Machines))]
    public void A_coupling_put_into_any_wires_and_taken_out_again_leaves_the_machine_as_it_was(string id)
    {
        var machine = Shipped.Read(id);
        var random = new Random(41);
        for (var tries = 0; tries < 5; tries++)
        {
            var wires = machine.Wires.OrderBy(_ => random.Next()).Take(1 + random.Next(4)).Select(w => w.Id).ToList();
            var put = PartChange.PutInCoupling(machine, "coupling X9", machine.Places[0].Id, ["one", "other"], wires);
            Assert.Empty(MachineDraft.Refusals(put));
            Assert.Equal(machine.Wires.Count + wires.Count, put.Machine.Wires.Count);
            var added = put.Machine.Parts[^1];
            Assert.True(PartChange.CanBeClosedUp(put.Machine, added));
            var back = PartChange.CloseUp(put.Machine, added.Id).Machine;
            Assert.All(
                MachineDifference.Between(machine, back),
                d => Assert.Contains("lengthM", d, StringComparison.Ordinal)
            );
            Assert.Equal(machine.Wires.Sum(w => w.LengthM), back.Wires.Sum(w => w.LengthM), 0.01);
        }
    }

    [Theory]
    [MemberData(nameof(Machines))]
    public void Every_shipped_machine_does_its_duties_and_lacks_nothing(string id) =>
        Assert.Empty(DutyCheck.Lacks(Shipped.Read(id)));

    [Fact]
    public void An_interlock_in_the_start_wire_lets_the_tractor_crank_only_in_its_position()
    {
        var tractor = Shipped.Read("orchard-tractor-4");
        var change = PartChange.PutInSwitch(
            tractor,
            "clutch switch",
            new PlaceId("pedal"),
            new WireId("8"),
            Clutch,
            [new PositionId("down")]
        );
        Assert.Empty(MachineDraft.Refusals(change));
        Assert.Equal(
            new PositionId("down"),
            change.Machine.Duties.Single(d => d.Id.Text == "cranks").Setting[new ControlId("clutch")]
        );
        var circuit = Circuit.Compile(change.Machine);
        var start = new Dictionary<string, string> { ["key"] = "START", ["brake"] = "down" };
        Assert.Empty(Outcome(circuit, start).Cranks);
        Assert.NotEmpty(Outcome(circuit, new(start) { ["clutch"] = "down" }).Cranks);
    }

    [Fact]
    public void A_coupling_taken_out_leaves_one_wire_of_two_alike_and_a_splice_of_others()
    {
        var tractor = Shipped.Read("orchard-tractor-4");
        var change = PartChange.CloseUp(tractor, new PartId("P3"));
        Assert.Empty(MachineDraft.Refusals(change));
        Assert.DoesNotContain(change.Machine.Parts, p => p.Id.Text == "P3");

        // Cavities 2, 3 and 4 join wires alike in colour and gauge; cavity 1 joins 1.5 mm² to 1 mm², which needs a splice.
        Assert.Equal(tractor.Wires.Count - 3, change.Machine.Wires.Count);
        var splice = Assert.Single(change.Machine.Parts.Except(tractor.Parts));
        Assert.Equal(PartKinds.Splice, splice.Kind);
        Assert.Equal(
            ["13", "14"],
            change
                .Machine.Wires.Where(w => w.From.At == splice.At("x") || w.To.At == splice.At("x"))
                .Select(w => w.Id.Text)
        );
        Assert.Empty(DutyCheck.Lacks(change.Machine));
    }

    [Fact]
    public void A_machine_drawn_from_nothing_lacks_less_and_less_until_its_lamp_lights()
    {
        var machine = FrameChange.Empty(new MachineId("shed-light"), "Shed light", "lighting", "Pull the plug.");
        Assert.Contains(
            DutyCheck.Lacks(machine),
            p => p.Message.Contains("battery or a ground body", StringComparison.Ordinal)
        );
        machine = PartChange.Put(machine, Part("battery", "battery", "+", "-"), null).Machine;
        machine = PartChange.Put(machine, Part("lamp", "lamp", "+", "-"), null).Machine;
        Assert.All(DutyCheck.Lacks(machine), p => Assert.True(p.Unfinished));
        Assert.Equal(2, DutyCheck.Lacks(machine).Count);
        machine = WireChange.Put(machine, Wire("1", "battery.+", "lamp.+"), null).Machine;
        machine = FrameChange
            .Put(
                machine,
                new Duty(new DutyId("glows"), "glows", new Dictionary<ControlId, PositionId>(), new PartId("lamp")),
                null
            )
            .Machine;
        Assert.Contains(
            "does not do “glows”",
            Assert.Single(DutyCheck.Lacks(machine)).Message,
            StringComparison.Ordinal
        );
        machine = WireChange.Put(machine, Wire("2", "battery.-", "lamp.-"), null).Machine;
        Assert.Empty(DutyCheck.Lacks(machine));
        Assert.NotNull(MachineFile.Read(MachineFile.Write(machine)).Machine);
    }

    [Fact]
    public void A_change_that_would_make_the_machine_wrong_is_refused_by_its_field()
    {
        var tractor = Shipped.Read("orchard-tractor-4");
        var wire = tractor.Wires.Single(w => w.Id.Text == "8");
        string Refused(Wire changed) =>
            Assert
                .Single(MachineDraft.Refusals(WireChange.Put(tractor, changed, new WireId("8"))))
                .Pointer.Split('/', 4)[3];
        Assert.Equal("gauge", Refused(wire with { Gauge = "9 furlongs" }));
        Assert.Equal("lengthM", Refused(wire with { LengthM = -1 }));
        Assert.Equal(
            "id",
            Assert
                .Throws<ChangeRefusedException>(() =>
                    WireChange.Put(tractor, wire with { Id = new WireId("7") }, new WireId("8"))
                )
                .Field
        );
        Assert.Equal("to/at", Refused(wire with { To = wire.To with { At = TerminalAddress.Of("nowhere.x") } }));
        Assert.Equal(
            "terminals",
            Assert
                .Throws<ChangeRefusedException>(() =>
                    PartChange.Put(
                        tractor,
                        tractor.Parts.Single(p => p.Id.Text == "battery") with
                        {
                            Terminals = [new TerminalId("+")],
                        },
                        new PartId("battery")
                    )
                )
                .Field
        );
        Assert.Contains(
            "duty",
            Assert.Throws<ChangeRefusedException>(() => PartChange.TakeOut(tractor, new PartId("starter"))).Message,
            StringComparison.Ordinal
        );
        Assert.Throws<ChangeRefusedException>(() => FrameChange.TakeOutPlace(tractor, new PlaceId("dash")));
        Assert.Throws<ChangeRefusedException>(() => FrameChange.TakeOutControl(tractor, new ControlId("seat")));
        Assert.Throws<ChangeRefusedException>(() =>
            PartChange.PutInCoupling(tractor, "P9", new PlaceId("dash"), ["a", "b"], [new WireId("8"), new WireId("8")])
        );
        Assert.Throws<ChangeRefusedException>(() =>
            PartChange.PutInSwitch(
                tractor,
                "x",
                new PlaceId("dash"),
                new WireId("999"),
                Clutch,
                [new PositionId("down")]
            )
        );
    }

    [Fact]
    public void Normal_readings_of_the_tractor_are_those_of_its_drawing()
    {
        // Coil 4.2 ohm and fuel-cut 14 ohm are the kinds' figures; the line at START ends at the battery's own post.
        var parts = NormalReadings.OfParts(Shipped.Read("orchard-tractor-4"));
        Assert.Contains(parts, r => r.Where == "start solenoid S to case" && Math.Abs(r.Value - 4.2) < 0.1);
        Assert.Contains(parts, r => r.Where == "fuel-cut solenoid in to case" && Math.Abs(r.Value - 14) < 0.2);
        var cranks = NormalReadings.OfDuties(Shipped.Tractor).Single(d => d.Duty.Id.Text == "cranks").Volts;
        Assert.InRange(cranks[0].Value, 9.6, 12.6);
        Assert.Equal(cranks.Select(c => c.Value).OrderDescending(), cranks.Select(c => c.Value));
        Assert.Equal(0, cranks[^1].Value, 1e-6);
    }

    private static Outcome Outcome(Circuit circuit, Dictionary<string, string> setting) =>
        Simulation.Outcome.Of(
            new Case { Circuit = circuit, Settings = [circuit.Setting(null), circuit.Setting(setting)] }
        );

    private static Part Part(string id, string kind, params string[] terminals) =>
        new()
        {
            Id = new PartId(id),
            Name = id,
            Kind = kind,
            Place = new PlaceId("frame"),
            Terminals = [.. terminals.Select(TerminalId.Of)],
        };

    private static Wire Wire(string id, string from, string to) =>
        new()
        {
            Id = new WireId(id),
            From = new WireEnd(TerminalAddress.Of(from), "ring"),
            To = new WireEnd(TerminalAddress.Of(to), "push-on"),
            Gauge = "1.5 mm2",
            LengthM = 1,
            Colours = ["red"],
            Zone = "frame",
        };
}
