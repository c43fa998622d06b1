using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Readings that no test asks for: predicted then, weighed as any other, refused by field.</summary>
public class AnyReadingTests
{
    private static readonly DutyId Cranks = new("cranks");
    private static readonly Circuit Tractor = Shipped.Tractor;

    /// <summary>
    /// By hand: with the key at LIGHTS and everything else at rest, a lamp's feed reads a battery's volts on a tractor whose
    /// fuse is whole, and nothing where it is blown. That setting is none of a starting complaint's.
    /// </summary>
    [Theory]
    [InlineData("12.5", false)]
    [InlineData("0.00", true)]
    public void A_reading_in_another_setting_weighs(string typed, bool blown)
    {
        var lights = new AnyReading(
            "volts",
            Shipped.Setting(Tractor, ("key", "LIGHTS")),
            DutySpeed.Rest,
            [],
            PointId.Of("lamp-left.+"),
            PointId.Of("battery.-")
        );
        Assert.Empty(lights.Check(Tractor));
        var plain = Shipped.Kit("orchard-tractor-4", Cranks.Text);
        var taken = lights.Taken(plain, typed, out _)!;
        Assert.True(taken.Besides);

        var state = State(taken);
        var kit = DiagnosisKit.Build(Tractor, Duty(state), []);
        Assert.NotNull(kit.Pair(taken.At));
        var (before, after) = (FuseShare(Of(State(), plain)), FuseShare(Of(state, kit)));
        Assert.Equal(blown, after > before);
        Assert.True(blown ? after > 2 * before : after < 0.01, $"{before:P1} → {after:P1}");
        Assert.Empty(Of(state, kit).TakenOtherwise);
    }

    /// <summary>
    /// By hand: a test lamp to ground behind the main fuse is bright through a whole one and out behind a blown one; a lead from
    /// battery + to the solenoid's coil goes round fuse, key and interlocks, so that what cranks then is whole beyond it.
    /// </summary>
    [Theory]
    [InlineData("testLamp", "fuse.2", "battery.-", "bright", "part:fuse", false)]
    [InlineData("testLamp", "fuse.2", "battery.-", "out", "part:fuse", true)]
    [InlineData("bulb", "fuse.2", "battery.-", "Out", "part:fuse", true)]
    [InlineData("lead", "battery.+", "solenoid.S", "it does", "part:starter", false)]
    [InlineData("lead", "battery.+", "solenoid.S", "it does", "part:key", true)]
    [InlineData("lead", "battery.+", "solenoid.S", "nothing", "part:key", false)]
    public void A_lamp_seen_and_a_lead_tried_weigh(
        string way,
        string from,
        string to,
        string said,
        string suspect,
        bool raised
    )
    {
        var on = Shipped.Setting(Tractor, ("key", "RUN"));
        var any = new AnyReading(way, on, DutySpeed.Rest, [], PointId.Of(from), PointId.Of(to));
        Assert.Empty(any.Check(Tractor));
        var plain = Shipped.Kit("orchard-tractor-4", Cranks.Text);
        var taken = any.Taken(plain, said, out var error);
        Assert.True(taken is not null, error);
        var state = State(taken);
        var kit = DiagnosisKit.Build(Tractor, Duty(state), []);
        Assert.NotNull(kit.Pair(taken.At));
        double Share(JobDiagnosis job) => job.Beliefs.Suspects.Where(s => s.Id.Text == suspect).Sum(s => s.Share);
        var (before, after) = (Share(Of(State(), plain)), Share(Of(state, kit)));
        Assert.True(raised ? after > before : after < 0.3 * before, $"{suspect}: {before:P2} → {after:P2}");
    }

    [Fact]
    public void Nothing_is_put_in_with_an_engine_turning_and_words_that_mean_nothing_are_refused()
    {
        var any = new AnyReading(
            "testLamp",
            Shipped.Setting(Tractor),
            DutySpeed.Idle,
            [],
            PointId.Of("fuse.2"),
            PointId.Of("battery.-")
        );
        Assert.Contains(any.Check(Tractor), r => r.Field == "speed");
        var kit = Shipped.Kit("orchard-tractor-4", Cranks.Text);
        Assert.Null((any with { Speed = DutySpeed.Rest }).Taken(kit, "jumps", out _));
        Assert.Null((any with { Speed = DutySpeed.Rest }).Taken(kit, "greenish", out _));
    }

