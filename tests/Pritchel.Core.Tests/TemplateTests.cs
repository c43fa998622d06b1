using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Rewiring.Templates;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Circuits that are added: each whole by itself, and harmless in a machine whose own wiring is as it was.</summary>
public class TemplateTests
{
    // Where a tractor has what a template stands for.
    private static readonly Dictionary<string, string> OnTractor = new()
    {
        ["battery.+"] = "battery.+",
        ["key.I"] = "key.A",
        ["frame.bolt 2"] = "frame.loom bolt",
        ["frame.bolt 3"] = "frame.loom bolt",
        ["block.shroud"] = "block.crankcase",
        ["magneto.kill"] = "magneto.kill",
    };

    public static TheoryData<string> Keys => [.. CircuitTemplate.All.Select(t => t.Key)];

    [Theory]
    [MemberData(nameof(Keys))]
    public void A_template_is_a_sound_machine_that_does_what_it_is_for(string key)
    {
        var machine = CircuitTemplate.Named(key)!.Machine();
        Assert.Empty(MachineValidator.Check(machine).Select(p => p.Message));
        var circuit = Circuit.Compile(machine);
        var proof = DesignProof.Of(circuit, null);
        Assert.DoesNotContain(proof.Findings, f => f.Kind == FindingKind.Hazard && f.Fault is null);
        foreach (var duty in machine.Duties)
        {
            var state = DutyWaves.Tried(circuit, duty, waves: false);
            Assert.True(circuit.DeviceOf(duty.Load).Effect(state).Level > 0.8, duty.Name);
            state.Move(circuit.Setting(null));
            Assert.True(circuit.DeviceOf(duty.Load).Effect(state).Level < 0.05, duty.Name);
        }
    }

    /// <summary>
    /// Landed on battery +, a feed of the key, metal and the kill lead: the tractor cranks, runs and stops as before in every
    /// setting, and the new parts do their work.
    /// </summary>
    [Theory]
    [InlineData("accessory-relay")]
    [InlineData("kill")]
    [InlineData("oil-alarm")]
    [InlineData("second-battery")]
    public void A_template_joined_into_a_tractor_raises_no_hazard(string key)
    {
        var after = Built(key);
        var proof = DesignProof.Of(after, Shipped.Circuit("orchard-tractor-4"));
        Assert.DoesNotContain(proof.Findings, f => f.Fault is null && f.Kind is FindingKind.Hazard or FindingKind.Lost);
    }

    /// <summary>By hand: the added switch grounds the magneto whatever the key says; at RUN nothing of it is there.</summary>
    [Theory]
    [InlineData("RUN", "in", true)]
    [InlineData("STOP", "in", false)]
    [InlineData("RUN", "out", false)]
    public void The_added_kill_stops_the_tractor(string stop, string clip, bool sparks)
    {
        var after = Built("kill");
        var setting = after.Setting(
            new Dictionary<ControlId, PositionId>
            {
                [new ControlId("key")] = new("RUN"),
                [new ControlId("seat")] = new("occupied"),
                [Control(after, "stop")] = new(stop),
                [Control(after, "clip")] = new(clip),
            }
        );
        var state = new CircuitState(after) { FollowsWaves = false };
        state.Begin(after.NominalParameters());
        state.SetSpeeds(DutySpeed.Work);
        state.Move(setting);
        var outcome = Outcome.Of(state, Settlement.Settled);
        Assert.Equal((sparks, !sparks), (outcome.AllSpark, outcome.NoneSparks));
    }

