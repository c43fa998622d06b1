using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// Charging against closed formulas (derived in docs/method.md) and the trade's rules: AC in proportion to speed, current
/// that saturates, volts that are held.
/// </summary>
public class ChargingTests
{
    private static readonly Example Shunt = Example.Of("stator-three-phase-shunt");
    private static readonly Example Series = Example.Of("stator-three-phase-series");

    [Theory]
    [InlineData(1000)]
    [InlineData(2000)]
    [InlineData(4000)]
    public void Open_circuit_volts_are_proportional_to_speed_and_alike_between_phases(double rpm)
    {
        // 9 V r.m.s. a leg at 1000 rpm: √3 times that between two wires of a star, with the coupling apart.
        var apart = Shunt.Case("key=OFF", rpm) with
        {
            Off = [Disconnection.Of("C1")],
        };
        var expected = 9 * Math.Sqrt(3) * rpm / 1000;
        foreach (var (a, b) in new[] { ("a", "b"), ("b", "c"), ("c", "a") })
        {
            Assert.Equal(
                expected,
                Shunt.Volts(apart, "stator." + a, "stator." + b, MeterFunction.AcVolts),
                0.002 * expected
            );
        }

        // Floating: to ground there is next to nothing with a meter of ordinary input.
        var toGround = Shunt.Read(apart, "stator.a", "block.lug", MeterFunction.Ohms);
        Assert.NotNull(toGround.Refusal);
    }

    [Theory]
    [InlineData(400)]
    [InlineData(1000)]
    [InlineData(3000)]
    [InlineData(8000)]
    public void A_shorted_winding_gives_its_closed_formula(double rpm)
    {
        // One winding into a short: I = kω/√(R² + (ωL)²), which grows with speed and comes to k/L.
        // Its wire chafed through, 20 mΩ, is the short, and its millivolts the ammeter; joint and mount add 4 mΩ.
        var single = Example.Of("half-wave-charge");
        var chafed = single.Case("key=OFF", rpm, "w3/chafed:1");
        var amps = single.Volts(chafed, "w3@from", "block.lug", MeterFunction.AcVolts) / 0.02;
        var omega = 2 * Math.PI * rpm / 60 * 5;
        var impedance = Math.Sqrt((0.424 * 0.424) + Math.Pow(omega * 2.5e-3, 2));
        var expected = 10 * rpm / 1000 / impedance;
        Assert.Equal(expected, amps, 0.01 * expected);
    }

    [Fact]
    public void Rectified_current_saturates_as_the_square_root_law_says()
    {
        // I ≈ I∞·√(1 − (ω₀/ω)²) above the cut-in speed ω₀: two of its points fix it, the third must agree.
        const string Unheld = "battery/flat:0 regulator/overcharging";
        double Amps(double rpm) => Shunt.Outcome("key=OFF", rpm, Unheld).Charges[new PartId("battery")];
        double Law(double rpm, double most, double cutIn) => most * Math.Sqrt(1 - Math.Pow(cutIn / rpm, 2));

        var (slow, fast) = (Amps(1500), Amps(9000));
        var ratio = slow * slow / (fast * fast);
        var cutIn = Math.Sqrt((1 - ratio) / (Math.Pow(1500, -2) - (ratio * Math.Pow(9000, -2))));
        var most = fast / Math.Sqrt(1 - Math.Pow(cutIn / 9000, 2));
        Assert.InRange(cutIn, 600, 1300);

        // k = 9√2 V over 2π·100 rad/s at 1000 rpm and six pole pairs; k/L is the peak of a shorted leg, 3/π of it the mean
        // of three rectified.
        var k = 9 * Math.Sqrt(2) / (2 * Math.PI * 100);
        Assert.Equal(3 / Math.PI * k / 0.9e-3, most, 0.05 * most);
        foreach (var rpm in new[] { 2000.0, 3000, 5000 })
        {
            Assert.Equal(Law(rpm, most, cutIn), Amps(rpm), 0.06 * most);
        }

        Assert.InRange(Amps(600), -0.01, 0.2);
    }

