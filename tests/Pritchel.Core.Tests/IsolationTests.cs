using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What is dear is condemned only by a test at its own terminals.</summary>
public class IsolationTests
{
    private static readonly Lazy<DiagnosisKit> Kit = new(() => Shipped.Kit("orchard-zero-turn-7", "sparks-magneto1"));

    /// <summary>
    /// By hand: a lead bare between the coil and its coupling kills the spark with every plug apart, just as an open primary
    /// does; only the kill wire off at the coil itself tells them apart.
    /// </summary>
    [Fact]
    public void A_coil_without_a_spark_is_not_condemned_before_its_own_wire_is_off()
    {
        Reading[] dead = [Spark([]), Spark(["P2"]), Volts("seat-switch.1", 0)];
        var before = Weigh(dead);
        Assert.Equal("part:magneto1", before.Suspects[0].Id.Text);
        var best = Kit.Value.Plan.Best(before, new Situation())[0];
        var machine = Kit.Value.Circuit.Machine;
        Assert.Contains(
            best.Condition.Off,
            o => o.WireEnd is { } end && machine.Index.TerminalOf(end)!.Value.Part == new PartId("magneto1")
        );
        Assert.Null(Verdict.Of(before, best).Suspect);

        // Read there as a dead coil reads, and as a sound one does.
        Beliefs After(double figure) => Weigh([.. dead, new Reading(best.At, figure, SymptomNow.Present)]);
        var isolated = After(Staircase.Suspected(before, best.At));
        Assert.Equal("part:magneto1", isolated.Suspects[0].Id.Text);
        Assert.Null(Isolation.Wanted(isolated));

        // Sound there, what that test does not see of the coil wants another at its terminals: the spark.
        var sound = After(Kit.Value.Table.Healthy.Across(best.At)[0]);
        var next = Kit.Value.Plan.Best(sound, Kit.Value.Plan.After(new Situation(), best.At))[0];
        Assert.NotEqual("part:magneto1", Verdict.Of(sound, next).Suspect?.Id.Text);
        Assert.NotEqual(best.At, next.At);
    }

    /// <summary>
    /// By hand: amps out of the battery say that something drains it, not that the alternator does. With its own lead off the drain of its
    /// diodes is gone, and any other goes on.
    /// </summary>
    [Fact]
    public void An_alternator_that_drains_is_not_condemned_before_its_own_lead_is_off()
    {
        var kit = Shipped.Kit("terrace-dumper-1", "holds-battery");
        var (table, circuit) = (kit.Table, kit.Circuit);
        var conditions = table.Conditions.ToList();
        Reading Read(Predicate<Condition> of, (int Red, int Black)? pair, double shown)
        {
            var at = conditions.FindIndex(of);
            var (red, black) = pair ?? conditions[at].Pairs![0];
            return new Reading(new ProbePair(at, red, black), shown, SymptomNow.Present);
        }

        Reading Volts(string red, string black, double volts) =>
            Read(c => c.IsFree && c.Words == "everything at rest", (circuit.NodeOf(red), circuit.NodeOf(black)), volts);
        bool IsFreed(Condition condition) =>
            condition.Off.Any(o =>
                o.WireEnd is { } end
                && circuit.Machine.Index.TerminalOf(end)!.Value == new PartId("alternator").At("B+")
            );
        var amps = DirectAmps.Instance;
        Reading[] drains =
        [
            Volts("timer.15", "timer.31", 0),
            Volts("heat-relay.86", "heat-relay.85", 0),
            Volts("stop-relay.30", "stop-relay.87", 12.4),
            Read(c => c is { Observable: DirectAmps, Off.Count: 0 }, null, amps.Scaled(1.4)),
        ];

        var before = Weigh(kit, drains);
        Assert.Equal("part:alternator", before.Suspects[0].Id.Text);
        var best = kit.Plan.Best(before, new Situation())[0];
        Assert.True(best.Condition.Observable == amps && IsFreed(best.Condition), best.Condition.Words);
        Assert.Null(Verdict.Of(before, best).Suspect);
        Assert.Contains("test it by itself", Verdict.Of(before, null).Caution, StringComparison.Ordinal);

        var gone = Weigh(kit, [.. drains, Read(IsFreed, null, amps.Scaled(0))]);
        Assert.Equal("part:alternator", gone.Suspects[0].Id.Text);
        Assert.Null(Isolation.Wanted(gone));
        var verdict = Verdict.Of(gone, null);
        Assert.Equal("part:alternator", verdict.Suspect?.Id.Text);
        Assert.Empty(verdict.Caution);

        var stays = Weigh(kit, [.. drains, Read(IsFreed, null, amps.Scaled(1.4))]);
        double Share(Beliefs beliefs) => beliefs.Suspects.First(x => x.Id.Text == "part:alternator").Share;
        Assert.True(
            Share(stays) < Share(before) && Share(before) < Share(gone),
            $"{Share(stays)}, {Share(before)}, {Share(gone)}"
        );
        Assert.True(Isolation.Wanted(stays) is not null || Share(stays) < Isolation.Least, $"{Share(stays)}");
    }

