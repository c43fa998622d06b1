using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>Moving, warming and wetting what comes and goes, as tests and as evidence.</summary>
public class WiggleTestsTests
{
    private static readonly Lazy<DiagnosisKit> Cranks = new(() => Shipped.Kit("orchard-tractor-4", "cranks"));

    private static Complaint Seldom { get; } =
        new()
        {
            Duty = new DutyId("cranks"),
            Heard = Heard.Nothing,
            Failed = 1,
            Tried = 5,
        };

    private static Beliefs Believe(DiagnosisKit kit, Complaint complaint, params Wiggle[] tried) =>
        Beliefs.Weigh(
            kit.Table,
            complaint,
            Meter.Ordinary,
            [],
            new SideEvidence([], [], wiggles: new WiggleEvidence(tried, complaint))
        );

    private static Wiggle Stirred(string place, bool changed, WiggledBy by = WiggledBy.Moving) =>
        new(Cranks.Value.WiggleTests.Find(new PlaceId(place), null)!, by, changed);

    private static double At(Beliefs beliefs, string place) =>
        beliefs
            .Suspects.Where(s =>
                s.Repair is { } repair
                && Cranks.Value.WiggleTests.Find(new PlaceId(place), null)!.Repairs.Contains(repair.Id)
            )
            .Sum(s => s.Share);

    /// <summary>By hand, from the drawing: P2 and the solenoid's wires lie at the left frame rail, the key behind the dash.</summary>
    [Theory]
    [InlineData("tray", "joint:C1@from wire:C1", "part:key part:brake")]
    [InlineData("dash", "part:key", "part:solenoid")]
    [InlineData("pedal", "part:brake wire:6", "part:key mount:G1")]
    public void A_place_holds_what_is_mended_there_and_the_wires_that_end_there(
        string place,
        string holds,
        string holdsNot
    )
    {
        var repairs = Cranks.Value.WiggleTests.Find(new PlaceId(place), null)!.Repairs;
        Assert.All(holds.Split(' '), r => Assert.Contains(RepairId.Of(r), repairs));
        Assert.All(holdsNot.Split(' '), r => Assert.DoesNotContain(RepairId.Of(r), repairs));
    }

    [Fact]
    public void What_changes_as_a_place_is_moved_lies_there_and_nothing_changing_clears_it_a_little()
    {
        var before = At(Believe(Cranks.Value, Seldom), "dash");
        var moved = At(Believe(Cranks.Value, Seldom, Stirred("dash", true)), "dash");
        var still = At(Believe(Cranks.Value, Seldom, Stirred("dash", false)), "dash");
        Assert.InRange(before, 0.2, 0.8);

        // Odds rise by about 0.6/0.05 and fall by about 0.4/0.95.
        var odds = before / (1 - before);
        Assert.InRange(moved / (1 - moved) / odds, 6, 14);
        Assert.InRange(still / (1 - still) / odds, 0.35, 0.6);
    }

    [Fact]
    public void Order_does_not_matter_the_last_of_a_treatment_counts_and_shares_sum_to_one()
    {
        Wiggle[] tried =
        [
            Stirred("dash", true),
            Stirred("tray", false),
            Stirred("dash", true, WiggledBy.Wetting),
            Stirred("dash", false),
        ];
        var forth = Believe(Cranks.Value, Seldom, tried).Suspects.ToDictionary(s => s.Id, s => s.Share);
        var back = Believe(Cranks.Value, Seldom, tried[3], tried[2], tried[1]).Suspects;
        Assert.All(back, s => Assert.Equal(s.Share, forth[s.Id], 12));
        Assert.Equal(1, forth.Values.Sum(), 9);
    }

    [Fact]
    public void A_fault_that_is_always_there_is_not_stirred_for()
    {
        var always = Seldom with { Failed = 5 };
        Assert.Empty(Cranks.Value.WiggleTests.Best(Believe(Cranks.Value, always), new Situation(), 9));
        Assert.NotEmpty(Cranks.Value.WiggleTests.Best(Believe(Cranks.Value, Seldom), new Situation(), 9));
    }

    [Fact]
    public void What_has_been_stirred_and_what_cannot_be_reached_are_not_offered_again()
    {
        var beliefs = Believe(Cranks.Value, Seldom, Stirred("fender", false));
        var shut = new Situation { Unreachable = new HashSet<PlaceId> { new("tray") } };
        var offered = Cranks.Value.WiggleTests.Best(beliefs, shut, 40);
        Assert.DoesNotContain(offered, p => p.Reach.Place.Id.Text == "tray");
        Assert.DoesNotContain(
            offered,
            p => p.By == WiggledBy.Moving && p.Reach.Alone is null && p.Reach.Place.Id.Text == "fender"
        );
    }

