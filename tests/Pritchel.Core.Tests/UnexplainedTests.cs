using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
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

    private static Beliefs Believe(params Reading[] readings) =>
        Beliefs.Weigh(
            Kit.Table,
            new Complaint
            {
                Duty = new DutyId("cranks"),
                Heard = Heard.Nothing,
                Failed = 3,
                Tried = 3,
            },
            Meter.Ordinary,
            readings
        );

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

    [Fact]
    public void One_reading_is_no_contradiction()
    {
        var found = Unexplained.Of(Believe(Read(Quantity.Volts, "key START", "key.S", 12.3)));
        Assert.Equal(new Unexplained(null, null, null), found);
    }
}
