using CsCheck;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>What must hold of beliefs whatever is entered.</summary>
public class BeliefsTests
{
    private static readonly Lazy<DiagnosisKit> KitOnce = new(() => Shipped.Kit("orchard-tractor-4", "cranks"));

    internal static DiagnosisKit Kit => KitOnce.Value;

    private static readonly Complaint Silent = new()
    {
        Duty = new DutyId("cranks"),
        Heard = Heard.Nothing,
        Failed = 3,
        Tried = 3,
    };

    private static readonly Gen<Reading> Readings =
        from condition in Gen.Int[0, 3]
        from red in Gen.Int[0, Shipped.Tractor.Network.NodeCount - 1]
        from black in Gen.OneOfConst(Shipped.Tractor.Reference, Shipped.Tractor.NodeOf("block.crankcase"))
        from volts in Gen.OneOf(
            Gen.Double[-60, 60].Select(v => (double?)v),
            Gen.OneOfConst<double?>(0.0, 12.5, 1e-9, -59.9),
            Gen.Const((double?)null)
        )
        from symptom in Gen.Enum<SymptomNow>()
        select new Reading(new ProbePair(condition, red, black), volts, symptom);

    [Fact]
    public void Shares_sum_to_one_and_are_never_NaN_whatever_is_read() =>
        Readings
            .Array[0, 8]
            .Sample(
                readings =>
                {
                    var beliefs = Beliefs.Weigh(Kit.Table, Silent, Meter.Ordinary, readings);
                    Assert.Equal(1, beliefs.Suspects.Sum(s => s.Share), 1e-9);
                    Assert.All(beliefs.Suspects, s => Assert.InRange(s.Share, 0, 1));
                },
                iter: 60
            );

    [Fact]
    public void The_order_of_readings_does_not_matter() =>
        Gen.Select(Readings.Array[2, 6], Gen.Int)
            .Sample(
                (readings, seed) =>
                {
                    var shuffled = readings.ToArray();
                    new Random(seed).Shuffle(shuffled);
                    var (one, other) = (Shares(readings), Shares(shuffled));
                    Assert.All(one, s => Assert.Equal(s.Value, other[s.Key], 1e-9));
                },
                iter: 40
            );

    [Fact]
    public void What_no_single_fault_gives_is_put_down_to_none_of_them()
    {
        // The quad's key cuts the feed and grounds the kill lead: it runs on only with both gone.
        var kit = Shipped.Kit("hill-quad-2", "stops-coil-key-0");
        var beliefs = Beliefs.Weigh(
            kit.Table,
            Silent with
            {
                Duty = new DutyId("stops-coil-key-0"),
            },
            Meter.Ordinary,
            []
        );
        Assert.Equal(SuspectId.None, beliefs.Suspects[0].Id);
    }

    [Fact]
    public void A_battery_fuller_than_was_thought_is_one_surprise_and_not_three()
    {
        double None(params double[] volts) =>
            Beliefs
                .Weigh(
                    Kit.Table,
                    Silent with
                    {
                        Heard = Heard.OneClick,
                    },
                    Meter.Ordinary,
                    [
                        .. volts.Select(
                            (v, i) =>
                                new Reading(
                                    new ProbePair(
                                        i + 1,
                                        Shipped.Tractor.NodeOf("battery.+"),
                                        Shipped.Tractor.Reference
                                    ),
                                    v,
                                    SymptomNow.Present
                                )
                        ),
                    ]
                )
                .NoneOfThese;
        Assert.InRange(None(12.9, 12.88, 12.88), 0, None(12.9) + 0.01);
    }

    [Fact]
    public void More_probes_on_the_same_metal_say_next_to_nothing()
    {
        // A kill lead whole from splice to seat plug, in the setting that starts: every place on it reads the same.
        var kit = Shipped.Kit("orchard-zero-turn-7", "sparks-magneto1");
        var complaint = Silent with { Duty = new DutyId("sparks-magneto1") };
        var starting = kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.IsFree && c.Words.Contains("START", StringComparison.Ordinal));
        Reading At(string point, double volts) =>
            new(
                new ProbePair(starting, kit.Circuit.NodeOf(point), kit.Circuit.NodeOf("frame.battery stud")),
                volts,
                SymptomNow.Present
            );
        Dictionary<string, double> After(params Reading[] readings) =>
            Beliefs
                .Weigh(kit.Table, complaint, Meter.Ordinary, readings)
                .Suspects.ToDictionary(s => s.Id.Text, s => s.Share);

