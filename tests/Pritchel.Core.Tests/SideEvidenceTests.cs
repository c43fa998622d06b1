using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What is seen, tried and told besides readings: looks, other duties, the setting it happened in, not electrical.</summary>
public class SideEvidenceTests
{
    private static readonly Lazy<DiagnosisKit> Cranks = new(() => Shipped.Kit("orchard-tractor-4", "cranks"));

    private static readonly Lazy<DiagnosisKit> MowerSparks = new(() =>
        Shipped.Kit("hedgerow-mower-2", "sparks-magneto")
    );

    private static Beliefs Believe(DiagnosisKit kit, Complaint complaint, params Look[] looks) =>
        Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, [], new SideEvidence(looks, []));

    private static Complaint Silent { get; } =
        new()
        {
            Duty = new DutyId("cranks"),
            Heard = Heard.Nothing,
            Failed = 3,
            Tried = 3,
        };

    [Fact]
    public void Chances_of_a_look_are_chances()
    {
        foreach (var kind in Enum.GetValues<FaultKind>())
        {
            Assert.Equal(1, Enum.GetValues<LookFound>().Sum(f => LookChances.There(f, kind)), 9);
        }

        Assert.Equal(1, Enum.GetValues<LookFound>().Sum(LookChances.NotThere), 9);
    }

    [Theory]
    [InlineData("P2/1/resistive", LookFound.Green)]
    [InlineData("fuse/blown", LookFound.Burnt)]
    [InlineData("P1/unplugged", LookFound.Missing)]
    public void A_place_found_spoilt_is_suspected_more_and_one_found_sound_less(string fault, LookFound found)
    {
        var repair = Shipped.Tractor.Faults.First(f => f.Id.Text == fault).Repair.Id;
        double Share(Beliefs beliefs) => beliefs.Suspects.First(s => s.Id == repair).Share;
        var before = Share(Believe(Cranks.Value, Silent));
        Assert.True(Share(Believe(Cranks.Value, Silent, new Look(repair, found))) > 3 * before);
        Assert.True(Share(Believe(Cranks.Value, Silent, new Look(repair, LookFound.Sound))) < before);
    }

    [Fact]
    public void The_last_look_at_a_place_counts_and_their_order_does_not()
    {
        var (one, two) = ("part:fuse", "part:key");
        Look[] looks =
        [
            new(RepairId.Of(one), LookFound.Loose),
            new(RepairId.Of(two), LookFound.Green),
            new(RepairId.Of(one), LookFound.Sound),
        ];
        var forth = Believe(Cranks.Value, Silent, looks).Suspects.ToDictionary(s => s.Id, s => s.Share);
        var back = Believe(Cranks.Value, Silent, looks[1], looks[2]).Suspects;
        Assert.All(back, s => Assert.Equal(s.Share, forth[s.Id], 12));
        Assert.Equal(1, forth.Values.Sum(), 9);
    }

    [Fact]
    public void Places_to_look_are_reachable_and_come_by_what_they_find_in_a_minute()
    {
        var beliefs = Believe(Cranks.Value, Silent);
        var shut = new Situation { Unreachable = new HashSet<PlaceId> { new("tray") } };
        var places = Looking.Places(beliefs, shut, 20);
        Assert.NotEmpty(places);
        Assert.DoesNotContain(places, p => p.Place.Id.Text == "tray");
        var rates = places.Select(p => p.Finds / p.Minutes.Value).ToList();
        Assert.Equal(rates.OrderDescending(), rates);
    }

    [Fact]
    public void What_else_works_clears_what_both_need()
    {
        // The headlamps and the starter's command both come through the main fuse and the key's feed.
        var circuit = Shipped.Tractor;
        var lamp = Symptoms.Of(circuit).First(s => s.Duty.Id.Text == "does-lamp-left").Duty;
        var tries = DutyTries.Build(circuit, lamp, []);
        Fault Named(string id) => circuit.Faults.First(f => f.Id.Text == id);
        Assert.True(tries.Of(found: true, Named("fuse/blown")) < 0.05);
        Assert.True(tries.Of(found: true, Named("brake/start/open")) > 0.9);
        Assert.True(tries.Of(found: true, null) > 0.9);
        double Fuse(bool works)
        {
            var told = new SideEvidence([], [new OtherDuty(works, tries)]);
            var beliefs = Beliefs.Weigh(Cranks.Value.Table, Silent, Meter.Ordinary, [], told);
            return beliefs.Suspects.First(s => s.Id.Text == "part:fuse").Share;
        }

        Assert.True(Fuse(works: true) < 0.1 * Fuse(works: false));
    }

    /// <summary>A battery that is not charged was told of a running engine: what starts it has worked, and nobody says so.</summary>
    [Fact]
    public void What_ran_was_started_unless_it_is_told_otherwise()
    {
        var circuit = Shipped.Tractor;
        var kit = Shipped.Kit("orchard-tractor-4", "charges-battery");
        var cranks = DutyTries.Build(circuit, Symptoms.Duty(circuit, new DutyId("cranks")), []);
        double Fuse(Complaint told, bool known)
        {
            var state = JobState.Of([new RecordedEvent(1, default, new ComplaintMade(told))]);
            var job = JobDiagnosis.Of(state, kit, Meter.Ordinary, d => known && d.Text == "cranks" ? cranks : null);
            return job.Beliefs.Suspects.First(s => s.Id.Text == "part:fuse").Share;
        }

        var told = Silent with { Duty = new DutyId("charges-battery") };
        var (asTold, blind) = (Fuse(told, known: true), Fuse(told, known: false));
        Assert.True(asTold < 0.6 * blind, $"{asTold:P1} of {blind:P1}");
        var denied = Fuse(told with { Also = [new AlsoTold(new DutyId("cranks"), false)] }, known: true);
        Assert.True(denied > blind, $"{denied:P1} of {blind:P1}");
    }

    [Theory]
    [InlineData("orchard-tractor-4", "sparks-magneto", "brake=up seat=empty", "brake down|seat occupied")]
    [InlineData("orchard-tractor-4", "cranks", "blades=engaged", "blades off")]
    [InlineData("sound-cruiser-2", "port-cranks", "p-bank=OFF", "p-bank ON")]
    [InlineData("quay-scooter-3", "cranks", "front=free", "front pulled|rear pulled")]
    public void An_interlock_at_work_is_said_to_be_by_design_with_what_would_let_go(
        string machine,
        string duty,
        string moved,
        string wanted
    )
    {
        var circuit = Shipped.Circuit(machine);
        var asked = Symptoms.Duty(circuit, new DutyId(duty));
        var setting = asked.Setting.ToDictionary();
        foreach (var move in moved.Split(' '))
        {
            setting[new ControlId(move.Split('=')[0])] = new PositionId(move.Split('=')[1]);
        }

        var check = DesignCheck.Of(circuit, asked, circuit.Setting(setting));
        Assert.True(check.AsDesigned);
        var said = check.AnyOf.Select(w => $"{w.Control.Id} {w.Wanted}").ToList();
        Assert.All(wanted.Split('|'), w => Assert.Contains(w, said));
    }

    [Fact]
    public void The_duty_itself_is_never_called_a_refusal_by_design()
    {
        foreach (var (circuit, symptom) in Shipped.Ids.SelectMany(WithoutWaves))
        {
            var own = circuit.Setting(symptom.Duty.Setting);
            Assert.False(
                DesignCheck.Of(circuit, symptom.Duty, own).AsDesigned,
                $"{circuit.Machine.Id} {symptom.Duty.Id}"
            );
        }
    }

    [Fact]
    public void An_engine_that_sparks_and_will_not_start_wants_fuel()
    {
        var kit = MowerSparks.Value;
        var complaint = new Complaint { Duty = new DutyId("sparks-magneto"), Heard = Heard.WillNotStart };
        var before = Believe(kit, complaint).Suspects.First(s => s.IsSound).Share;
        Assert.InRange(before, 0.3, 0.7);
        var spark = kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.Observable.Key == Quantity.Spark && c.Off.Count == 0);
        var (red, black) = kit.Table.Conditions[spark].Pairs![0];
        double After(double figure) =>
            Beliefs
                .Weigh(
                    kit.Table,
                    complaint,
                    Meter.Ordinary,
                    [
                        new Reading(
                            new ProbePair(spark, red, black),
                            Texts.Reads(Quantity.Spark).Scaled(figure),
                            SymptomNow.Present
                        ),
                    ]
                )
                .Suspects.First(s => s.IsSound)
                .Share;
        Assert.True(After(2) > before);
        Assert.True(After(0) < 0.05);
    }

    [Fact]
    public void Reasons_name_the_reading_that_cleared_a_suspect()
    {
        var kit = Cranks.Value;
        var circuit = Shipped.Tractor;
        // Battery volts at the key's S terminal under START: what lies before it has passed them on.
        var at = new ProbePair(0, circuit.NodeOf("key.S"), circuit.Reference);
        var beliefs = Beliefs.Weigh(kit.Table, Silent, Meter.Ordinary, [new Reading(at, 12.3, SymptomNow.Present)]);
        var explained = Explanation.Of(beliefs);
        Assert.All(explained.First, r => Assert.Single(r.Readings));
        var fuse = explained.Cleared.First(c => c.Suspect.Id.Text == "part:fuse");
        Assert.Equal(at, fuse.By!.At);
        Assert.True(fuse.By.Factor < 0.1 && fuse.By.High < 6, $"{fuse.By.Factor} {fuse.By.High}");
        var brake = explained.First.First(r => r.Suspect.Id.Text == "part:brake");
        Assert.True(brake.Readings[0].Factor > 1);
    }

    [Fact]
    public void Readings_alike_of_suspects_alike_do_not_tell_them_apart_however_often_they_are_taken()
    {
        // One resistive path read again and again from its end: which of its joints it is stays as it was after the first.
        var kit = Shipped.Kit("tide-outboard-3", "stops-coil1-key-0");
        var ohms = kit
            .Table.Conditions.Select((c, i) => (Condition: c, Index: i))
            .First(c => c.Condition is { Observable: DeadOhms, Off.Count: 0 });
        var (red, black) = ohms.Condition.Pairs![0];
        var complaint = new Complaint { Duty = new DutyId("stops-coil1-key-0"), Heard = Heard.Nothing };
        List<Suspect> After(int times)
        {
            var readings = Enumerable.Repeat(
                new Reading(
                    new ProbePair(ohms.Index, red, black),
                    Texts.Reads(Quantity.Ohms).Scaled(700),
                    SymptomNow.Present
                ),
                times
            );
            return [.. Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, [.. readings]).Suspects];
        }

        var once = After(1);
        var often = After(6).ToDictionary(s => s.Id, s => s.Share);
        foreach (var suspect in once.Where(s => s.Share > 0.05))
        {
            Assert.InRange(often[suspect.Id], suspect.Share / 2, suspect.Share * 2);
        }
    }

    private static IEnumerable<(Circuit Circuit, Symptom Symptom)> WithoutWaves(string id)
    {
        var circuit = Shipped.Circuit(id);
        return Symptoms.Of(circuit).Where(s => DutyTries.IsQuick(circuit, s.Duty)).Select(s => (circuit, s));
    }
}