    [Theory]
    [InlineData("stator-three-phase-shunt")]
    [InlineData("stator-three-phase-series")]
    [InlineData("stator-single-phase")]
    public void A_charged_battery_is_held_at_the_regulators_volts(string name)
    {
        var machine = Example.Of(name);
        var outcome = machine.Outcome("key=OFF", 4000);
        var sensed = machine.Volts(machine.Case("key=OFF", 4000), "regulator.dc", "regulator.case");
        Assert.Equal(14.3, sensed, 0.01);
        Assert.InRange(outcome.BatteryVolts[new PartId("battery")], 14.1, 14.3);
        Assert.InRange(outcome.Charges[new PartId("battery")], 0.2, 3);
    }

    [Fact]
    public void A_flat_battery_holds_an_honest_source_down_for_a_while() =>
        Assert.InRange(Shunt.Outcome("key=ON", 1500, "battery/flat:0").BatteryVolts[new PartId("battery")], 12.3, 13.6);

    [Fact]
    public void A_full_battery_that_is_not_charged_stays_at_its_rest_volts() =>
        Assert.InRange(
            Shunt.Outcome("key=OFF", 3000, "regulator/dead").BatteryVolts[new PartId("battery")],
            12.5,
            12.65
        );

    [Fact]
    public void Without_its_hold_it_overcharges() =>
        Assert.True(Shunt.Outcome("key=OFF", 5000, "regulator/overcharging").BatteryVolts[new PartId("battery")] > 15);

    [Fact]
    public void A_shunt_regulator_pulls_the_alternating_volts_down_and_a_series_one_lets_them_rise()
    {
        double Ac(Example of) => of.Volts(of.Case("key=OFF", 4000), "stator.a", "stator.b", MeterFunction.AcVolts);
        Assert.True(Ac(Series) > 2.5 * Ac(Shunt), $"series {Ac(Series):0.0}, shunt {Ac(Shunt):0.0}");
    }

    [Fact]
    public void One_leg_resistive_at_the_plug_shows_only_with_the_lamps_on()
    {
        const string Leg = "C1/1/resistive:0.42"; // about 0.05·(200 000)^0.42 = 8 Ω
        var (off, on) = (Shunt.Outcome("key=OFF", 3000, Leg), Shunt.Outcome("key=ON", 3000, Leg));
        Assert.InRange(off.BatteryVolts[new PartId("battery")], 14, 14.4);
        Assert.True(
            on.BatteryVolts[new PartId("battery")]
                < Shunt.Outcome("key=ON", 3000).BatteryVolts[new PartId("battery")] + 0.01
        );
        Assert.True(on.Charges[new PartId("battery")] < off.Charges[new PartId("battery")] + 0.01);
    }

    [Fact]
    public void A_shorted_diode_flattens_the_battery_at_rest_through_the_stator_and_the_other_diode_only_if_the_circle_closes()
    {
        // One diode shorted: battery → leg → stator → the other legs' diodes block. Held up by the blocking diodes.
        Assert.InRange(Shunt.Outcome("key=OFF").Charges[new PartId("battery")], -0.002, 0);

        // On a winding with one end grounded it drains: 12.57 V over 0.4 Ω and the diode's 20 mΩ to 1 Ω.
        var half = Example.Of("half-wave-charge");
        Assert.True(half.Outcome("key=ON", faults: "rectifier/shorted:1").Charges[new PartId("battery")] < -20);
        Assert.InRange(
            half.Outcome("key=OFF", faults: "rectifier/shorted:1").Charges[new PartId("battery")],
            -0.01,
            0.01
        );
    }

    [Fact]
    public void An_unregulated_half_wave_coil_lets_the_volts_float_and_needs_the_key_for_its_path()
    {
        var half = Example.Of("half-wave-charge");
        var on = half.Outcome("key=ON", 3000);
        Assert.InRange(on.Charges[new PartId("battery")], 0.5, 4);
        Assert.InRange(half.Outcome("key=OFF", 3000).Charges[new PartId("battery")], -0.01, 0.01);
        Assert.True(on.BatteryVolts[new PartId("battery")] > 12.8);
    }