        var once = After(At("P2.1b", 0.132));
        var often = After(
            At("P2.1b", 0.132),
            At("SP3.x", 0.131),
            At("key.M", 0.13),
            At("38@to", 0.131),
            At("36@to", 0.132)
        );
        Assert.InRange(once.Sum(s => Math.Abs(s.Value - often[s.Key])) / 2, 0, 0.1);
    }

    [Fact]
    public void Undo_restores_beliefs_exactly()
    {
        var at = new ProbePair(0, Shipped.Tractor.NodeOf("key.B"), Shipped.Tractor.Reference);
        var first = new RecordedEvent(1, DateTimeOffset.UnixEpoch, new ComplaintMade(Silent));
        var reading = new RecordedEvent(
            2,
            DateTimeOffset.UnixEpoch,
            new ReadingTaken(Kit.Told(at), "12.4", 12.4, SymptomNow.Present)
        );
        var undo = new RecordedEvent(3, DateTimeOffset.UnixEpoch, new Undone(2));
        var (before, after) = (
            JobDiagnosis.Of(JobState.Of([first]), Kit, Meter.Ordinary),
            JobDiagnosis.Of(JobState.Of([first, reading, undo]), Kit, Meter.Ordinary)
        );
        Assert.Equal(
            before.Beliefs.Suspects.Select(s => (s.Id, s.Share)),
            after.Beliefs.Suspects.Select(s => (s.Id, s.Share))
        );
        Assert.Equal(before.Next!.At, after.Next!.At);
    }

    [Fact]
    public void A_dark_oil_lamp_at_start_and_run_points_to_the_shared_feed_and_a_bright_one_away_from_it()
    {
        // Fuse, its wires and P1 cavity 1 feed both the lamp and the start circuit; a short anywhere blows that fuse.
        double SharedFeed(LampLook look)
        {
            var complaint = Silent with
            {
                Lamps = [.. new[] { 0, 1 }.Select(c => Texts.Seen(Kit, "oil-lamp", c, look))],
            };
            var beliefs = Beliefs.Weigh(Kit.Table, complaint, Meter.Ordinary, []);
            return beliefs
                .Suspects.Where(s =>
                    s.Id.Text is "part:fuse" or "wire:1" or "wire:2" or "wire:3" or "cavity:P1/1"
                    || s.Likeliest?.Kind is FaultKind.Chafed or FaultKind.ShortedToNeighbour
                )
                .Sum(s => s.Share);
        }

        Assert.True(SharedFeed(LampLook.Out) > 0.8);
        Assert.True(SharedFeed(LampLook.Bright) < 0.1);
    }

    [Fact]
    public void An_unloaded_reading_tells_little_and_a_loaded_one_much()
    {
        // The same point, key B, with the key off and with it at START.
        var (rest, start) = (
            Kit.Table.Conditions.ToList().FindIndex(c => c.IsFree && c.Words == "everything at rest"),
            0
        );
        double Entropy(params Reading[] readings) =>
            -Beliefs
                .Weigh(Kit.Table, Silent, Meter.Ordinary, readings)
                .Suspects.Where(s => s.Share > 0)
                .Sum(s => s.Share * Math.Log2(s.Share));
        Reading At(int condition, double volts) =>
            new(
                new ProbePair(condition, Shipped.Tractor.NodeOf("brake.in"), Shipped.Tractor.Reference),
                volts,
                SymptomNow.Present
            );
        Assert.True(Entropy() - Entropy(At(rest, 0)) < 0.1);
        Assert.True(Entropy() - Entropy(At(start, 12.4)) > 0.5);
    }

    [Fact]
    public void A_fault_hidden_just_now_is_not_cleared_by_a_good_reading()
    {
        var sometimes = Silent with { Failed = 1, Tried = 4 };
        var across = new ProbePair(0, Shipped.Tractor.NodeOf("brake.in"), Shipped.Tractor.NodeOf("brake.out"));
        double Brake(SymptomNow now) =>
            Beliefs
                .Weigh(Kit.Table, sometimes, Meter.Ordinary, [new Reading(across, 0.02, now)])
                .Suspects.First(s => s.Id.Text == "part:brake")
                .Share;
        Assert.True(Brake(SymptomNow.Absent) > 5 * Brake(SymptomNow.Present));
    }

    [Fact]
    public void Readings_no_single_fault_explains_are_said_to_be_so()
    {
        var beliefs = Beliefs.Weigh(
            Kit.Table,
            Silent,
            Meter.Ordinary,
            [
                .. new[] { ("battery.+", 3.1), ("key.B", 9.7), ("brake.in", 1.4), ("solenoid.S", 8.8) }.Select(
                    x => new Reading(
                        new ProbePair(0, Shipped.Tractor.NodeOf(x.Item1), Shipped.Tractor.Reference),
                        x.Item2,
                        SymptomNow.Present
                    )
                ),
            ]
        );
        Assert.Equal(SuspectId.None, beliefs.Suspects[0].Id);
    }

    private static Dictionary<string, double> Shares(IReadOnlyList<Reading> readings) =>
        Beliefs.Weigh(Kit.Table, Silent, Meter.Ordinary, readings).Suspects.ToDictionary(s => s.Id.Text, s => s.Share);
}
