using CsCheck;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.PartTests;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Part tests: arithmetic against algebra done apart, verdicts on simulated parts, and what a person types.</summary>
public class PartTestTests
{
    private static readonly Meter Nulled = Meter.Ordinary with { LeadsNulled = true };

    /// <summary>Three resistors in star, and three in delta, worked out from series and parallel sums alone.</summary>
    [Fact]
    public void Legs_of_star_and_delta_come_back_from_their_pairs() =>
        Gen.Select(Gen.Double[0.05, 5], Gen.Double[0.05, 5], Gen.Double[0.05, 5])
            .Sample(
                (a, b, c) =>
                {
                    var star = StatorLegs.Of(a + b, b + c, c + a);
                    Assert.Equal(a, star.A, 9);
                    Assert.Equal(b, star.B, 9);
                    Assert.Equal(c, star.C, 9);

                    double Beside(double one, double two, double three) => one * (two + three) / (one + two + three);
                    var delta = StatorLegs.Of(Beside(a, b, c), Beside(b, c, a), Beside(c, a, b)).Delta;
                    Assert.Equal(a, delta.Ab, 6);
                    Assert.Equal(b, delta.Bc, 6);
                    Assert.Equal(c, delta.Ca, 6);
                }
            );

    [Fact]
    public void A_lead_error_common_to_all_pairs_leaves_the_differences_of_legs_alone()
    {
        var (plain, off) = (StatorLegs.Of(0.42, 0.33, 0.34), StatorLegs.Of(0.62, 0.53, 0.54));
        Assert.Equal(plain.A - plain.C, off.A - off.C, 9);
        Assert.Equal(0.1, off.A - plain.A, 9);
    }

    /// <summary>IEC 60028: 0.393 % a kelvin; 0.2 ohm at 31 °C is 0.2 / 1.04323 at 20 °C.</summary>
    [Fact]
    public void Copper_is_brought_to_twenty_degrees()
    {
        Assert.Equal(0.191712, Copper.At20(0.2, 31), 5);
        Assert.Equal(0.2, Copper.At(Copper.At20(0.2, 31), 31), 9);
    }

    [Theory]
    [InlineData(21, 9.6)]
    [InlineData(-18, 8.5)]
    [InlineData(-40, 8.5)]
    [InlineData(40, 9.6)]
    [InlineData(7, 9.35)]
    public void The_floor_of_the_load_test_follows_its_table(double celsius, double volts) =>
        Assert.Equal(volts, LoadTest.Floor(celsius), 6);