    [Fact]
    public void A_tapped_windings_lamps_clip_and_fool_an_averaging_meter()
    {
        var scooter = Example.Of("tapped-winding");
        var slow = scooter.Outcome("lights=ON", 1800).Glows[new PartId("headlamp")];
        var fast = scooter.Outcome("lights=ON", 6000).Glows[new PartId("headlamp")];
        Assert.InRange(fast, 0.8, 1.25);
        Assert.True(slow < fast);
        Assert.True(scooter.Outcome("lights=ON", 6000, "regulator/lamp-unclipped").Glows[new PartId("headlamp")] > 1.4);
        var @case = scooter.Case("lights=ON", 6000);
        var averaging = Example.Fine with { TrueRms = false };
        var mean = scooter.Read(@case, "winding.tap", "block.lug", MeterFunction.AcVolts, averaging).Value!.Value;
        var effective = scooter.Volts(@case, "winding.tap", "block.lug", MeterFunction.AcVolts);
        Assert.True(Math.Abs(mean - effective) > 0.02 * effective, $"{mean:0.00} against {effective:0.00}");
    }

    [Fact]
    public void A_field_alternator_wakes_by_its_lamp_or_by_a_burst_of_revs()
    {
        var launch = Example.Of("alternator-charge-lamp");
        Assert.InRange(launch.Outcome("key=ON").Glows[new PartId("charge-lamp")], 0.6, 1);
        var idle = launch.Outcome("key=ON", 1000);
        Assert.InRange(idle.Glows[new PartId("charge-lamp")], 0, 0.15);
        Assert.InRange(idle.BatteryVolts[new PartId("battery")], 13.5, 14.3);

        // Lamp circuit open: dead at idle, alive at a burst.
        var open = launch.Outcome("key=ON", 1000, "charge-lamp/open");
        Assert.True(open.Charges[new PartId("battery")] < 0);
        Assert.Contains(open.Reasons, r => r.Contains("not excited", StringComparison.Ordinal));
        Assert.True(launch.Outcome("key=ON", 2800, "charge-lamp/open").Charges[new PartId("battery")] > 0);
        Assert.True(launch.Outcome("key=ON", 1000, "alternator/field-open").Charges[new PartId("battery")] < 0);
        Assert.InRange(
            launch.Outcome("key=ON", 1000, "alternator/field-open").Glows[new PartId("charge-lamp")],
            0,
            0.05
        );
        Assert.True(
            launch.Outcome("key=ON", 2500, "alternator/overcharging:1").BatteryVolts[new PartId("battery")] > 15
        );
    }

    [Fact]
    public void A_burst_of_revs_leaves_it_awake()
    {
        var launch = Example.Of("alternator-charge-lamp").Circuit;
        var state = new CircuitState(launch);
        var values = launch.NominalParameters();
        launch.Plant(launch.Faults.Single(f => f.Id.Text == "charge-lamp/open"), 1, values);
        state.Begin(values);
        var on = launch.Setting(new Dictionary<string, string> { ["key"] = "ON" });
        var amps = new List<double>();
        foreach (var rpm in new[] { 1000.0, 2800, 1000 })
        {
            state.SetSpeed(0, rpm);
            state.Move(on);
            amps.Add(launch.DeviceOf("battery").Effect(state).Level);
        }

        Assert.True(amps[0] < 0 && amps[1] > 0 && amps[2] > 0, string.Join(", ", amps));
    }

    [Fact]
    public void A_generator_builds_up_and_is_held_and_without_its_field_shows_its_residue_only()
    {
        var generator = Example.Of("generator-regulated");
        double Leg(string faults, string outlet = "outlet1") =>
            generator.Volts(generator.Case("", 3000, faults), outlet + ".L", outlet + ".N", MeterFunction.AcVolts);

        Assert.InRange(Leg(""), 112, 128);
        Assert.InRange(Leg("", "outlet2"), 112, 128);

        // Residual magnetism alone gives about 1 to 5 V.
        foreach (var dead in new[] { "regulator/dead", "generator/rotor-open", "generator/brush-worn" })
        {
            Assert.InRange(Leg(dead), 1, 5);
        }

        Assert.InRange(Leg("generator/residue-lost"), 0, 0.5);
        Assert.True(Leg("regulator/high:1") > 140);

        // One dead leg at its terminal block: the other is well.
        Assert.InRange(Leg("TB/1/open"), 0, 1);
        Assert.InRange(Leg("TB/1/open", "outlet2"), 112, 128);
    }
}
