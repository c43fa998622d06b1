using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using static Pritchel.Core.Tests.Shipped;

namespace Pritchel.Core.Tests;

/// <summary>Relays, motors and fuses settling in sequence.</summary>
public class SettlingTests
{
    private static readonly ControlSetting Start = Setting(Tractor, ("key", "START"), ("brake", "down"));

    [Fact]
    public void A_poor_battery_cable_makes_the_solenoid_chatter()
    {
        // 0.3 Ω more in the cable: the coil pulls in at full volts; the standing starter (33 mΩ with its contact) then
        // leaves 12.5 · 0.033 / 0.35 = 1.2 V at the stud that feeds the coil, under the 3 V it lets go at.
        var state = Solved("C1/resistive", Math.Log(0.3 / 0.02) / Math.Log(1 / 0.02), out var settlement);
        Assert.Equal(Settlement.Chatters, settlement);
        Assert.True(state.Wavered(Tractor.StateOf(Texts.Part("solenoid"))));
    }

    /// <summary>
    /// Without its battery a stator and regulator cannot hold their volts: the pump relay pulls in, the pump drags them down,
    /// it drops out. That the diodes stand elsewhere at the end of each wave does not make it anything else.
    /// </summary>
    [Theory]
    [InlineData("C3/open", Settlement.Chatters)]
    [InlineData("", Settlement.Settled)]
    public void A_stator_without_its_battery_makes_relays_chatter(string fault, Settlement expected)
    {
        var circuit = Circuit("ridge-carrier-4");
        var values = circuit.NominalParameters();
        foreach (var planted in circuit.Faults.Where(f => f.Id.Text == fault))
        {
            planted.Apply(values, 1);
        }

        var on = Setting(circuit, ("key", "ON"));
        var state = new CircuitState(circuit);
        state.Begin(values);
        state.Move(on);
        state.SetSpeed(0, circuit.Engines[0].WorkRpm);
        Assert.Equal(expected, state.Move(on));
        Assert.Equal(expected == Settlement.Chatters, state.Wavered(circuit.StateOf(Texts.Part("pump-relay"))));
    }

    /// <summary>
    /// By hand: the engine ground splice off its stud lets the controller come on through the resting pump relay's circuit and
    /// puts it out as soon as that relay pulls in: it buzzes. Start relay, solenoid and starter ground elsewhere and turn the
    /// engine all the same; a starting complaint hears it crank, and the meter stands still at the starter.
    /// </summary>
    [Fact]
    public void What_buzzes_keeps_nothing_else_from_working()
    {
        var circuit = Circuit("ridge-carrier-4");
        var off = circuit.Faults.Single(f => f.Id.Text == "95/open");
        var start = Setting(circuit, ("key", "START"), ("brake", "down"));
        var @case = new Case
        {
            Circuit = circuit,
            Settings = [start],
            Faults = [new PlantedFault(off, 1)],
        };
        var outcome = Outcome.Of(@case);
        Assert.True(outcome.Chatters);
        Assert.InRange(Assert.Single(outcome.Cranks).Value, 0.8, 1.2);

        var shown = Bench.Read(
            @case,
            Meter.Ordinary,
            MeterFunction.DcVolts,
            circuit.NodeOf("starter.post"),
            circuit.NodeOf("starter.case")
        );
        Assert.False(shown.Jumps);
        Assert.InRange(shown.Value!.Value, 8, 12);

        var tries = DutyTries.Build(circuit, Symptoms.Duty(circuit, new DutyId("cranks")), []);
        Assert.True(tries.Of(found: true, off) > 0.9);
    }

    [Fact]
    public void A_locked_starter_draws_its_stall_current_by_hand_calculation()
    {
        var fault = Tractor.Faults.Single(f => f.Id.Text == "starter/stalled");
        var values = Tractor.NominalParameters();
        fault.Apply(values, 1);
        var state = new CircuitState(Tractor);
        state.Begin(values);
        state.Move(Start);
        var amps = state.Drop(Tractor.NodeOf("C2@from"), Tractor.NodeOf("C2@to")) / (0.00078 * 1.1);

        // 12.57 V (90 % charge) over: battery 13.0 mΩ·1.15 (hand-worked from its 230 A rating at 20 °C, 90 %), the three
        // cables 1.6 mΩ, the strap 0.27 mΩ, eight lugs 0.8 mΩ, contact 0.6 mΩ, starter foot 0.2 mΩ, armature 30 mΩ.
        var battery = (12.65 - 7.2) / 230 * Math.Exp(-0.009 * 38) * 1.035 * 1.15;
        var cables = 0.00078 * (0.55 + 1.1 + 0.4 + 0.35);
        var ohms = battery + cables + 0.0008 + 0.0006 + 0.0002 + 0.03;
        Assert.Equal(12.57 / ohms, amps, 0.02 * amps);
    }

