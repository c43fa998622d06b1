using Pritchel.Core.Simulation;
using static Pritchel.Core.Tests.Shipped;

namespace Pritchel.Core.Tests;

/// <summary>What the ride-on tractor does in each setting, written from how such a machine is meant to work.</summary>
public class TractorTruthTests
{
    [Theory]
    [InlineData("START", "down", "off", true)]
    [InlineData("START", "up", "off", false)]
    [InlineData("START", "down", "engaged", false)]
    [InlineData("START", "up", "engaged", false)]
    [InlineData("RUN", "down", "off", false)]
    [InlineData("LIGHTS", "down", "off", false)]
    [InlineData("OFF", "down", "off", false)]
    public void Cranks_only_with_key_at_start_brake_down_and_blades_off(
        string key,
        string brake,
        string blades,
        bool cranks
    )
    {
        foreach (var seat in new[] { "empty", "occupied" })
        {
            foreach (var gear in new[] { "neutral", "reverse" })
            {
                var state = new CircuitState(Tractor);
                state.Begin(Tractor.NominalParameters());
                var settled = state.Move(
                    Setting(Tractor, ("key", key), ("brake", brake), ("blades", blades), ("seat", seat), ("gear", gear))
                );
                Assert.Equal(Settlement.Settled, settled);
                Assert.Equal(cranks ? 1 : 0, state.StateAt(Tractor.StateOf(Texts.Part("starter"))));
            }
        }
    }

    [Theory]
    [InlineData("OFF", "up", "off", "occupied", "neutral", true)] // key off
    [InlineData("RUN", "up", "off", "occupied", "neutral", false)] // mowing along, rider seated
    [InlineData("RUN", "up", "engaged", "occupied", "neutral", false)]
    [InlineData("RUN", "up", "off", "empty", "neutral", true)] // rider gone, brake up
    [InlineData("RUN", "down", "off", "empty", "neutral", false)] // parked, idling
    [InlineData("RUN", "down", "engaged", "empty", "neutral", true)] // rider gone, blades on
    [InlineData("RUN", "up", "engaged", "occupied", "reverse", true)] // reversing with blades on
    [InlineData("RUN", "up", "off", "occupied", "reverse", false)]
    [InlineData("LIGHTS", "up", "off", "occupied", "neutral", false)]
    [InlineData("LIGHTS", "up", "engaged", "occupied", "reverse", true)]
    public void Kill_lead_is_grounded_only_when_the_engine_must_stop(
        string key,
        string brake,
        string blades,
        string seat,
        string gear,
        bool killed
    )
    {
        // With the coil's own lead off, whether its kill wire finds the block at all.
        var values = Tractor.NominalParameters();
        Tractor.Faults.Single(f => f.Id.Text == "23@from/joint/open").Apply(values, 1);
        var state = new CircuitState(Tractor);
        state.Begin(values);
        state.Move(
            Setting(Tractor, ("key", key), ("brake", brake), ("blades", blades), ("seat", seat), ("gear", gear))
        );
        Assert.Equal(killed, state.Joined(Tractor.NodeOf("23@from"), Tractor.NodeOf("block.crankcase")));
    }

    [Fact]
    public void Cranking_draws_what_a_small_single_draws()
    {
        var state = new CircuitState(Tractor);
        state.Begin(Tractor.NominalParameters());
        state.Move(Setting(Tractor, ("key", "START"), ("brake", "down")));
        var post = state.Drop(Tractor.NodeOf("battery.+"), Tractor.NodeOf("battery.-"));

        // A small single cranks at 60–120 A (common practice), so the posts stay well over the 9.6 V load-test floor.
        Assert.InRange(post, 10.5, 12.3);
        var cable = state.Drop(Tractor.NodeOf("C1@from"), Tractor.NodeOf("C1@to"));
        var ohms = 0.00078 * 0.55;
        Assert.InRange(cable / ohms, 60, 120);
    }
}