    /// <summary>
    /// Two volts left on the starter's body while it is asked to turn: they are lost between it and battery minus, however the
    /// one who read them calls the moment. A joint of the plus side, a burnt contact or a weak cell loses them elsewhere.
    /// </summary>
    [Theory]
    [InlineData(DutySpeed.Rest)]
    [InlineData(DutySpeed.Crank)]
    public void Volts_while_cranking_are_weighed_whichever_way_cranking_is_told(DutySpeed speed)
    {
        var kit = Shipped.Kit("orchard-tractor-4", Cranks.Text);
        var own = kit.Table.Conditions[0].Setting;
        var any = new AnyReading("volts", own, speed, [], PointId.Of("starter.case"), PointId.Of("battery.-"));
        var slow = new ComplaintMade(
            new Complaint
            {
                Duty = Cranks,
                Heard = Heard.Slow,
                Failed = 3,
                Tried = 3,
            }
        );
        var diagnosis = Of(State(slow, any.Taken(kit, "2.1", out _)!), kit);
        Assert.Single(diagnosis.Readings);
        string[] ground = ["battery −", "frame", "boss", "block"];
        var named = diagnosis.Beliefs.Suspects.Where(s =>
            ground.Any(g => s.Words.Contains(g, StringComparison.Ordinal))
        );
        Assert.True(
            named.Sum(s => s.Share) > 0.8,
            string.Join("; ", diagnosis.Beliefs.Suspects.Take(6).Select(s => $"{s.Words} {s.Share:P0}"))
        );
    }

    /// <summary>What is read with the engine running is not followed for a complaint about starting: it is said so, not passed over.</summary>
    [Fact]
    public void What_is_not_followed_is_not_called_weighed()
    {
        var kit = Shipped.Kit("orchard-tractor-4", Cranks.Text);
        var any = new AnyReading(
            "volts",
            kit.Table.Conditions[0].Setting,
            DutySpeed.Work,
            [],
            PointId.Of("battery.+"),
            PointId.Of("battery.-")
        );
        var state = State(any.Taken(kit, "14.1", out _)!);
        var full = DiagnosisKit.Sketch(kit.Circuit, Duty(state), []);
        var diagnosis = Of(state, full);
        Assert.Empty(diagnosis.Readings);
        Assert.Single(diagnosis.TakenOtherwise);
    }

    /// <summary>
    /// Direct volts on a lead of a running stator: its diodes let it go and catch it within a turn, and what a meter makes of that
    /// is told of nobody. It is believed of no suspect, and no test asks for it.
    /// </summary>
    [Fact]
    public void What_is_not_followed_on_the_sound_machine_condemns_nothing()
    {
        var kit = Shipped.Few("ridge-twin-1", "charges-battery");
        var told = new ComplaintMade(
            new Complaint
            {
                Duty = new DutyId("charges-battery"),
                Heard = Heard.Nothing,
                Failed = 3,
                Tried = 3,
            }
        );
        var leg = kit.Told(
            new ProbePair(0, kit.Circuit.NodeOf(PointId.Of("regulator.c")), kit.Circuit.NodeOf(PointId.Of("battery.-")))
        );
        JobEvent read = new ReadingTaken(leg, "7.17", 7.17, Diagnosis.Evidence.SymptomNow.Present);
        JobDiagnosis After(params JobEvent[] events) =>
            Of(JobState.Of([.. events.Select((e, i) => new RecordedEvent(i + 1, DateTimeOffset.UnixEpoch, e))]), kit);
        var (before, after) = (After(told), After(told, read, read, read, read));
        foreach (var suspect in before.Beliefs.Suspects.Take(5))
        {
            var then = after.Beliefs.Suspects.First(s => s.Id == suspect.Id);
            Assert.Equal(suspect.Share, then.Share, 2);
        }

        Assert.DoesNotContain(before.Tests, t => kit.Told(t.At) == leg);
    }

    [Fact]
    public void What_the_complaint_s_tests_read_anyway_is_an_ordinary_reading()
    {
        var kit = Shipped.Kit("orchard-tractor-4", Cranks.Text);
        var at = kit.Table.Conditions.First(c => c.IsFree);
        var any = new AnyReading("volts", at.Setting, at.Speed, [], PointId.Of("solenoid.B"), PointId.Of("battery.-"));
        Assert.False(any.Taken(kit, "12.3", out _)!.Besides);
    }