    [Fact]
    public void A_sound_machine_cranks_at_the_healthy_operating_point()
    {
        // Stated at 10.5 V: 85 A. Solved point: on the line I = (I0 + gV)/(1 + gR) through that point.
        var state = new CircuitState(Tractor);
        state.Begin(Tractor.NominalParameters());
        Assert.Equal(Settlement.Settled, state.Move(Start));
        var volts = state.Drop(Tractor.NodeOf("starter.post"), Tractor.NodeOf("starter.case"));
        var amps = state.Drop(Tractor.NodeOf("C2@from"), Tractor.NodeOf("C2@to")) / (0.00078 * 1.1);
        var slope = (85.0 - 55) / (10.5 - (85 * 0.03));
        Assert.Equal((55 + (slope * volts)) / (1 + (slope * 0.03)), amps, 0.1);
        Assert.InRange(volts, 9.6, 11.5);
    }

    [Theory]
    [InlineData(1.6)]
    [InlineData(2.5)]
    [InlineData(4.0)]
    public void A_dragging_starter_draws_more_and_turns_slower_by_the_hand_solved_point(double times)
    {
        // Between E behind r and the line I = (s·I₀ + gV)/(1 + gR): I = (s·I₀ + gE)/(1 + g(R + r)).
        var fraction = Math.Log(times / 1.6) / Math.Log(5 / 1.6);
        var state = Solved("starter/dragging", fraction, out _);
        var volts = state.Drop(Tractor.NodeOf("starter.post"), Tractor.NodeOf("starter.case"));
        var amps = state.Drop(Tractor.NodeOf("C2@from"), Tractor.NodeOf("C2@to")) / (0.00078 * 1.1);
        var g = (85.0 - 55) / (10.5 - (85 * 0.03));
        var battery = (12.65 - 7.2) / 230 * Math.Exp(-0.009 * 38) * 1.035 * 1.15;
        var r = battery + (0.00078 * (0.55 + 1.1 + 0.4 + 0.35)) + 0.0008 + 0.0006 + 0.0002;
        var byHand = ((times * 55) + (g * 12.57)) / (1 + (g * (0.03 + r)));
        Assert.Equal(byHand, amps, 0.02 * byHand);
        Assert.Equal(12.57 - (byHand * r), volts, 0.1);

        // Speed is back-e.m.f., V − IR, as a share of the healthy 10.5 V − 85 A · 30 mΩ.
        var speed = Tractor.DeviceOf("starter").Effect(state).Level;
        Assert.Equal((12.57 - (byHand * (r + 0.03))) / (10.5 - (85 * 0.03)), speed, 0.02);
    }

    [Fact]
    public void Holding_needs_less_than_pulling_in()
    {
        // A control-side joint of 3 Ω: 12.5 V over 3 + 4.2 Ω leaves 7.3 V, under the 7.5 V pull-in.
        var state = Solved("P1/2/resistive", Math.Log(3 / 0.05) / Math.Log(10_000 / 0.05), out _);
        Assert.Equal(0, state.StateAt(Tractor.StateOf(Texts.Part("solenoid"))));
    }

    [Fact]
    public void Settling_allocates_nothing()
    {
        var state = new CircuitState(Tractor);
        var values = Tractor.NominalParameters();
        var rest = Tractor.Setting(null);
        void Cycle()
        {
            state.Begin(values);
            state.Move(rest);
            state.Move(Start);
        }

        Cycle();
        var before = GC.GetAllocatedBytesForCurrentThread();
        for (var i = 0; i < 100; i++)
        {
            Cycle();
        }

        Assert.Equal(0, GC.GetAllocatedBytesForCurrentThread() - before);
    }

    [Fact]
    public void Following_waves_allocates_nothing()
    {
        var circuit = Example.Of("stator-three-phase-shunt").Circuit;
        var state = new CircuitState(circuit);
        var values = circuit.NominalParameters();
        var rest = circuit.Setting(null);
        void Cycle(double rpm)
        {
            state.Begin(values);
            state.SetSpeed(0, rpm);
            state.Move(rest);
            state.Fire();
        }

        Cycle(3000);
        var before = GC.GetAllocatedBytesForCurrentThread();
        Cycle(1500);
        Cycle(5000);
        Assert.Equal(0, GC.GetAllocatedBytesForCurrentThread() - before);
    }

    [Fact]
    public void Every_fault_in_every_setting_settles_or_chatters_within_bounds_and_gives_figures()
    {
        var state = new CircuitState(Tractor) { Tolerance = 1e-6 };
        foreach (var fault in Tractor.Faults)
        {
            foreach (var setting in Tractor.AllSettings())
            {
                var values = Tractor.NominalParameters();
                fault.Apply(values, fault.Severity.At(0.7));
                state.Begin(values);
                state.Move(setting);
                for (var n = 0; n < Tractor.Network.NodeCount; n++)
                {
                    Assert.InRange(state.Drop(n, Tractor.Reference), -13, 13);
                }
            }
        }
    }

    private static CircuitState Solved(string faultId, double fraction, out Settlement settlement)
    {
        var fault = Tractor.Faults.Single(f => f.Id.Text == faultId);
        var values = Tractor.NominalParameters();
        fault.Apply(values, fault.Severity.At(fraction));
        var state = new CircuitState(Tractor);
        state.Begin(values);
        settlement = state.Move(Start);
        return state;
    }
}
