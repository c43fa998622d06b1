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

        // With nothing left that would free it, it is sent to its own sheet, which convicts it; nothing else does.
        Assert.Null(Verdict.Of(before, null).Suspect);
        Assert.Equal(new PartId("alternator"), Verdict.Of(before, null).ByItself);
        Beliefs Tested(bool good) =>
            Weigh(
                kit,
                Heard.Nothing,
                new SideEvidence(
                    [],
                    [],
                    tested: [new TestedAlone(new PartId("alternator"), good, new HashSet<FaultId>())]
                ),
                drains
            );
        Assert.Equal("part:alternator", Verdict.Of(Tested(good: false), null).Suspect?.Id.Text);
        Assert.NotEqual("part:alternator", Verdict.Of(Tested(good: true), null).Suspect?.Id.Text);

        var gone = Weigh(kit, [.. drains, Read(IsFreed, null, amps.Scaled(0))]);
        Assert.Equal("part:alternator", gone.Suspects[0].Id.Text);
        Assert.Null(Isolation.Wanted(gone));
        var verdict = Verdict.Of(gone, null);
        Assert.Equal("part:alternator", verdict.Suspect?.Id.Text);
        Assert.Null(verdict.ByItself);

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

    /// <summary>
    /// By hand: the battery's own volts from a starter's post to its case while START is held, and it does not turn: nothing outside it can do
    /// that. Full volts up to its post alone leave its ground in question.
    /// </summary>
    [Fact]
    public void Full_volts_across_a_starter_that_does_nothing_isolate_it()
    {
        var kit = Shipped.Kit("orchard-zero-turn-7", "cranks");
        Reading Start(string red, string black) => Read(kit, DirectVolts.Instance, "START", red, black, 12.46);
        var upTo = Weigh(kit, Heard.OneClick, Start("solenoid.M", "battery.-"), Start("starter.post", "battery.-"));
        Assert.NotEqual("part:starter", Verdict.Of(upTo, null).Suspect?.Id.Text);
        var across = Weigh(
            kit,
            Heard.OneClick,
            Start("solenoid.M", "battery.-"),
            Start("starter.post", "starter.case")
        );
        Assert.Equal("part:starter", Verdict.Of(across, null).Suspect?.Id.Text);
    }

    /// <summary>
    /// By the law of monotonicity: an ohm from post to case of a starter that has a hundredth is its own, its cables on, since whatever lies
    /// beside it takes ohms away. From its post to the battery it may be its cables'. No hand may reach it while it cranks.
    /// </summary>
    [Fact]
    public void Ohms_of_a_starter_itself_isolate_it_with_its_cables_on_and_ohms_beyond_it_do_not()
    {
        var kit = Shipped.Kit("harbour-launch-1", "cranks-switch-2");
        Reading[] Read(string red, string black) =>
            [
                IsolationTests.Read(kit, DirectVolts.Instance, "HOUSE", "start-relay.87", "block.ground stud", 11.8),
                IsolationTests.Read(kit, DirectVolts.Instance, "START", "start-relay.87", "block.ground stud", 11.9),
                IsolationTests.Read(kit, DeadOhms.Instance, "rest", "solenoid.M", "starter.case", 1.1),
                IsolationTests.Read(kit, DeadOhms.Instance, "rest", red, black, 1),
            ];
        var itself = Weigh(kit, Heard.OneClick, Read("starter.post", "starter.case"));
        Assert.Equal("part:starter", itself.Suspects[0].Id.Text);
        Assert.Null(Isolation.Wanted(itself));
        var beyond = Weigh(kit, Heard.OneClick, Read("starter.post", "start.-"));
        Assert.Equal("part:starter", beyond.Suspects[0].Id.Text);
        Assert.NotNull(Isolation.Wanted(beyond));
        Assert.Null(Verdict.Of(beyond, null).Suspect);
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
        Weigh(kit, Heard.Nothing, SideEvidence.None, readings);

    private static Beliefs Weigh(DiagnosisKit kit, Heard heard, params Reading[] readings) =>
        Weigh(kit, heard, SideEvidence.None, readings);

    private static Beliefs Weigh(DiagnosisKit kit, Heard heard, SideEvidence side, Reading[] readings) =>
        Beliefs.Weigh(
            kit.Table,
            new Complaint
            {
                Duty = kit.Table.Duty.Id,
                Heard = heard,
                Failed = 3,
                Tried = 3,
            },
            Meter.Ordinary,
            readings,
            side
        );

    /// <summary>A figure read between two points with all its plugs together, in the setting whose words hold these.</summary>
    private static Reading Read(
        DiagnosisKit kit,
        Observable what,
        string where,
        string red,
        string black,
        double figure
    )
    {
        var (one, other) = (kit.Circuit.NodeOf(red), kit.Circuit.NodeOf(black));
        var at = kit
            .Table.Conditions.ToList()
            .FindIndex(c =>
                c.Observable == what
                && c is { Off.Count: 0, Jump: null }
                && c.Words.Contains(where, StringComparison.Ordinal)
                && c.Pairs?.Contains((one, other)) != false
            );
        return new Reading(new ProbePair(at, one, other), what.Scaled(figure), SymptomNow.Present);
    }

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
