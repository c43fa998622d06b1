using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>Readings that no single fault explains.</summary>
public class UnexplainedTests
{
    private static DiagnosisKit Kit => BeliefsTests.Kit;

    private static Reading Read(string quantity, string words, string red, double figure)
    {
        var circuit = Kit.Circuit;
        var condition = Kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.Observable.Key == quantity && c.Words.Contains(words, StringComparison.Ordinal));
        var at = new ProbePair(condition, circuit.NodeOf(red), circuit.Reference);
        return new Reading(at, Texts.Reads(quantity).Scaled(figure), SymptomNow.Present);
    }

    private static readonly Complaint Silent = new()
    {
        Duty = new DutyId("cranks"),
        Heard = Heard.Nothing,
        Failed = 3,
        Tried = 3,
    };

    private static readonly Complaint WorkedOn = Silent with { Circumstances = new Circumstances(RecentWork: true) };

    private static Beliefs Believe(params Reading[] readings) => Believe(Silent, readings);

    private static Beliefs Believe(Complaint complaint, params Reading[] readings) =>
        Beliefs.Weigh(Kit.Table, complaint, Meter.Ordinary, readings);

    [Fact]
    public void A_blown_fuse_and_an_open_line_behind_it_are_said_to_be_two()
    {
        // Battery volts before the fuse and none behind it; and behind it, by ohms, no coil to be found either.
        var beliefs = Believe(
            Read(Quantity.Volts, "key START", "fuse.1", 12.5),
            Read(Quantity.Volts, "key START", "fuse.2", 0),
            Read(Quantity.Ohms, "fuse out · key START", "fuse.2", double.PositiveInfinity)
        );
        var found = Unexplained.Of(beliefs);
        Assert.NotNull(found.Two);
        var two = new[] { found.Two.Value.First, found.Two.Value.Second };
        Assert.Contains(two, f => f.Repair.Id.Text == "part:fuse");
        Assert.Contains(two, f => f.Repair.Id.Text != "part:fuse");
    }

    [Fact]
    public void One_slipped_probe_among_good_readings_is_the_odd_one()
    {
        // The key passes its volts and the next joint has none: wire 4. Then a probe that slipped at the battery itself.
        var slipped = Read(Quantity.Volts, "key START", "battery.+", 0.4);
        var beliefs = Believe(
            Read(Quantity.Volts, "key START", "key.S", 12.3),
            Read(Quantity.Volts, "key START", "blade.in", 0),
            slipped
        );
        var found = Unexplained.Of(beliefs);
        Assert.Equal(slipped, found.Odd);
        Assert.Equal("wire:4", found.WithoutIt?.Id.Text);
    }

    /// <summary>
    /// Somebody put wire 4 on the key's lamp terminal. It is dead at START, which an open wire would be too, and live at
    /// LIGHTS, which nothing drawn makes it: with the brake down it cranks there, at its rated 10.8 V less what the wires take.
    /// </summary>
    [Fact]
    public void A_wire_on_the_wrong_terminal_is_the_smallest_change_that_fits()
    {
        var beliefs = Believe(
            Read(Quantity.Volts, "key START", "key.S", 12.4),
            Read(Quantity.Volts, "key START", "blade.in", 0),
            Read(Quantity.Volts, "key START", "frame.battery bolt", 0),
            Read(Quantity.Volts, "key LIGHTS", "frame.battery bolt", 0),
            Read(Quantity.Volts, "key LIGHTS", "blade.in", 10.6),
            Read(Quantity.Volts, "key LIGHTS", "blade.out", 10.5)
        );
        Assert.True(
            Unexplained.Is(beliefs),
            string.Join(", ", beliefs.Suspects.Take(3).Select(s => $"{s.Id} {s.Share:0.00} {s.Likeliest?.Id}"))
        );
        var found = Unexplained.Of(beliefs).Drawn;
        Assert.NotNull(found);
        Assert.Equal("key.L", found.At.Text);
        Assert.Contains("key switch S to blade switch", found.Words, StringComparison.Ordinal);
    }

    /// <summary>
    /// The start lead and the lamps' lead of the key have changed places: at START the lamps are fed and the start line is not, at
    /// LIGHTS the other way round. Either lead moved by itself leaves one of the two dead in both.
    /// </summary>
    [Fact]
    public void Two_leads_that_changed_places_are_found()
    {
        var beliefs = Believe(
            Read(Quantity.Volts, "key START", "blade.in", 0),
            Read(Quantity.Volts, "key START", "lamp-left.+", 11.9),
            Read(Quantity.Volts, "key LIGHTS", "lamp-left.+", 0),
            Read(Quantity.Volts, "key LIGHTS", "blade.in", 10.6)
        );
        Assert.True(Unexplained.Is(beliefs));
        var found = Unexplained.Of(beliefs).Drawn;
        Assert.Equal("key", found?.At.Part.Text);
        Assert.Contains("changed places", found!.Words, StringComparison.Ordinal);

        // A headlamp that was told to light has its lead where it belongs.
        var lights = Silent with
        {
            Also = [new AlsoTold(new DutyId("does-lamp-left"), true)],
        };
        Assert.Null(Unexplained.Of(Believe(lights, [.. beliefs.Readings])).Drawn);
    }

    /// <summary>
    /// Live in the coupling before the brake switch and dead behind it. An open contact shows that, and so do its leads on the wrong pair
    /// of its terminals: after somebody's work that is said. Read at its own two terminals only the contact is left.
    /// </summary>
    [Fact]
    public void After_somebodys_work_leads_put_on_wrongly_stand_beside_a_fault_that_reads_the_same()
    {
        Reading[] around =
        [
            Read(Quantity.Volts, "key START", "P1.2b", 12.4),
            Read(Quantity.Volts, "key START", "P2.1a", 0),
        ];
        Assert.Null(Believe(around).WiredOtherwise);
        var worked = Believe(WorkedOn, around);
        Assert.NotNull(worked.WiredOtherwise);
        Assert.Null(Believe(WorkedOn with { JumpStarted = true }, around).WiredOtherwise);
        Assert.Contains(worked.WiredOtherwise.At.Part.Text, new[] { "brake", "P1", "P2" });

        Reading[] itself =
        [
            .. around,
            Read(Quantity.Volts, "key START", "brake.in", 12.4),
            Read(Quantity.Volts, "key START", "brake.out", 0),
        ];
        Assert.Equal("part:brake", Believe(WorkedOn, itself).Suspects[0].Id.Text);
        Assert.Null(Believe(WorkedOn, itself).WiredOtherwise);
    }

    /// <summary>What hands did is oftener no single fault of the drawing, and all the more where it never worked.</summary>
    [Fact]
    public void None_of_these_is_likelier_after_work_and_likelier_still_with_new_wiring()
    {
        var reading = Read(Quantity.Volts, "key START", "blade.in", 0);
        double None(Complaint complaint) => Believe(complaint, reading).NoneOfThese;
        Assert.InRange(None(WorkedOn), 1.5 * None(Silent), 1);
        Assert.InRange(
            None(Silent with { Circumstances = new Circumstances(NewWiring: true) }),
            1.5 * None(WorkedOn),
            1
        );
    }

    [Fact]
    public void One_reading_is_no_contradiction()
    {
        var found = Unexplained.Of(Believe(Read(Quantity.Volts, "key START", "key.S", 12.3)));
        Assert.Equal(new Unexplained(null, null, null), found);
    }
}