    /// <summary>
    /// By the drawing: the launch's alternator hangs behind the battery switch, so what it drains overnight it drains with that left on, and
    /// with it off nothing shows whose drain it is. Off, the whole of it is gone, which is worth one reading.
    /// </summary>
    [Fact]
    public void What_drains_behind_a_battery_switch_is_read_with_the_switch_as_it_was_left()
    {
        var table = Shipped.Kit("harbour-launch-1", "holds-house-switch-2").Table;
        var left = table.Circuit.Setting(table.Duty.Setting);
        var rest = table.Circuit.Setting(null);
        var amps = table.Conditions.Where(c => c.Observable is DirectAmps).ToList();
        bool IsAlternators(Disconnection off) =>
            off.WireEnd is { } end
            && table.Circuit.Machine.Index.TerminalOf(end)!.Value == new PartId("alternator").At("B+");
        Assert.True(Assert.Single(amps, c => c.Off.Any(IsAlternators)).Setting.Equals(left));
        Assert.Empty(Assert.Single(amps, c => c.Setting.Equals(rest)).Off);
        Assert.All(
            amps,
            c => Assert.Equal(c.Setting.Equals(left), c.Words.Contains("HOUSE", StringComparison.Ordinal))
        );
    }

    /// <summary>By the trade's list: what makes, stores and regulates current, fires and cranks; nothing that costs a walk.</summary>
    [Theory]
    [InlineData("battery", true, true)]
    [InlineData("starter", true, true)]
    [InlineData("magneto", true, false)]
    [InlineData("ignition-coil", true, false)]
    [InlineData("stator-3", true, false)]
    [InlineData("alternator", true, true)]
    [InlineData("igniter", true, true)]
    [InlineData("fuse", false, false)]
    [InlineData("relay", false, false)]
    [InlineData("switch", false, false)]
    [InlineData("lamp", false, false)]
    public void What_is_dear_and_how_it_is_judged(string kind, bool costly, bool atWork)
    {
        var known = DeviceKinds.Named(kind)!;
        Assert.Equal(costly, known.IsCostly);
        Assert.Equal(atWork, known.IsJudgedAtWork);
    }

    private static Beliefs Weigh(params Reading[] readings) => Weigh(Kit.Value, readings);

    private static Beliefs Weigh(DiagnosisKit kit, params Reading[] readings) =>
        Beliefs.Weigh(
            kit.Table,
            new Complaint
            {
                Duty = kit.Table.Duty.Id,
                Heard = Heard.Nothing,
                Failed = 3,
                Tried = 3,
            },
            Meter.Ordinary,
            readings
        );

    /// <summary>No spark on the plug lead with some couplings apart.</summary>
    private static Reading Spark(string[] apart)
    {
        var conditions = Kit.Value.Table.Conditions.ToList();
        var at = conditions.FindIndex(c =>
            c.Observable is SparkSeen
            && c.Tester == SparkTesterAt.PlugLead
            && c.Off.Select(o => o.Text).SequenceEqual(apart, StringComparer.Ordinal)
        );
        var (red, black) = conditions[at].Pairs![0];
        return new Reading(new ProbePair(at, red, black), 0, SymptomNow.Present);
    }

    private static Reading Volts(string point, double volts)
    {
        var circuit = Kit.Value.Circuit;
        var at = Kit
            .Value.Table.Conditions.ToList()
            .FindIndex(c => c.IsFree && c.Words.Contains("START", StringComparison.Ordinal));
        return new Reading(
            new ProbePair(at, circuit.NodeOf(point), circuit.NodeOf("battery.-")),
            volts,
            SymptomNow.Present
        );
    }
}
