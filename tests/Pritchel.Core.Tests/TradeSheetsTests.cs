using System.Collections.Concurrent;
using Pritchel.Core.Metering;
using Pritchel.Core.PartTests;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// Sheets read as a mechanic would read them, each figure and each verdict written by hand from what the circuit must do: where
/// the volts go, what a winding's end lets through, what a relay does in time.
/// </summary>
public class TradeSheetsTests
{
    private const double Ol = double.PositiveInfinity;

    private static readonly Meter Nulled = Meter.Ordinary with { LeadsNulled = true };

    // Worked out once for all cases of a sheet: a second to ten each.
    private static readonly ConcurrentDictionary<(string Kind, string Sheet), Lazy<SheetTable>> Tables = new();

    public static TheoryData<string, string, string, string> Cases =>
        new()
        {
            // 4 V on the ground side of a starter that gets 7.5 of 11.8: strap or its joint.
            {
                "starter",
                "starter",
                "rest 12.6, battery 11.8, starter 7.5, plus-side 0.25, ground-side 4.0, amps 62, turns 1",
                "ground side"
            },
            {
                "starter",
                "starter",
                "rest 12.6, battery 12.2, starter 5.2, plus-side 6.8, ground-side 0.1, amps 40, turns 1",
                "plus side"
            },
            // All the volts, no amps, nothing moves: brushes or winding.
            {
                "starter",
                "starter",
                "rest 12.6, battery 12.6, starter 12.6, plus-side 0, amps 0, turns 0",
                "winding open"
            },
            // Most amps of all and nothing moves.
            {
                "starter",
                "starter",
                "rest 12.6, battery 8.2, starter 7.1, plus-side 0.7, ground-side 0.4, amps 215, turns 0",
                "locked, or the engine is seized"
            },
            { "starter-solenoid", "two-winding-solenoid", "pull-in 0.5, hold OL", "hold winding open" },
            { "starter-solenoid", "two-winding-solenoid", "pull-in OL, hold 1.3, pulls 0", "pull-in winding open" },
            { "starter-solenoid", "two-winding-solenoid", "pull-in 0.5, hold 1.3, pulls 2, closed OL", "burnt away" },
            {
                "starter-solenoid",
                "two-winding-solenoid",
                "pull-in 0.5, hold 1.3, closed 0.2, let-go 0.2 x2",
                "stays in"
            },
            { "stop-solenoid", "engine-solenoid", "ohms 1.0, works 0, amps 10", "plunger seized" },
            { "run-solenoid", "engine-solenoid", "ohms OL, works 0", "winding open" },
            { "load", "fed-load", "ohms 0.6, amps 10", "shorted" },
            { "load", "electric-clutch", "ohms OL, works 0", "open" },
            // A resistor plug that beeps to its shell through soot, then one whose resistor is gone.
            { "spark-plug", "spark-plug", "resistor 5000, insulator 40000 x2", "fouled" },
            { "spark-plug", "spark-plug", "resistor OL x2, insulator OL", "resistor open" },
            // A tenth of a volt on both legs, regulator on or off: nothing left to build up from.
            { "generator", "generator-running", "residue 0.1 x2, leg-1 0.1, leg-2 0.1", "no residual magnetism" },
            // One leg sound, the other dead.
            { "generator", "generator-running", "residue 2.4, leg-1 119, leg-2 0.1 x2", "winding 2a to 2b open" },
            // Nothing after key-off, though its contact never closed either.
            { "timer-after-release", "timer", "rest OL, let-go 0.2, over 0.2", "never times out" },
            { "timer-off-delay", "timer", "rest OL, fed 0.2, let-go 0.2, over 0.2", "never times out" },
            // Neither joined nor open: a gauge's sender.
            { "pressure-switch", "pressure-switch", "standing 62, idle 62", "sender is fitted" },
            // What condemns is read twice.
            { "pressure-switch", "pressure-switch", "standing 0.2, idle 0.2 x2", "never opens" },
            {
                "regulator-3",
                "regulator",
                "rest 12.6, idle 14.9, speed 16.3, loaded 15.6, legs 14",
                "does not hold its volts"
            },
            // Dozens of volts at its legs and none gained at the battery.
            { "regulator-3", "regulator", "rest 12.5, idle 12.5, speed 12.5, loaded 12.4, legs 46", "gives nothing" },
            { "regulator-half-wave", "regulator", "rest 12.5, idle 12.5, speed 12.5, loaded 12.4, legs 0", "winding" },
            // A flat battery holds an honest small source down for a while: it is charged first, nothing is condemned.
            {
                "regulator-half-wave",
                "regulator",
                "rest 11.9, idle 12.0, speed 13.1, loaded 11.6, legs 23",
                "battery: flat"
            },
            // No spark with the kill lead off, and an open primary: nothing is left to blame but the coil.
            { "magneto", "magneto", "spark 0, primary OL x2", "primary open" },
            { "magneto", "magneto", "spark 0, primary 0.6, secondary OL x2", "secondary open" },
            { "exciter-winding", "flywheel-winding", "ohms OL x2, ac 0", "open" },
            // One and a half volts over a contact at two amps: three quarters of an ohm that a beep never shows.
            { "relay", "under-load", "lost-30-87 1.5 x2", "contact" },
            { "start-solenoid", "under-load", "lost-B-M 0.9 x2", "contact" },
            { "fuse", "under-load", "lost-1-2 12.6 x2", "blown" },
            // A winding that meets its core near one end: that lead reads next to nothing to it.
            { "stator-1", "stator-1", "ohms 0.5, core-a 0.1, core-b 0.4, ac 41", "core" },
            { "alternator", "alternator", "rest 12.5, field-volts 12.5, idle 12.5, speed 12.5", "field open" },
            { "alternator", "alternator", "rest 12.5, field-volts 0, field-ohms 4.2, idle 12.5", "charge lamp" },
            {
                "alternator",
                "alternator",
                "rest 12.5, field-volts 0.7, field-ohms 4, idle 15.6, speed 16.2",
                "does not hold"
            },
        };

