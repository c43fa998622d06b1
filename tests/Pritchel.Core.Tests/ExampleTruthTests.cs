using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// What small circuits do, as the trade says they must: written from how each kind of circuit works, before it was solved.
/// </summary>
public class ExampleTruthTests
{
    private const string Sat = "brake=down seat=sat";

    [Fact]
    public void Every_example_is_a_good_file_and_reads_back_to_itself()
    {
        Assert.All(
            Example.Names,
            name =>
            {
                var circuit = Example.Of(name).Circuit;
                var text = MachineFile.Write(circuit.Machine);
                Assert.Equal(text, MachineFile.Write(MachineFile.Read(text).Machine!));
            }
        );
    }

    [Theory]
    [InlineData("key=START brake=down blades=out", true)]
    [InlineData("key=START brake=up blades=out", false)]
    [InlineData("key=START brake=down blades=in", false)]
    [InlineData("key=RUN brake=down blades=out", false)]
    [InlineData("key=OFF brake=down blades=out", false)]
    public void Start_interlocks_crank_only_with_the_brake_down_and_the_blades_out(string setting, bool cranks) =>
        Assert.Equal(
            cranks,
            Example.Of("start-interlocks").Outcome(setting).Cranks.ContainsKey(new EngineId("engine"))
        );

    [Theory]
    [InlineData("key=RUN brake=up seat=sat", true)]
    [InlineData("key=RUN brake=down seat=empty", true)]
    [InlineData("key=RUN brake=up seat=empty", false)] // working as designed: off the seat with the brake up
    [InlineData("key=OFF brake=down seat=sat", false)]
    public void A_magneto_sparks_unless_key_or_seat_and_brake_ground_its_kill(string setting, bool sparks)
    {
        var outcome = Example.Of("start-interlocks").Outcome(setting, 1500);
        Assert.Equal(sparks, outcome.AllSpark);
        Assert.Equal(!sparks, outcome.Reasons.Any(r => r.Contains("kill", StringComparison.Ordinal)));
    }

    [Fact]
    public void A_starter_solenoid_welded_shut_cranks_with_the_key_off() =>
        Assert.NotEmpty(Example.Of("start-interlocks").Outcome("key=OFF", faults: "solenoid/welded").Cranks);

    [Fact]
    public void A_walk_behind_stops_when_its_lever_is_let_go_and_not_when_the_stop_wire_is_broken()
    {
        var mower = Example.Of("magneto-stop-switch");
        Assert.True(mower.Outcome("lever=held", 2800).AllSpark);
        Assert.True(mower.Outcome("lever=released", 2800).NoneSparks);
        Assert.True(mower.Outcome("lever=released", 2800, "w1/open").AllSpark);
        Assert.True(mower.Outcome("lever=held", 2800, "w1/chafed:1").NoneSparks);
    }

    [Fact]
    public void Soft_kill_some_ohms_kill_an_inductive_primary_and_more_do_not()
    {
        // 60 V per 1000 rpm behind 0.6 Ω and 5 Ω of reactance: at 1500 rpm about 7.5 Ω. A tenth of that must kill; a
        // hundred times that must not.
        var mower = Example.Of("magneto-stop-switch");
        double Level(double ohms)
        {
            var fault = mower.Circuit.Faults.Single(f => f.Id.Text == "stop-switch/1-2/resistive");
            var fraction =
                Math.Log(ohms / fault.Severity.Mildest) / Math.Log(fault.Severity.Worst / fault.Severity.Mildest);
            return Outcome
                .Of(mower.Case("lever=released", 1500) with { Faults = [new PlantedFault(fault, fraction)] })
                .Sparks[0]
                .Level;
        }

        Assert.InRange(Level(0.75), 0, 0.9);
        Assert.InRange(Level(750), 1, 3);
        var levels = new[] { 0.75, 3, 7.5, 20, 750 }.Select(Level).ToList();
        Assert.Equal(levels.Order(), levels);
    }

    [Fact]
    public void Running_volts_jump_a_track_that_an_ohmmeter_calls_open()
    {
        var mower = Example.Of("magneto-stop-switch");
        Assert.True(mower.Outcome("lever=held", 2800, "w1/track:1").NoneSparks);
        var still = mower.Case("lever=held", 0, "w1/track:1") with { Off = [Disconnection.Of("w1@from")] };
        Assert.Equal("OL", mower.Read(still, "w1@from", "block.lug", Metering.MeterFunction.Ohms).Shown);
    }

