using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>The two-winding solenoid: pulls in through the motor, holds by itself, lets go when let go.</summary>
public class StarterSolenoidTests
{
    // Key A feeds S; battery feeds B; the starter hangs on M.
    private static readonly Circuit Bench = new SmallMachine()
        .Part("sol", "starter-solenoid", "B", "M", "S", "case")
        .Part("starter", "starter", "post", "case")
        .Wire("battery.+", "sol.B")
        .Wire("key.A", "sol.S")
        .Wire("sol.M", "starter.post")
        .Wire("starter.case", "frame.bolt")
        .Wire("sol.case", "frame.bolt")
        .Compile();

    private static readonly ControlSetting On = Shipped.Setting(Bench, ("key", "ON"));
    private static readonly ControlSetting Off = Bench.Setting(null);

    [Fact]
    public void It_pulls_in_and_holds_and_lets_go_with_the_key()
    {
        var state = Begun();
        Assert.Equal(Settlement.Settled, state.Move(On));
        Assert.True(In(state));

        // In, pull-in has no volts left across it: both its ends are at the battery.
        Assert.InRange(state.Drop(Bench.NodeOf("sol.S"), Bench.NodeOf("sol.M")), -0.5, 0.5);

        // Key off, contacts still closed for a moment: back through pull-in, on through hold, equal and opposed.
        Assert.Equal(Settlement.Settled, state.Move(Off));
        Assert.False(In(state));
    }

    [Fact]
    public void Without_pull_in_it_never_moves_and_a_stuck_plunger_stays_in()
    {
        Assert.False(In(Moved("sol/pull-in-open")));
        var state = Moved("sol/stuck");
        state.Move(Off);
        Assert.True(In(state));
    }

    [Fact]
    public void An_open_motor_takes_the_pull_in_winding_away()
    {
        // Hold alone: 12.5 V / 1.2 Ω = 10 A, against the 25 A that 7.5 V sends through both.
        Assert.False(In(Moved("starter/open")));
    }

    [Fact]
    public void A_thin_harness_does_not_carry_the_inrush()
    {
        // Both windings together are 0.3 Ω: behind 0.4 Ω of harness only 12.5 · 0.3 / 0.7 = 5.4 V would reach S.
        Assert.False(In(Moved("w4@to/joint/resistive", Math.Log(0.4 / 0.05) / Math.Log(10_000 / 0.05))));

        // A tenth of an ohm leaves 9.4 V, enough.
        Assert.True(In(Moved("w4@to/joint/resistive", Math.Log(0.1 / 0.05) / Math.Log(10_000 / 0.05))));
    }

    [Theory]
    [InlineData(0.1, true)]
    [InlineData(0.5, false)]
    public void Behind_a_thin_supply_it_clicks_and_drops_out_for_ever_and_behind_a_thinner_one_does_nothing(
        double ohms,
        bool clicks
    )
    {
        // The launch, r in the cable that feeds everything. 0.1 Ω: both windings (0.27 Ω) see 12.5 · 0.27/0.39 = 8.6 V and
        // pull in; the standing starter (12 mΩ) then leaves 12.5 · 0.013/0.133 = 1.2 V, under the 3 V that hold wants,
        // before it can turn. 0.5 Ω: the windings see 4.3 V of the 7.5 V they want.
        var launch = Shipped.Circuit("harbour-launch-1");
        var cable = launch.Faults.Single(f => f.Id.Text == "C3@to/joint/resistive");
        var outcome = Outcome.Of(
            new Case
            {
                Circuit = launch,
                Settings = [Shipped.Setting(launch, ("switch", "START"), ("on", "on"), ("start", "pressed"))],
                Faults =
                [
                    new(
                        cable,
                        Math.Log(ohms / cable.Severity.Mildest)
                            / Math.Log(cable.Severity.Worst / cable.Severity.Mildest)
                    ),
                ],
            }
        );
        Assert.Equal(clicks, outcome.Chatters);
        Assert.True(clicks || outcome.Cranks.Count == 0);
    }

    [Fact]
    public void Hold_open_clicks_in_and_drops_out_for_ever()
    {
        // Pull-in alone moves it; the contacts then short pull-in out, and nothing holds: chatter.
        var values = Bench.NominalParameters();
        Bench.Faults.Single(f => f.Id.Text == "sol/hold-open").Apply(values, 1);
        var state = new CircuitState(Bench);
        state.Begin(values);
        Assert.Equal(Settlement.Chatters, state.Move(On));
    }

    private static CircuitState Begun()
    {
        var state = new CircuitState(Bench);
        state.Begin(Bench.NominalParameters());
        return state;
    }

    private static CircuitState Moved(string faultId, double fraction = 1)
    {
        var values = Bench.NominalParameters();
        var fault = Bench.Faults.Single(f => f.Id.Text == faultId);
        fault.Apply(values, fault.Severity.At(fraction));
        var state = new CircuitState(Bench);
        state.Begin(values);
        state.Move(On);
        return state;
    }

    private static bool In(CircuitState state) => state.StateAt(Bench.StateOf(Texts.Part("sol"))) == 1;
}