    [Theory]
    [MemberData(nameof(Cases))]
    public void A_fault_as_the_trade_reads_it_is_named(string kind, string sheet, string read, string named)
    {
        var verdict = Judge(kind, sheet, read);
        Assert.Equal(SheetOutcome.Bad, verdict.Outcome);
        Assert.Contains(named, verdict.Among[0].Words, StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>
    /// Sound ones: a starter of a small engine, a regulator that holds, an alternator that charges, and an honest source behind
    /// a flat battery, which holds it down for a while.
    /// </summary>
    [Theory]
    [InlineData(
        "starter",
        "starter",
        "rest 12.6, battery 10.7, starter 10.2, plus-side 0.3, ground-side 0.2, amps 82, turns 2"
    )]
    [InlineData("regulator-3", "regulator", "rest 12.6, idle 14.0, speed 14.3, loaded 14.2, legs 9")]
    [InlineData("regulator-half-wave", "regulator", "rest 12.5, idle 12.5, speed 14.0, loaded 12.5")]
    [InlineData(
        "alternator",
        "alternator",
        "rest 12.5, field-volts 0.7, field-ohms 4.2, idle 14.0, speed 14.1, loaded 14.0"
    )]
    [InlineData("alternator", "alternator", "rest 12.3, field-volts 0.7, field-ohms 4.2, idle 13.9, speed 14.0")]
    [InlineData("magneto", "magneto", "spark 2, primary 0.6, secondary 6000")]
    [InlineData("magneto", "magneto", "spark 2, primary 0.2, secondary 3500")]
    [InlineData("stator-1", "stator-1", "ohms 0.5, core-a OL, core-b OL, ac 42")]
    [InlineData("exciter-winding", "flywheel-winding", "ohms 420, ac 65")]
    [InlineData("pickup", "flywheel-winding", "ohms 190, ac 0.9")]
    [InlineData("relay", "under-load", "lost-30-87 0.03")]
    [InlineData("fuse", "under-load", "lost-1-2 0.02")]
    [InlineData("timer-after-release", "timer", "rest OL, fed OL, let-go 0.2, over OL")]
    [InlineData("spark-plug", "spark-plug", "resistor 4800, insulator OL")]
    [InlineData("generator", "generator-running", "residue 2.6, leg-1 118, leg-2 119")]
    [InlineData("pressure-switch", "pressure-switch", "standing 0.2, idle OL")]
    [InlineData(
        "starter-solenoid",
        "two-winding-solenoid",
        "pull-in 0.5, hold 1.3, rest OL, pulls 2, closed 0.2, let-go OL"
    )]
    public void A_sound_part_as_the_trade_reads_it_is_not_condemned(string kind, string sheet, string read) =>
        Assert.NotEqual(SheetOutcome.Bad, Judge(kind, sheet, read).Outcome);

    /// <summary>One figure that condemns is asked again; not when it came twice alike.</summary>
    [Fact]
    public void What_would_condemn_is_read_again()
    {
        var once = Judge("pressure-switch", "pressure-switch", "standing 0.2, idle 0.2");
        Assert.Equal((SheetOutcome.Bad, true, 1), (once.Outcome, once.Again, once.Next));
        var twice = Judge("pressure-switch", "pressure-switch", "standing 0.2, idle 0.2 x2");
        Assert.Equal((SheetOutcome.Bad, false), (twice.Outcome, twice.Again));
    }

    /// <summary>
    /// A drive-seal sensor: open dry, closed in water, open again when wiped. One that stays closed after the water is caught by
    /// the third reading, and no reading asks for its lead to be on.
    /// </summary>
    [Fact]
    public void A_sensor_is_read_dry_wet_and_dry_again()
    {
        var machine = Shipped.Ids.Select(Shipped.Read).First(m => m.Controls.Any(c => c.Sensed == true));
        var control = machine.Controls.First(c => c.Sensed == true);
        var part = machine.Parts.First(p => p.Contacts?.Any(c => c.Control == control.Id) == true);
        var tested = TestedPart.Of(machine, part);
        var table = SheetTable.Build(SheetCatalogue.For(tested.Kind).First(), tested, Nulled);
        Assert.Equal(control.Positions.Count + 1, table.Readings.Count);
        Assert.EndsWith("-again", table.Readings[^1].Id, StringComparison.Ordinal);
        Assert.Contains(table.Readings, r => r.Caution?.Contains("never a flame", StringComparison.Ordinal) == true);
        var contact = part.Contacts!.First(c => c.Control == control.Id);
        double Sound(SheetReading reading) => contact.ClosedIn.Contains(reading.Setting[control.Id]) ? 0.2 : Ol;
        var sound = table.Readings.Select(r => new SheetEntry(r.Id, Sound(r))).ToList();
        Assert.NotEqual(SheetOutcome.Bad, SheetVerdict.Of(SheetBeliefs.Weigh(table, sound)).Outcome);

        // All alike, wet or dry: stuck, or open for good.
        var stuck = table.Readings.Select(r => new SheetEntry(r.Id, Sound(table.Readings[0]))).ToList();
        Assert.Equal(SheetOutcome.Bad, SheetVerdict.Of(SheetBeliefs.Weigh(table, stuck)).Outcome);
    }

    /// <summary>What was seen moves what it speaks for and nothing is settled by it alone; what is not seen clears nothing.</summary>
    [Fact]
    public void A_look_is_evidence_for_what_it_speaks_for()
    {
        var sheet = SheetCatalogue.Named("stator-3")!;
        var table = SheetTable.Build(sheet, TestedPart.Loose(DeviceKinds.Named("stator-3")!), Nulled);
        var varnish = sheet.Looks.First(l => l.Id == "varnish");
        double Shorted(bool? seen)
        {
            var beliefs = SheetBeliefs.Weigh(table, [], 1, s => seen is { } was ? varnish.Factor(s, was) : 1);
            return beliefs
                .Ranked.Where(r => r.State.Faults.Any(f => f.Kind == Faults.FaultKind.ShortedWinding))
                .Sum(r => r.Share);
        }

        Assert.True(Shorted(true) > 1.5 * Shorted(null));
        Assert.True(Shorted(true) < 0.95);
        Assert.InRange(Shorted(false), 0.5 * Shorted(null), Shorted(null));
    }

    /// <summary>
    /// A contact that closes two times of five is no sound one, however well it reads the rest: what comes and goes by its
    /// nature is suspected before what is broken for good.
    /// </summary>
    [Fact]
    public void What_comes_and_goes_is_suspected_of_coming_and_going()
    {
        var sheet = SheetCatalogue.Named("relay-fed") ?? SheetCatalogue.For(DeviceKinds.Named("relay")!).First();
        var table = SheetTable.Build(sheet, TestedPart.Loose(DeviceKinds.Named("relay")!, optional: true), Nulled);
        var shy = table.States.First(s => s.Faults.Any(f => f.ComesAndGoes));
        var s = table.States.ToList().IndexOf(shy);
        var reading = Enumerable.Range(0, table.Readings.Count).First(r => table.Shows(s, 0, r));
        var before = SheetBeliefs.Weigh(table, []);
        foreach (var typed in new[] { "jumps", "2 of 5", "2/5" })
        {
            var wavers = Wavering.Read(typed, out var error)!;
            Assert.Null(error);
            var entry = new SheetEntry(table.Readings[reading].Id, double.NaN) { Wavers = wavers };
            var after = SheetBeliefs.Weigh(table, [entry]);
            Assert.True(after.Sound < 0.5 * before.Sound);
            Assert.True(after.Shares[s] > 1.5 * before.Shares[s]);
            Assert.False(after.Agrees(reading, entry));
            Assert.NotEqual(SheetOutcome.Good, SheetVerdict.Of(after).Outcome);
        }
    }

    [Theory]
    [InlineData("5 of 5", "right each time")]
    [InlineData("0 of 5", "wrong each time")]
    [InlineData("7 of 5", "right each time")]
    [InlineData("2 of 5000000", "at most 50")]
    public void A_count_that_does_not_waver_is_no_wavering(string typed, string why)
    {
        Assert.Null(Wavering.Read(typed, out var error));
        Assert.Contains(why, error, StringComparison.Ordinal);
        Assert.Null(Wavering.Read("4.7", out var none));
        Assert.Null(none);
    }

    private static SheetVerdict Judge(string kind, string sheet, string read)
    {
        var table = Tables
            .GetOrAdd(
                (kind, sheet),
                key => new Lazy<SheetTable>(() =>
                    SheetTable.Build(
                        SheetCatalogue.Named(key.Sheet)!,
                        TestedPart.Loose(DeviceKinds.Named(key.Kind)!, optional: true),
                        Nulled
                    )
                )
            )
            .Value;
        var entries = read.Split(", ")
            .Select(r => r.Split(' '))
            .Select(r => new SheetEntry(
                r[0],
                r[1] == "OL" ? Ol : double.Parse(r[1], System.Globalization.CultureInfo.InvariantCulture),
                null,
                r.Length > 2 ? 2 : 1
            ))
            .ToList();
        Assert.All(entries, e => Assert.Contains(table.Readings, x => x.Id == e.Reading));
        return SheetVerdict.Of(SheetBeliefs.Weigh(table, entries));
    }
}