    [Fact]
    public void Two_magnetos_die_together_and_a_shorted_kill_diode_lets_one_take_the_other_down_only_when_killed()
    {
        var twin = Example.Of("magneto-twin-diodes");
        Assert.True(twin.Outcome("key=RUN", 3000).AllSpark);
        Assert.True(twin.Outcome("key=OFF", 3000).NoneSparks);

        // Without its diode, cylinder one's other half-wave finds its way through the second coil: one weakens or dies.
        var shorted = twin.Outcome("key=RUN", 3000, "diode1/shorted:1");
        Assert.True(shorted.Sparks.Min(s => s.Level) < twin.Outcome("key=RUN", 3000).Sparks.Min(s => s.Level));

        // An open diode leaves its own coil unkilled.
        var open = twin.Outcome("key=OFF", 3000, "diode1/open");
        Assert.True(open.Sparks.Single(s => s.Part.Text == "magneto1").Level >= 1);
        Assert.True(open.Sparks.Single(s => s.Part.Text == "magneto2").Level < 1);
    }

    [Fact]
    public void Exciter_fed_ignition_runs_without_a_battery_and_dies_by_kill_exciter_or_pickup()
    {
        var scooter = Example.Of("cdi-exciter");
        Assert.True(scooter.Outcome("key=RUN", 400).AllSpark);
        Assert.True(scooter.Outcome("key=OFF", 3000).NoneSparks);
        Assert.Contains(
            scooter.Outcome("key=RUN", 3000, "exciter/open").Reasons,
            r => r.Contains("exciter gives", StringComparison.Ordinal)
        );
        Assert.Contains(
            scooter.Outcome("key=RUN", 3000, "pickup/open").Reasons,
            r => r.Contains("pickup gives", StringComparison.Ordinal)
        );
        Assert.True(scooter.Outcome("key=RUN", 3000, "coil/plug:1").NoneSparks);
    }

    [Fact]
    public void An_exciter_is_killed_by_kilohms_that_would_not_kill_a_primary()
    {
        // Exciter: 300 V per 1000 rpm behind about 1 kΩ at 1000 rpm. 100 Ω to ground must kill it.
        var scooter = Example.Of("cdi-exciter");
        Assert.True(scooter.Outcome("key=RUN", 1000, "w4/damp:1").NoneSparks);
        Assert.True(Example.Of("magneto-stop-switch").Outcome("lever=held", 1000, "w1/damp:1").AllSpark);
    }

    [Theory]
    [InlineData("key=ON", 1500, true)]
    [InlineData("key=OFF", 1500, false)]
    [InlineData("key=ON bar=STOP", 1500, false)]
    [InlineData("key=ON tether=out", 1500, false)]
    public void Battery_fed_ignition_stops_by_key_bar_or_tether(string setting, double rpm, bool sparks) =>
        Assert.True(
            sparks == Example.Of("cdi-battery").Outcome(setting, rpm).AllSpark,
            string.Join(";", Example.Of("cdi-battery").Outcome(setting, rpm).Reasons)
        );

    [Fact]
    public void Battery_fed_ignition_does_not_spark_on_a_dead_battery() =>
        Assert.True(Example.Of("cdi-battery").Outcome("key=ON", 1500, "battery/open").NoneSparks);

    [Fact]
    public void Two_coils_stop_with_the_kill_switch_and_weaken_with_their_feed()
    {
        var twin = Example.Of("igniter-two-coils");
        var good = twin.Outcome("key=ON", 1200);
        Assert.True(good.AllSpark);
        Assert.True(twin.Outcome("key=ON stop=STOP", 1200).NoneSparks);
        Assert.Contains(
            twin.Outcome("key=ON stop=STOP", 1200).Reasons,
            r => r.StartsWith("igniter: 0.0 V", StringComparison.Ordinal)
        );
        Assert.False(twin.Outcome("key=ON", 1200, "w6/open").AllSpark);
        Assert.Equal(1, twin.Outcome("key=ON", 1200, "w6/open").Sparks.Count(s => s.Level >= 1));
        var poor = twin.Outcome("key=ON", 1200, "kill-switch/1-2/resistive:0.3");
        Assert.True(poor.Sparks[0].Level < good.Sparks[0].Level);
    }