    /// <summary>
    /// With hands in a place nothing may turn beside them, nothing is joined, and what is watched shows the fault that is
    /// looked for: solved with the likeliest fault that is stirred and without, the two readings differ plainly.
    /// </summary>
    [Theory]
    [InlineData("orchard-tractor-4", "cranks", Heard.Nothing)]
    [InlineData("hill-quad-2", "cranks", Heard.Nothing)]
    [InlineData("quay-scooter-3", "cranks", Heard.Nothing)]
    [InlineData("packhouse-generator-1", "does-outlet1", Heard.Nothing)]
    [InlineData("tide-outboard-3", "sparks-coil1", Heard.Slow)]
    public void What_is_watched_is_safe_and_shows_it(string machine, string duty, Heard heard)
    {
        var circuit = Shipped.Circuit(machine);
        var kit = DiagnosisKit.BuildCoarse(circuit, Symptoms.Duty(circuit, new DutyId(duty)), []);
        var complaint = Seldom with { Duty = kit.Table.Duty.Id, Heard = heard };
        var beliefs = Believe(kit, complaint);
        var offered = kit.WiggleTests.Best(beliefs, new Situation(), 40);
        Assert.NotEmpty(offered);
        foreach (var stir in offered)
        {
            if (machine == "packhouse-generator-1")
            {
                Assert.NotEqual(WiggledBy.Wetting, stir.By);
            }

            var condition = stir.Watch?.Condition ?? kit.Table.Conditions[0];
            Assert.True(stir.Reach.Place.EngineMayTurn || !condition.MayTurnEngine, stir.Reach.Place.Id.Text);
            Assert.Null(condition.Jump);
            if (stir.Watch is { } watch)
            {
                var seen = beliefs
                    .Table.Hypotheses.Where(h =>
                        h is { HasPredictions: true, Fault: { ComesAndGoes: true } fault }
                        && stir.Reach.Repairs.Contains(fault.Repair.Id)
                    )
                    .Max(h => Math.Abs(h.Across(watch.At)[0] - kit.Table.Healthy.Across(watch.At)[0]));
                Assert.True(seen >= 0.5, $"{stir.Reach.Place.Id} {watch.At}: {seen}");
            }
        }
    }

    [Fact]
    public void Chances_are_chances_and_each_kind_answers_to_its_own_treatment()
    {
        foreach (var fault in Shipped.Ids.SelectMany(id => Shipped.Circuit(id).Faults).Where(f => f.ComesAndGoes))
        {
            var answers = Enum.GetValues<WiggledBy>().Select(by => WiggleEvidence.Answers(fault, by)).ToList();
            Assert.All(answers, a => Assert.InRange(a, 0.01, 0.9));
            var best = Enum.GetValues<WiggledBy>()[answers.IndexOf(answers.Max())];
            Assert.Equal(
                fault.Kind == FaultKind.ShortedToNeighbour ? WiggledBy.Wetting
                    : fault.Kind == FaultKind.Chafed
                        ? fault.Weakness.HasFlag(Weakness.Damp) ? WiggledBy.Wetting
                            : WiggledBy.Moving
                    : fault.Repair.Kind is RepairKind.ReplacePart or RepairKind.ServiceStarter ? WiggledBy.Warming
                    : WiggledBy.Moving,
                best
            );
        }
    }

    /// <summary>
    /// A hidden fault that is there in a third of tries answers as its chance says: 400 times at its own place, three standard
    /// deviations of that many draws at most away.
    /// </summary>
    [Fact]
    public void A_hidden_fault_answers_as_often_as_it_should()
    {
        var kit = Cranks.Value;
        var fault = Shipped.Tractor.Faults.First(f => f.Id.Text == "P2/1/resistive");
        var hidden = HiddenFault.Hide(
            kit.Table,
            fault,
            Meter.Ordinary,
            new Random(4),
            World.Believed with
            {
                Presence = 1.0 / 3,
            }
        )!;
        int Changes(string place) =>
            Enumerable
                .Range(0, 400)
                .Count(_ =>
                    hidden.Wiggles(
                        kit.WiggleTests.Plan(
                            Believe(kit, hidden.Complaint),
                            new Situation(),
                            kit.WiggleTests.Find(new PlaceId(place), null)!,
                            WiggledBy.Moving
                        )! with
                        {
                            Watch = null,
                        }
                    )
                );
        Assert.InRange(Changes(fault.Repair.Place.Text), 240 - 30, 240 + 30);
        Assert.InRange(Changes("dash"), 5, 35);
    }

    [Fact]
    public void A_job_remembers_what_was_stirred_and_undo_takes_it_back_exactly()
    {
        RecordedEvent[] history =
        [
            new(1, DateTimeOffset.UnixEpoch, new ComplaintMade(Seldom)),
            new(2, DateTimeOffset.UnixEpoch, new Wiggled(new PlaceId("dash"), null, WiggledBy.Moving, true, null)),
        ];
        JobDiagnosis Of(params RecordedEvent[] events) =>
            JobDiagnosis.Of(JobState.Of(events), Cranks.Value, Meter.Ordinary);
        var (before, after) = (Of(history[0]), Of(history));
        var undone = Of([.. history, new RecordedEvent(3, DateTimeOffset.UnixEpoch, new Undone(2))]);
        Assert.True(At(after.Beliefs, "dash") > At(before.Beliefs, "dash"));
        Assert.Contains(new PlaceId("dash"), after.Situation.Opened);
        Assert.Equal(before.Beliefs.Suspects, undone.Beliefs.Suspects);
        Assert.Empty(undone.Situation.Opened);
    }

    /// <summary>Nothing but what has been tried for a fault that comes and goes is left to an unknown cause.</summary>
    [Fact]
    public void Few_failures_do_not_make_an_unknown_cause_likelier()
    {
        var often = Believe(Cranks.Value, Seldom with { Failed = 5 }).NoneOfThese;
        var seldom = Believe(Cranks.Value, Seldom with { Tried = 10 }).NoneOfThese;
        Assert.InRange(seldom, 0, 2 * often);
    }
}