    /// <summary>
    /// Worked by hand from the table and the figures: 12.45 V is three quarters flooded, 12.6 V three quarters in glass mat; a
    /// 450 A battery holds about 60 Ah, so 15 Ah are missing and 18 are put in; 50 mA empties half of 45 Ah in 450 hours.
    /// </summary>
    [Theory]
    [InlineData("battery", 12.45, "state of charge by the BCI table", "75 %")]
    [InlineData("agm-battery", 12.6, "glass mat or gel", "75 %")]
    [InlineData("battery", 12.45, "to be charged", "18 Ah")]
    [InlineData("battery", 12.45, "too flat to crank", "about 19 days")]
    [InlineData("battery", 12.45, "inside, by two loads", "8.62 mΩ")]
    [InlineData("battery", 12.45, "cranking, against the least at 21 °C of 9.60 V", "too little")]
    public void A_batterys_charge_drain_and_inside_are_worked_out(string kind, double rest, string line, string result)
    {
        var loose = TestedPart.Loose(DeviceKinds.Named(kind)!);
        var tested = loose with
        {
            Part = loose.Part with { Values = new Dictionary<string, double> { ["coldCrankingAmps"] = 450 } },
        };
        var read = new Dictionary<string, double>
        {
            ["rest"] = rest,
            ["loaded"] = 10.3,
            ["lamp"] = 12.2,
            ["cranking"] = 8.9,
            ["drain"] = 0.05,
        };
        var lines = SheetCatalogue.Named("battery")!.Arithmetic(tested, read, 21).ToList();
        Assert.StartsWith(
            result,
            Assert.Single(lines, l => l.Words.Contains(line, StringComparison.Ordinal)).Result,
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// By hand: a diode whose bar is at 86 conducts from 85 to 86, so red on 86 reads over range; a solenoid whose body stands at
    /// 1.4 V while START is held has no ground; a coil that wants 9.2 V is not pulled in by a battery that is cranked.
    /// </summary>
    [Theory]
    [InlineData("relay", "diode-86-85 99, diode-85-86 0.55", "its bar at 86")]
    [InlineData("relay", "diode-86-85 0.55, diode-85-86 99", "its bar at 85")]
    [InlineData("relay", "diode-86-85 0.09, diode-85-86 0.09", "alike")]
    [InlineData("relay", "pull-in 9.2", "too high")]
    [InlineData("relay", "pull-in 6.8", "enough to spare")]
    [InlineData("start-solenoid", "mount 1.4", "its mounting is its ground and is bad")]
    [InlineData("start-solenoid", "mount 0.05", "its mounting is sound")]
    public void What_is_noted_of_a_coil_is_worked_out(string kind, string read, string result)
    {
        var tested = TestedPart.Loose(DeviceKinds.Named(kind)!);
        var figures = read.Split(", ")
            .Select(r => r.Split(' '))
            .ToDictionary(
                r => r[0],
                r =>
                    r[1] == "99"
                        ? double.PositiveInfinity
                        : double.Parse(r[1], System.Globalization.CultureInfo.InvariantCulture)
            );
        var sheet = SheetCatalogue.For(tested.Kind).First();
        Assert.All(figures.Keys, k => Assert.Contains(sheet.Readings(tested), r => r.Id == k && r.IsNoted));
        Assert.Contains(result, Assert.Single(sheet.Arithmetic(tested, figures, 20)).Result, StringComparison.Ordinal);
    }

    /// <summary>What is only noted moves no belief, however odd it is, and is never what is asked for next.</summary>
    [Fact]
    public void What_is_noted_judges_nothing()
    {
        var tested = TestedPart.Loose(DeviceKinds.Named("relay")!);
        var table = SheetTable.Build(SheetCatalogue.For(tested.Kind).First(), tested, Nulled);
        SheetEntry[] read = [new("coil", 85), new("rest-30-87", double.PositiveInfinity)];
        var (plain, noted) = (
            SheetBeliefs.Weigh(table, read),
            SheetBeliefs.Weigh(table, [.. read, new("pull-in", 400)])
        );
        Assert.Equal(plain.Shares, noted.Shares);
        Assert.False(table.Readings[SheetVerdict.Of(noted).Next].IsNoted);
    }

    /// <summary>
    /// By algebra done apart: copper of a given length with a leak of its own ohms at a place along it, seen from every lead. The place
    /// comes back whatever the leak has, in one winding and in a leg of a star of unlike legs.
    /// </summary>
    [Fact]
    public void Where_one_leak_sits_comes_back_from_both_ends() =>
        Gen.Select(
                Gen.Double[0.2, 20],
                Gen.Double[0.2, 20],
                Gen.Double[0.2, 20],
                Gen.Double[0, 0.999],
                Gen.Double[0, 50]
            )
            .Sample(
                (a, b, c, into, leak) =>
                {
                    double Said(string kind, Dictionary<string, double> read) =>
                        Percent(
                            SheetCatalogue
                                .Named(kind)!
                                .Arithmetic(TestedPart.Loose(DeviceKinds.Named(kind)!), read, 20)
                                .Single(l => l.Words.Contains("one leak", StringComparison.Ordinal))
                                .Result
                        );

                    // The near half of one winding.
                    var half = into / 2;
                    Assert.Equal(
                        100 * half,
                        Said(
                            "stator-1",
                            new()
                            {
                                ["ohms"] = a,
                                ["core-a"] = (half * a) + leak,
                                ["core-b"] = ((1 - half) * a) + leak,
                            }
                        ),
                        Shown
                    );

                    // Leg a, from its lead towards the point of the star.
                    Assert.Equal(
                        100 * into,
                        Said(
                            "stator-3",
                            new()
                            {
                                ["ohms-a-b"] = a + b,
                                ["ohms-b-c"] = b + c,
                                ["ohms-c-a"] = c + a,
                                ["core-a"] = (into * a) + leak,
                                ["core-b"] = b + ((1 - into) * a) + leak,
                                ["core-c"] = c + ((1 - into) * a) + leak,
                            }
                        ),
                        Shown
                    );
                }
            );

    // A whole per cent is what is shown.
    private const double Shown = 0.501;

    /// <summary>The figure of "37 % in".</summary>
    private static double Percent(string said) =>
        double.Parse(said.Split(' ')[0], System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>
    /// A stator ten times as large, read by a meter whose ranges and leads are ten times as large, is judged alike; by the same meter, one
    /// ten times smaller cannot be told.
    /// </summary>
    [Theory]
    [InlineData(4.0, 3.2, 3.2)]
    [InlineData(4.0, 4.0, 4.1)]
    [InlineData(4.4, 3.6, 4.0)]
    [InlineData(4.0, 4.0, 3.3)]
    public void Scaling_a_part_with_the_meters_resolution_and_leads_changes_no_verdict(double ab, double bc, double ca)
    {
        SheetVerdict Of(double scale)
        {
            var meter = Nulled with
            {
                Leads = new Units.Ohms(Nulled.Leads.Value * scale),
                OhmsRanges = [.. Nulled.OhmsRanges.Select(r => r * scale)],
            };
            return Judge(
                Stator(2 * scale, meter),
                [
                    ("ohms-a-b", ab * scale),
                    ("ohms-b-c", bc * scale),
                    ("ohms-c-a", ca * scale),
                    ("core-a", double.PositiveInfinity),
                    ("core-b", double.PositiveInfinity),
                    ("core-c", double.PositiveInfinity),
                ]
            );
        }

        var (one, ten) = (Of(1), Of(10));
        Assert.Equal(one.Outcome, ten.Outcome);
        Assert.Equal(one.Named?.Words, ten.Named?.Words);
        Assert.Equal(one.Share, ten.Share, 0.05);
    }

    /// <summary>
    /// By hand: legs of 2.0, 2.0 and 1.2 ohm in star read 4.0, 3.2 and 3.2. The same stator ten times lower is below what a
    /// meter of tenths of an ohm tells apart, and must not be condemned by it.
    /// </summary>
    [Fact]
    public void A_leg_with_turns_shorted_is_found_by_its_sisters_where_the_meter_can_see_it()
    {
        (string, double)[] core =
        [
            ("core-a", double.PositiveInfinity),
            ("core-b", double.PositiveInfinity),
            ("core-c", double.PositiveInfinity),
        ];
        var fine = Stator(2);
        var bad = Judge(fine, [("ohms-a-b", 4.0), ("ohms-b-c", 3.2), ("ohms-c-a", 3.2), .. core]);
        Assert.Equal(SheetOutcome.Bad, bad.Outcome);
        Assert.Contains("leg c", Assert.Single(bad.Among).Words, StringComparison.Ordinal);
        var sound = Judge(fine, [("ohms-a-b", 4.0), ("ohms-b-c", 4.0), ("ohms-c-a", 4.1), .. core]);
        Assert.NotEqual(SheetOutcome.Bad, sound.Outcome);

        var coarse = Judge(Stator(0.2), [("ohms-a-b", 0.4), ("ohms-b-c", 0.3), ("ohms-c-a", 0.3), .. core]);
        Assert.Equal(SheetOutcome.Open, coarse.Outcome);
        Assert.Matches("^(ac|current)-", Stator(0.2).Readings[coarse.Next].Id);
    }

    private static SheetTable Stator(double ohms, Meter? meter = null)
    {
        var loose = TestedPart.Loose(DeviceKinds.Named("stator-3")!);
        return SheetTable.Build(
            SheetCatalogue.Named("stator-3")!,
            loose with
            {
                FiguresKnown = true,
                Part = loose.Part with { Values = new Dictionary<string, double> { ["ohms"] = ohms } },
            },
            meter ?? Nulled
        );
    }

    [Fact]
    public void The_order_of_readings_does_not_matter_and_the_last_of_one_counts()
    {
        var table = SheetTable.Build(
            SheetCatalogue.Named("relay")!,
            TestedPart.Loose(DeviceKinds.Named("relay")!),
            Nulled
        );
        SheetEntry[] read = [new("coil", 90), new("rest-30-87", double.PositiveInfinity), new("fed-30-87", 0.2)];
        var one = SheetBeliefs.Weigh(table, read);
        var other = SheetBeliefs.Weigh(table, [.. read.Reverse()]);
        var again = SheetBeliefs.Weigh(table, [new SheetEntry("coil", 4), .. read]);
        for (var s = 0; s < table.States.Count; s++)
        {
            Assert.Equal(one.Shares[s], other.Shares[s], 9);
            Assert.Equal(one.Shares[s], again.Shares[s], 9);
        }
    }

    /// <summary>Six diodes good, open or shorted: all 729, read one after the other on the diode range.</summary>
    [Fact]
    public void Every_combination_of_six_diodes_is_named_or_grouped_with_what_reads_the_same()
    {
        var table = SheetTable.Build(
            SheetCatalogue.Named("bridge")!,
            TestedPart.Loose(DeviceKinds.Named("bridge-rectifier")!, optional: true),
            Nulled
        );
        Assert.Equal(729, table.States.Count);
        var random = new Random(3);
        var wrong = new List<string>();
        for (var s = 0; s < table.States.Count; s++)
        {
            var p = random.Next(table.Particles);
            var entries = table
                .Readings.Select(
                    (r, i) => new SheetEntry(r.Id, SimulatedPartsTests.Noisy(table.Figure(s, p, i), random))
                )
                .ToList();
            var beliefs = SheetBeliefs.Weigh(table, entries);
            var (best, share) = beliefs.Ranked.First();
            var truth = beliefs.Ranked.First(r => r.State == table.States[s]).Share;

            // One that reads the same is fewer diodes failed, and so likelier: the true one may stand behind it.
            var alike = Enumerable
                .Range(0, table.Readings.Count)
                .All(i => Alike(table, s, table.States.ToList().IndexOf(best), i));
            if (best != table.States[s] && !alike)
            {
                wrong.Add($"{table.States[s].Words} ({truth:P0}) called {best.Words} ({share:P0})");
            }
        }

        Assert.True(wrong.Count <= 7, $"{wrong.Count}: {string.Join("\n", wrong.Take(5))}");
    }

    [Fact]
    public void Ohms_typed_for_kilohms_are_noticed_and_not_refused()
    {
        var table = SheetTable.Build(
            SheetCatalogue.For(DeviceKinds.Named("charge-winding")!).First(),
            TestedPart.Loose(DeviceKinds.Named("charge-winding")!),
            Nulled
        );
        var ohms = SheetBeliefs.IndexOf(table, table.Readings[0].Id);
        Assert.Contains("0.4", Plausibility.Of(table, ohms, 400), StringComparison.Ordinal);
        Assert.Null(Plausibility.Of(table, ohms, 0.4));
        Assert.Null(Plausibility.Of(table, ohms, double.PositiveInfinity));
    }

    [Fact]
    public void A_part_of_a_machine_brings_its_own_chart()
    {
        var tractor = Shipped.Tractor.Machine;
        var key = TestedPart.Of(tractor, tractor.Index.Part(new PartId("key"))!);
        var table = SheetTable.Build(SheetCatalogue.For(key.Kind).First(), key, Nulled);

        // Seven terminals, five contacts, four positions.
        Assert.Equal(20, table.Readings.Count);
        var read = table.Readings.Select((r, i) => new SheetEntry(r.Id, table.Figure(0, 0, i))).ToList();
        var sound = SheetVerdict.Of(SheetBeliefs.Weigh(table, read));
        Assert.True(sound.Outcome is SheetOutcome.Good or SheetOutcome.CannotBeTold);
        Assert.All(sound.Among, s => Assert.Contains("burnt", s.Words, StringComparison.Ordinal));
        var start = read.FindIndex(e => e.Reading == "B-S-START");
        read[start] = read[start] with { Figure = double.PositiveInfinity };
        var bad = SheetVerdict.Of(SheetBeliefs.Weigh(table, read));
        Assert.Equal(SheetOutcome.Bad, bad.Outcome);
        Assert.Contains("B-S", Assert.Single(bad.Among).Words, StringComparison.Ordinal);
    }

    [Fact]
    public void A_new_part_is_suspected_less_and_never_cleared_by_being_new()
    {
        var table = SheetTable.Build(
            SheetCatalogue.Named("relay")!,
            TestedPart.Loose(DeviceKinds.Named("relay")!),
            Nulled
        );
        var (old, fresh) = (SheetBeliefs.Weigh(table, []), SheetBeliefs.Weigh(table, [], 0.15));
        Assert.True(fresh.Sound > old.Sound);
        Assert.True(fresh.Sound < 0.95);
    }

    private static SheetVerdict Judge(SheetTable table, params (string Reading, double Figure)[] read) =>
        SheetVerdict.Of(SheetBeliefs.Weigh(table, read.Select(r => new SheetEntry(r.Reading, r.Figure))));

    private static bool Alike(SheetTable table, int one, int other, int reading)
    {
        var observable = table.Readings[reading].Observable;
        return Math.Abs(
                observable.Scaled(table.Figure(one, 0, reading)) - observable.Scaled(table.Figure(other, 0, reading))
            ) < 0.3;
    }

    /// <summary>Reads another part in a state, drawn apart from those of the table.</summary>
}