    /// <summary>Pairs drawn at random on three machines: what is predicted of the sound machine is what the bench reads there.</summary>
    [Theory]
    [InlineData("orchard-tractor-4")]
    [InlineData("hill-quad-5")]
    [InlineData("harbour-launch-1")]
    public void Any_pair_can_be_predicted_and_is_predicted_as_the_bench_reads_it(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var random = new Random(11);
        var points = ProbePoints.Of(circuit).All.Select(p => p.Address).ToList();
        var settings = circuit.SettingsNearRest(2).ToList();
        List<BroughtReading> brought =
        [
            .. Enumerable
                .Range(0, 12)
                .Select(_ => new BroughtReading(
                    random.Next(2) == 0 ? "volts" : "ohms",
                    settings[random.Next(settings.Count)].Named(circuit.Machine),
                    DutySpeed.Rest,
                    [],
                    points[random.Next(points.Count)],
                    points[random.Next(points.Count)]
                ))
                .Where(b => circuit.NodeOf(b.Red) != circuit.NodeOf(b.Black)),
        ];
        var duty = circuit.Machine.Index.Duty(Cranks)! with { Brought = brought };
        var kit = Shipped.Few(circuit, duty);
        var compared = 0;
        foreach (var reading in brought)
        {
            var at = kit.Pair(
                new ProbedAt(
                    new ConditionKey(
                        reading.Observable,
                        reading.Setting,
                        reading.Speed,
                        [],
                        null,
                        SparkTesterAt.Nowhere
                    ),
                    reading.Red,
                    reading.Black
                )
            );
            Assert.NotNull(at);
            var ohms = reading.Observable == "ohms";
            var shown = Bench.Read(
                new Case
                {
                    Circuit = circuit,
                    Settings = ohms
                        ? [circuit.Setting(reading.Setting)]
                        : [kit.Table.Conditions[0].Setting, circuit.Setting(null), circuit.Setting(reading.Setting)],
                    BatteryDisconnected = ohms,
                },
                Meter.Ordinary with
                {
                    LeadsNulled = true,
                },
                ohms ? MeterFunction.Ohms : MeterFunction.DcVolts,
                at.Value.Red,
                at.Value.Black
            );
            if (shown.Value is not { } value)
            {
                continue;
            }

            // The sound machine is drawn with its spread: the bench's nominal one lies among the draws.
            var observable = ObservableCatalogue.Named(reading.Observable)!;
            var across = kit.Table.Healthy.Across(at.Value);
            var drawn = new double[kit.Table.Particles];
            var hangs = false;
            for (var p = 0; p < drawn.Length; p++)
            {
                drawn[p] = across[p];
                hangs |= across.Hangs(p);
            }

            if (hangs)
            {
                // What hangs on leakage differs by decades from machine to machine: the nominal one is anywhere.
                continue;
            }

            compared++;

            var (low, high) = (drawn.Min(), drawn.Max());
            var scaled = observable.Scaled(value);
            Assert.True(
                scaled >= low - 0.6 && scaled <= high + 0.6,
                $"{reading.Text}: bench {value}, drawn {observable.Figure(low)} to {observable.Figure(high)}"
            );
        }

        Assert.True(compared > 4, $"only {compared} readings were comparable");
    }

    [Theory]
    [InlineData("weight", "battery.+", "battery.-", DutySpeed.Rest, null, "quantity")]
    [InlineData("volts", "ghost.1", "battery.-", DutySpeed.Rest, null, "red")]
    [InlineData("volts", "battery.+", "", DutySpeed.Rest, null, "black")]
    [InlineData("volts", "battery.-", "battery.-", DutySpeed.Rest, null, "black")]
    [InlineData("ohms", "key.B", "key.S", DutySpeed.Work, null, "speed")]
    [InlineData("acVolts", "winding.out", "battery.-", DutySpeed.Rest, null, "speed")]
    [InlineData("volts", "battery.+", "battery.-", DutySpeed.Rest, "key", "off")]
    public void What_cannot_be_read_is_refused_by_field(
        string quantity,
        string red,
        string black,
        DutySpeed speed,
        string? off,
        string field
    )
    {
        var any = new AnyReading(
            quantity,
            Tractor.Setting(null),
            speed,
            off is null ? [] : [Disconnection.Of(off)],
            PointId.Of(red),
            PointId.Of(black)
        );
        Assert.Equal(field, any.Check(Tractor).First().Field);
    }

    private static Duty Duty(JobState state) =>
        Tractor.Machine.Index.Duty(Cranks)! with
        {
            Brought = state.Complaint!.Brought,
        };

    private static double FuseShare(JobDiagnosis diagnosis) =>
        diagnosis.Beliefs.Suspects.Where(s => s.Likeliest?.Id.Text == "fuse/blown").Sum(s => s.Share);

    private static JobDiagnosis Of(JobState state, DiagnosisKit kit) => JobDiagnosis.Of(state, kit, Meter.Ordinary);

    private static JobState State(params JobEvent[] more) =>
        JobState.Of([
            .. more.Prepend(
                    new ComplaintMade(
                        new Complaint
                        {
                            Duty = Cranks,
                            Heard = Heard.Nothing,
                            Failed = 3,
                            Tried = 3,
                        }
                    )
                )
                .Select((e, i) => new RecordedEvent(i + 1, DateTimeOffset.UnixEpoch, e)),
        ]);
}