    [Fact]
    public void A_stop_solenoid_is_fed_by_its_timer_after_key_off_and_for_its_seconds_only()
    {
        var digger = Example.Of("timer-stop");
        Assert.True(digger.Outcome("key=ON").FuelOn);
        Assert.False(digger.Outcome("key=OFF", before: "key=ON").FuelOn);
        var stop = digger.Circuit.NodeOf("stop.+");
        Case After(double seconds) => digger.Case("key=OFF", before: "key=ON", waited: seconds);
        Assert.InRange(digger.Volts(After(7.5), "stop.+", "stop.-"), 10, 13);
        Assert.InRange(digger.Volts(After(8.5), "stop.+", "stop.-"), -0.1, 0.1);
        Assert.InRange(digger.Volts(digger.Case("key=OFF"), "stop.+", "stop.-"), -0.1, 0.1);

        // Preheat: from key-on, six seconds.
        Assert.Contains(new PartId("plugs"), digger.Outcome("key=ON", waited: 5).Works);
        Assert.DoesNotContain(new PartId("plugs"), digger.Outcome("key=ON", waited: 7).Works);

        // One that never times out cooks the pull-in winding.
        var endless = digger.Case("key=OFF", before: "key=ON", waited: 600, faults: "timer/endless");
        Assert.InRange(digger.Volts(endless, "stop.+", "stop.-"), 10, 13);
    }

    [Fact]
    public void Injection_fires_both_coils_pumps_and_names_what_is_missing()
    {
        var machine = Example.Of("injection-controller");
        var good = machine.Outcome("key=ON", 1500);
        Assert.True(good.AllSpark && good.FuelOn);
        Assert.Contains(new PartId("pump"), good.Works);
        Assert.Empty(good.Codes);
        Assert.InRange(good.Glows[new PartId("warning")], 0, 0.3);
        Assert.InRange(machine.Outcome("key=ON").Glows[new PartId("warning")], 0.8, 1.2); // bulb check
        Assert.Equal(["injector 2 open"], machine.Outcome("key=ON", 1500, "inj2/open").Codes);
        Assert.InRange(machine.Outcome("key=ON", 1500, "inj2/open").Glows[new PartId("warning")], 0.8, 1.2);
        Assert.Equal(["temperature sensor open"], machine.Outcome("key=ON", 1500, "sensor/open").Codes);
        var deaf = machine.Outcome("key=ON", 1500, "pickup/open");
        Assert.Equal(["no crank signal"], deaf.Codes);
        Assert.True(deaf.NoneSparks);
    }

    [Theory]
    [InlineData("bank=1 key=START", true)]
    [InlineData("bank=2 key=START", true)]
    [InlineData("bank=BOTH key=START", true)]
    [InlineData("bank=OFF key=START", false)]
    public void A_battery_switch_chooses_the_bank(string setting, bool cranks) =>
        Assert.Equal(cranks, Example.Of("two-banks").Outcome(setting).Cranks.ContainsKey(new EngineId("engine")));

    [Fact]
    public void With_the_start_bank_flat_it_does_not_crank_on_1_and_does_on_2()
    {
        var boat = Example.Of("two-banks");
        Assert.DoesNotContain(boat.Outcome("bank=1 key=START", faults: "start-bank/flat:1").Cranks, c => c.Value > 0.6);
        Assert.NotEmpty(boat.Outcome("bank=2 key=START", faults: "start-bank/flat:1").Cranks);

        // A resting house load draws from the chosen bank alone.
        var loads = boat.Outcome("bank=2 key=ON");
        Assert.InRange(loads.Charges[new PartId("house-bank")], -8, -4);
        Assert.InRange(loads.Charges[new PartId("start-bank")], -0.01, 0.01);
    }

    [Fact]
    public void Alarms_sound_at_rest_fall_silent_with_pressure_and_sound_again_hot()
    {
        var boat = Example.Of("alarms-and-gauges");
        Assert.Contains(new PartId("buzzer"), boat.Outcome("key=ON").Sounds);
        Assert.InRange(boat.Outcome("key=ON").Glows[new PartId("oil-lamp")], 0.8, 1.1);
        Assert.Empty(boat.Outcome("key=ON", 1500).Sounds);
        Assert.InRange(boat.Outcome("key=ON", 1500).Glows[new PartId("oil-lamp")], 0, 0.1);
        var hot = boat.Outcome("key=ON engine-heat=hot", 1500);
        Assert.Contains(new PartId("buzzer"), hot.Sounds);

        // The diode keeps the temperature alarm from lighting the oil lamp.
        Assert.InRange(hot.Glows[new PartId("oil-lamp")], 0, 0.1);

        // A lead chafed to ground looks like the alarm condition.
        Assert.Contains(new PartId("buzzer"), boat.Outcome("key=ON", 1500, "w8/chafed:1").Sounds);
        Assert.Empty(boat.Outcome("key=ON", faults: "buzzer/open").Sounds);
    }
}
