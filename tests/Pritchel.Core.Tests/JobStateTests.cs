using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>A job's state follows from its events and from nothing else.</summary>
public class JobStateTests
{
    private static readonly Complaint Told = new()
    {
        Duty = new DutyId("cranks"),
        Heard = Heard.Nothing,
        Bridged = [AlterationId.Of("seat/kill")],
    };
    private static readonly ProbedAt Somewhere = new(
        new ConditionKey("volts", new NamedSetting([]), DutySpeed.Rest, [], null, SparkTesterAt.Nowhere),
        PointId.Of("key.B"),
        PointId.Of("battery.-")
    );

    [Fact]
    public void Stages_follow_from_what_was_done()
    {
        Assert.Equal(Stage.Complaint, State(new ComplaintMade(new Complaint { Duty = new DutyId("cranks") })).Stage);
        Assert.Equal(Stage.Measure, State(new ComplaintMade(Told)).Stage);
        Assert.Equal(
            Stage.Repair,
            State(new ComplaintMade(Told), new VerdictTaken(SuspectId.Of("part:key"), "key", 0.98)).Stage
        );
        Assert.Equal(
            Stage.Measure,
            State(
                new ComplaintMade(Told),
                new VerdictTaken(SuspectId.Of("part:key"), "key", 0.98),
                new MeasuredOn()
            ).Stage
        );
        Assert.Equal(
            Stage.Prove,
            State(
                new ComplaintMade(Told),
                new VerdictTaken(SuspectId.Of("part:key"), "key", 0.98),
                new RepairDone("new key", "", 10)
            ).Stage
        );
        Assert.Equal(Stage.Closed, State(new ComplaintMade(Told), new JobClosed(false, "")).Stage);
    }

    [Fact]
    public void Undo_takes_back_the_last_thing_that_stands_and_can_be_repeated()
    {
        var state = State(new ComplaintMade(Told), Read("12.4"), Read("0.3"));
        Assert.Equal(3, state.Undoable!.Sequence);
        state = State(new ComplaintMade(Told), Read("12.4"), Read("0.3"), new Undone(3));
        Assert.Equal("12.4", Assert.Single(state.Readings).Reading.Typed);
        Assert.Equal(2, state.Undoable!.Sequence);
        state = State(new ComplaintMade(Told), Read("12.4"), Read("0.3"), new Undone(3), new Undone(2));
        Assert.Empty(state.Readings);
        Assert.Null(state.Undoable);
    }

    [Fact]
    public void A_proof_counts_only_after_the_present_repair()
    {
        var state = State(
            new ComplaintMade(Told),
            new VerdictTaken(SuspectId.Of("part:key"), "key", 0.98),
            new RepairDone("cleaned", "", 10),
            new ProofGiven(new RepeatsCheck(), true, null),
            new MeasuredOn(),
            new VerdictTaken(SuspectId.Of("part:brake"), "brake", 0.98),
            new RepairDone("new switch", "switch", 15)
        );
        Assert.Empty(state.Proofs);
    }

    [Fact]
    public void A_found_bypass_stays_on_the_register_until_taken_out()
    {
        Assert.Equal(["seat/kill"], State(new ComplaintMade(Told)).OpenBypasses.Select(b => b.Text));
        Assert.Empty(State(new ComplaintMade(Told), new BypassRemoved(BypassId.Of("seat/kill"))).OpenBypasses);
    }

    [Fact]
    public void A_failed_try_starts_the_count_of_clean_ones_again()
    {
        var check = new ProofCheck(new RepeatsCheck(), 3);
        (CheckId Check, bool Passed) Try(bool passed) => (new RepeatsCheck(), passed);
        Assert.Equal(
            2,
            Proof.PassedRunning(check, [Try(true), Try(true), Try(true), Try(false), Try(true), Try(true)])
        );
    }

    private static ReadingTaken Read(string typed) => new(Somewhere, typed, 1, SymptomNow.Present);

    private static JobState State(params JobEvent[] events) =>
        JobState.Of([.. events.Select((e, i) => new RecordedEvent(i + 1, DateTimeOffset.UnixEpoch, e))]);
}
