using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Tests;

/// <summary>
/// When a suspect itself was read, by hand off the tractor's diagram: solenoid S is fed through key, blade switch and brake switch; its
/// coil goes from S to its case.
/// </summary>
public class ConvictionTests
{
    private static DiagnosisKit Kit => BeliefsTests.Kit;

    private static Reading Volts(string red, string black, double volts)
    {
        var condition = Kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.Words.StartsWith("key START", StringComparison.Ordinal));
        var at = new ProbePair(condition, Kit.Circuit.NodeOf(red), Kit.Circuit.NodeOf(black));
        return new Reading(at, volts, SymptomNow.Present);
    }

    private static (string? First, bool IsConvicted) Believe(params Reading[] readings)
    {
        var beliefs = Weigh(readings);
        return (beliefs.Suspects[0].Repair?.Id.Text, Certainty.Of(beliefs).IsConvicted);
    }

    private static Beliefs Weigh(Reading[] readings)
    {
        return Beliefs.Weigh(Kit.Table, Shipped.Told(Kit), Meter.Ordinary, readings);
    }

    /// <summary>Full volts across a coil that does nothing are what sound wiring shows, and convict the coil all the same.</summary>
    [Fact]
    public void Full_volts_across_a_coil_that_does_nothing_convict_it() =>
        Assert.Equal(("part:solenoid", true), Believe(Volts("solenoid.S", "solenoid.case", 12.4)));

    /// <summary>What is left over when all before it and all behind it reads well was not read itself.</summary>
    [Fact]
    public void What_is_left_over_is_not_convicted_and_is_once_it_was_read_across()
    {
        // Live as far as the blade switch, dead from the coupling behind the brake switch on.
        Reading[] around = [Volts("P1.2b", "battery.-", 12.4), Volts("P2.1a", "battery.-", 0)];
        Assert.False(Believe(around).IsConvicted);

        // The test that is offered to make sure lies across it too.
        var offered = Kit.Plan.Convicting(Weigh(around), new Situation())!.At;
        int[] own = [Kit.Circuit.NodeOf("brake.in"), Kit.Circuit.NodeOf("brake.out")];
        Assert.Equal(own, new[] { offered.Red, offered.Black }.Order());
        Assert.Equal(("part:brake", true), Believe([.. around, Volts("brake.in", "brake.out", 12.4)]));
    }

    /// <summary>
    /// What is left over is not yet a verdict: the probes lie near by, and reading it takes less than a wrong part in seventeen would
    /// cost. Once it was read it is one.
    /// </summary>
    [Fact]
    public void What_is_left_over_is_read_itself_before_it_is_a_verdict()
    {
        // Live in the coupling before it, dead in the one behind it, read twice, and nothing lost in the wires between.
        Reading[] around =
        [
            Volts("P1.2b", "battery.-", 12.4),
            Volts("P2.1a", "battery.-", 0),
            Volts("P2.1a", "battery.-", 0),
            Volts("P1.2b", "brake.in", 0),
            Volts("brake.out", "P2.1a", 0),
        ];
        var (left, situation) = (Weigh(around), Taken(around));
        var next = Kit.Plan.Best(left, situation)[0];
        Assert.Equal("part:brake", left.Suspects[0].Repair?.Id.Text);
        Assert.True(next.IsToMakeSure);
        Assert.Null(Verdict.Of(left, next).Suspect);

        Reading[] read = [.. around, new Reading(next.At, 12.4, SymptomNow.Present)];
        var sure = Weigh(read);
        Assert.Equal("part:brake", Verdict.Of(sure, Kit.Plan.Best(sure, Taken(read))[0]).Suspect?.Repair?.Id.Text);
    }

    /// <summary>Nothing lost between two points of it is no word against it, whatever is odd elsewhere.</summary>
    [Fact]
    public void A_joint_of_it_that_reads_well_convicts_nothing()
    {
        Reading[] around =
        [
            Volts("brake.in", "battery.-", 12.4),
            Volts("brake.in", "brake.out", 0),
            Volts("P2.1a", "battery.-", 0),
        ];
        Assert.Equal(("wire:7", false), Believe(around));
        Assert.Equal(("wire:7", false), Believe([.. around, Volts("P2.1a", "7@to", 0)]));
        Assert.Equal(("wire:7", true), Believe([.. around, Volts("brake.out", "battery.-", 12.4)]));
    }

    private static Situation Taken(IEnumerable<Reading> readings) =>
        readings.Aggregate(new Situation(), (situation, r) => Kit.Plan.After(situation, r.At));

    /// <summary>Good on one side of it and dead on the other is as much.</summary>
    [Fact]
    public void Live_before_it_and_dead_behind_it_convict_as_well() =>
        Assert.Equal(
            ("part:brake", true),
            Believe(Volts("brake.in", "battery.-", 12.4), Volts("brake.out", "battery.-", 0))
        );

    /// <summary>
    /// A quad's neutral lamp that is lit in gear goes out with its lead off at the neutral switch: the switch grounds it. Seen once it may
    /// be mistaken, and less is stated than when it was seen twice.
    /// </summary>
    [Fact]
    public void What_hangs_on_one_look_is_stated_only_once_it_was_looked_at_twice()
    {
        var kit = Shipped.Kit("hill-quad-2", "not-neutral-lamp");
        var conditions = kit.Table.Conditions.ToList();
        var off = conditions.FindIndex(c => c.Observable is LoadSeen && c.Off.Any(o => o.WireEnd?.Text == "21@to"));
        var volts = conditions.FindIndex(c =>
            c.Observable is DirectVolts && c.Off.Count == 0 && c.Words == conditions[0].Words
        );
        var (red, black) = conditions[off].Pairs!.Single();
        var grounded = new Reading(
            new ProbePair(volts, kit.Circuit.NodeOf("neutral.out"), kit.Circuit.NodeOf("neutral.case")),
            0,
            SymptomNow.Present
        );
        var dark = new Reading(new ProbePair(off, red, black), 0, SymptomNow.Present);
        Certainty Of(params Reading[] readings) =>
            Certainty.Of(Beliefs.Weigh(kit.Table, Shipped.Told(kit), Meter.Ordinary, readings));
        Assert.Equal(off, Of(grounded, dark).HangsOn?.Condition);
        Assert.Equal(1, Of(grounded, dark, dark with { }).Most);
    }
}