    /// <summary>What its leads are for is found though neither battery nor metal comes with them.</summary>
    [Fact]
    public void A_template_s_leads_tell_what_they_are_for()
    {
        var template = CircuitTemplate.Named("accessory-relay")!;
        var host = Shipped.Circuit("orchard-tractor-4").Machine;
        var plan = new RewirePlan(
            new RewireSide(SideKey.Host, host, host.Parts.Select(p => p.Id), []),
            new RewireSide(SideKey.Donor, template.Machine(), template.Keeps(), []),
            []
        );
        var kinds = EndFunction.Of(plan).GroupBy(e => e.Kind).ToDictionary(g => g.Key, g => g.Count());
        Assert.Equal(1, kinds[EndKind.BatteryFeed]);
        Assert.Equal(1, kinds[EndKind.SwitchedFeed]);
        Assert.Equal(2, kinds[EndKind.Ground]);
    }

    /// <summary>By hand: the tractor's key feeds A from B at RUN and LIGHTS, L at LIGHTS alone; START springs back.</summary>
    [Fact]
    public void A_feed_that_a_template_wants_with_the_key_is_landed_on_the_key()
    {
        var template = CircuitTemplate.Named("accessory-relay")!;
        var host = Shipped.Circuit("orchard-tractor-4").Machine;
        var plan = new RewirePlan(
            new RewireSide(SideKey.Host, host, host.Parts.Select(p => p.Id), []),
            new RewireSide(SideKey.Donor, template.Machine(), template.Keeps(), []),
            []
        );
        var landed = JoinAdvice.Suggest(plan, PlanFunctions.Of(plan)).Select(s => s.Join.Onto?.At.Text).ToList();
        Assert.Contains("key.A", landed);
        Assert.Contains("battery.+", landed);
        Assert.Equal(4, landed.Count);
    }

    private static ControlId Control(Circuit circuit, string id) =>
        circuit.Machine.Controls.First(c => c.Id.Text == id || c.Id.Text.EndsWith(id, StringComparison.Ordinal)).Id;

    /// <summary>
    /// Leads landed on posts of another kind: what is fed whatever the key says on the key's own post goes dead with it, what a
    /// switch feeds on the battery is never off; landed as it should be, neither is said. Metal in a feed burns a wire.
    /// </summary>
    [Theory]
    [InlineData("battery.+", "key.A", false, "fed with the key only")]
    [InlineData("key.I", "battery.+", false, "whatever the switch says")]
    [InlineData("frame.bolt 2", "battery.+", true, "joined to ground")]
    [InlineData("battery.+", "frame.loom bolt", true, "joined to ground")]
    [InlineData("battery.+", "magneto.kill", true, "kill lead is joined to a feed")]
    public void A_lead_landed_on_a_post_of_another_kind_is_flagged(string lead, string post, bool grave, string says)
    {
        var right = Planned("accessory-relay", OnTractor);
        var sound = JoinAdvice.Flags(right, PlanFunctions.Of(right));
        Assert.DoesNotContain(sound, f => f.Join is not null);

        var plan = Planned("accessory-relay", new(OnTractor) { [lead] = post });
        var flag = Assert.Single(JoinAdvice.Flags(plan, PlanFunctions.Of(plan)), f => f.Join is not null);
        Assert.Equal(grave, flag.Grave);
        Assert.Contains(says, flag.Words, StringComparison.Ordinal);
    }

    private static Circuit Built(string key) => Circuit.Compile(Marriage.Of(Planned(key, OnTractor)).Machine);

    private static RewirePlan Planned(string key, Dictionary<string, string> landings)
    {
        var template = CircuitTemplate.Named(key)!;
        var host = Shipped.Circuit("orchard-tractor-4").Machine;
        var donor = template.Machine();
        var plan = new RewirePlan(
            new RewireSide(SideKey.Host, host, host.Parts.Select(p => p.Id), []),
            new RewireSide(SideKey.Donor, donor, template.Keeps(), []),
            []
        );
        foreach (var (_, end) in plan.Flags)
        {
            var far = end.Wire is { } wire
                ? donor.Index.Wire(wire.Wire)!.End(wire.Side).At
                : donor.Mounts.First(m => m.Id == end.Mount).On;
            plan = plan.With(new Join([end], new Landing(SideKey.Host, TerminalAddress.Of(landings[far.Text]))));
        }

        return plan;
    }
}
