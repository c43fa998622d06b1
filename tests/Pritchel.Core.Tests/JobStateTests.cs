using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Faults;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Proving;

namespace Pritchel.Core.Tests;

/// <summary>A job's state follows from its events and from nothing else.</summary>
public class JobStateTests
{
    private static readonly Complaint Told = new()
    {
        Duty = "cranks",
        Heard = Heard.Nothing,
        Bridged = ["seat/kill"],
    };
    private static readonly ProbedAt Somewhere = new(new Dictionary<string, string>(), "key.B", "battery.-");

    [Fact]
    public void Stages_follow_from_what_was_done()
    {
        Assert.Equal(Stage.Complaint, State(new ComplaintMade(new Complaint { Duty = "cranks" })).Stage);
        Assert.Equal(Stage.Measure, State(new ComplaintMade(Told)).Stage);
        Assert.Equal(Stage.Repair, State(new ComplaintMade(Told), new VerdictTaken("part:key", "key", 0.98)).Stage);
        Assert.Equal(
            Stage.Measure,
            State(new ComplaintMade(Told), new VerdictTaken("part:key", "key", 0.98), new MeasuredOn()).Stage
        );
        Assert.Equal(
            Stage.Prove,
            State(
                new ComplaintMade(Told),
                new VerdictTaken("part:key", "key", 0.98),
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
            new VerdictTaken("part:key", "key", 0.98),
            new RepairDone("cleaned", "", 10),
            new ProofGiven("repeats", true, null),
            new MeasuredOn(),
            new VerdictTaken("part:brake", "brake", 0.98),
            new RepairDone("new switch", "switch", 15)
        );
        Assert.Empty(state.Proofs);
    }

    [Fact]
    public void A_found_bypass_stays_on_the_register_until_taken_out()
    {
        Assert.Equal(["seat/kill"], State(new ComplaintMade(Told)).OpenBypasses);
        Assert.Empty(State(new ComplaintMade(Told), new BypassRemoved("seat/kill")).OpenBypasses);
    }

    [Fact]
    public void A_failed_try_starts_the_count_of_clean_ones_again()
    {
        var check = new ProofCheck("repeats", ProofKind.Repeats, "", "", 3);
        ProofGiven Try(bool passed) => new("repeats", passed, null);
        Assert.Equal(
            2,
            Proof.PassedRunning(check, [Try(true), Try(true), Try(true), Try(false), Try(true), Try(true)])
        );
    }

    private static ReadingTaken Read(string typed) => new(Somewhere, typed, 1, SymptomNow.Present);

    private static JobState State(params JobEvent[] events) =>
        JobState.Of([.. events.Select((e, i) => new RecordedEvent(i + 1, DateTimeOffset.UnixEpoch, e))]);
}
