using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>A hunt that goes on after something was mended, and how much is stated of what is believed.</summary>
public class ReopenedTests
{
    private static readonly DutyId Cranks = new("cranks");
    private static readonly Lazy<DiagnosisKit> Kit = new(() => Shipped.Kit("orchard-tractor-4", Cranks.Text));

    [Fact]
    public void Two_faults_one_after_the_other_are_both_found_through_a_failed_proof()
    {
        // The main fuse blown and the brake switch's contact open: with the fuse gone nothing else can be seen.
        var (fuse, brake) = (Planted("fuse/blown"), Planted("brake/start/open"));
        var history = new History();
        history.Add(new ComplaintMade(Told(Heard.Nothing)));
        var first = Hunt(history, [fuse, brake]);
        Assert.Equal(fuse.Fault.Repair.Id, first.Verdict.Suspect!.Repair!.Id);

        history.Add(new VerdictTaken(fuse.Fault.Repair.Id, "fuse", 1));
        history.Add(new RepairDone("renewed", "fuse", 5));
        history.Add(new MeasuredOn());
        var reopened = Diagnosis(history);
        Assert.NotEmpty(reopened.BeforeRepair);
        Assert.All(reopened.Readings, r => Assert.True(r.Agrees));
        Assert.True(ShareOf(reopened, fuse) < 0.1);

        var second = Hunt(history, [brake]);
        Assert.Equal(brake.Fault.Repair.Id, second.Verdict.Suspect!.Repair!.Id);
    }

    /// <summary>
    /// Better and not right after the brake switch was renewed: what was disturbed on the way to it, its push-ons and neighbours, gains on what
    /// was not; after a plain failure it does not.
    /// </summary>
    [Fact]
    public void What_was_better_for_a_repair_raises_what_was_disturbed_by_it()
    {
        double Disturbed(bool better)
        {
            var history = new History();
            history.Add(new ComplaintMade(Told(Heard.Nothing)));
            history.Add(new VerdictTaken(Planted("brake/start/open").Fault.Repair.Id, "brake switch", 1));
            history.Add(new RepairDone("renewed", "switch", 20));
            history.Add(new ProofGiven(new RepeatsCheck(), false, null) { IsBetter = better });
            history.Add(new MeasuredOn());
            var diagnosis = Diagnosis(history);
            double Share(string wire) =>
                diagnosis.Beliefs.Suspects.Where(s => s.Repair?.Id.Text == wire).Sum(s => s.Share);

            // Wires 6 and 7 end on the brake switch's start contact; wire 4 joins the key and the blade switch.
            return (Share("wire:6") + Share("wire:7")) / Share("wire:4");
        }

        Assert.True(Disturbed(better: true) > 1.5 * Disturbed(better: false));
    }

    [Fact]
    public void What_was_off_before_the_repair_must_be_right_before_the_job_is_proved()
    {
        var (fuse, brake) = (Planted("fuse/blown"), Planted("brake/start/open"));
        var history = new History();
        history.Add(new ComplaintMade(Told(Heard.Nothing)));
        Hunt(history, [fuse, brake]);
        history.Add(new VerdictTaken(fuse.Fault.Repair.Id, "fuse", 1));
        history.Add(new RepairDone("renewed", "fuse", 5));
        var before = JobProof.Of(Diagnosis(history)).Checks.Count;
        history.Add(new MeasuredOn());
        Hunt(history, [brake]);
        history.Add(new VerdictTaken(brake.Fault.Repair.Id, "brake switch", 1));
        history.Add(new RepairDone("renewed", "switch", 20));
        Assert.True(JobProof.Of(Diagnosis(history)).Checks.Count >= before);
    }

    /// <summary>Volts alone, however many, are one kind of evidence: less than nineteen in twenty is stated.</summary>
    [Fact]
    public void Less_than_nineteen_in_twenty_is_stated_on_volts_alone()
    {
        var brake = Planted("brake/start/open");
        var history = new History();
        history.Add(new ComplaintMade(Told(Heard.Nothing)));
        var diagnosis = Hunt(history, [brake]);
        Assert.Equal([EvidenceKind.Metered], diagnosis.Certainty.Kinds);
        Assert.True(diagnosis.Verdict.Suspect!.Share > 0.95);
        Assert.Equal(Certainty.MostUnproved, diagnosis.Certainty.Stated(diagnosis.Verdict.Suspect.Share), 6);

        history.Add(new LookedAt(brake.Fault.Repair.Id, LookFound.Loose));
        var seen = Diagnosis(history);
        Assert.Contains(EvidenceKind.Seen, seen.Certainty.Kinds);
        Assert.True(seen.Certainty.Stated(seen.Verdict.Suspect!.Share) > 0.95);
    }

    private static double ShareOf(JobDiagnosis diagnosis, PlantedFault planted) =>
        diagnosis.Beliefs.Suspects.Where(s => s.Repair?.Id == planted.Fault.Repair.Id).Sum(s => s.Share);

    private static Complaint Told(Heard heard) =>
        new()
        {
            Duty = Cranks,
            Heard = heard,
            Failed = 3,
            Tried = 3,
        };

    private static PlantedFault Planted(string id) => new(Shipped.Tractor.Faults.First(f => f.Id.Text == id), 1);

    private static JobDiagnosis Diagnosis(History history) =>
        JobDiagnosis.Of(JobState.Of(history.Events), Kit.Value, Meter.Ordinary);

    /// <summary>Takes the readings asked for on the machine with its faults until something stands clear.</summary>
    private static JobDiagnosis Hunt(History history, IReadOnlyList<PlantedFault> faults)
    {
        for (var k = 0; k < 15; k++)
        {
            var diagnosis = Diagnosis(history);
            if (diagnosis.Verdict.Suspect is not null || diagnosis.Next is not { } next)
            {
                return diagnosis;
            }

            var condition = next.Condition;
            var dead = condition.Observable.WantsDeadCircuit;
            var shown = Bench.Read(
                new Case
                {
                    Circuit = Shipped.Tractor,
                    Settings = dead ? [condition.Setting] : [Kit.Value.Table.Conditions[0].Setting, condition.Setting],
                    Faults = faults,
                    Off = condition.Off,
                    BatteryDisconnected = dead,
                },
                Meter.Ordinary,
                dead ? MeterFunction.Ohms : MeterFunction.DcVolts,
                next.At.Red,
                next.At.Black
            );
            var figure = shown.OverRange ? double.PositiveInfinity : shown.Value!.Value;
            history.Add(
                new ReadingTaken(
                    new ProbedAt(condition.Key(Shipped.Tractor), next.Red.Address, next.Black.Address),
                    shown.Shown,
                    figure,
                    SymptomNow.Present
                )
            );
        }

        return Diagnosis(history);
    }

    private sealed class History
    {
        private readonly List<RecordedEvent> events = [];

        public IReadOnlyList<RecordedEvent> Events => events;

        public void Add(JobEvent happened) =>
            events.Add(
                new RecordedEvent(events.Count + 1, DateTimeOffset.UnixEpoch.AddMinutes(events.Count), happened)
            );
    }
}
