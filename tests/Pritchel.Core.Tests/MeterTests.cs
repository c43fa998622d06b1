using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using static Pritchel.Core.Tests.Shipped;

namespace Pritchel.Core.Tests;

/// <summary>The meter's honesty, on the tractor.</summary>
public class MeterTests
{
    private static readonly Meter Nulled = Meter.Ordinary with { LeadsNulled = true };

    [Fact]
    public void Through_a_ten_kilohm_joint_with_nothing_drawing_it_still_shows_nearly_full_volts()
    {
        // The lesson of the trade: volts without load prove nothing. 10 MΩ behind 10 kΩ loses a thousandth.
        var corroded = Fault("P1/1/resistive");
        var display = Read(
            Setting(Tractor),
            MeterFunction.DcVolts,
            "key.B",
            "battery.-",
            faults: new PlantedFault(corroded, 1)
        );
        Assert.InRange(display.Value!.Value, 12.5, 12.6);
    }

    [Fact]
    public void Under_load_the_same_joint_shows()
    {
        var corroded = Fault("P1/1/resistive");
        var start = Setting(Tractor, ("key", "START"), ("brake", "down"));
        var display = Read(start, MeterFunction.DcVolts, "key.B", "battery.-", faults: new PlantedFault(corroded, 1));
        Assert.InRange(display.Value!.Value, 0, 0.2);
    }

    [Fact]
    public void Ohms_are_refused_on_a_live_circuit_and_say_what_feeds_it()
    {
        var display = Read(Setting(Tractor), MeterFunction.Ohms, "key.B", "block.crankcase");
        Assert.Null(display.Value);
        Assert.Contains("battery", display.Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public void Ohms_take_in_everything_in_parallel()
    {
        // Key RUN, battery off: solenoid of 14 Ω beside the hour meter's 900 Ω and the cold oil lamp (72 Ω hot, a
        // fourteenth of that cold) from the ignition feed to the block.
        var run = Setting(Tractor, ("key", "RUN"));
        var display = Read(run, MeterFunction.Ohms, "fuel-cut.in", "block.crankcase", batteryOff: true, meter: Nulled);
        var parallel = 1 / ((1 / 14.0) + (1 / 900.0) + (1 / 5.2));
        Assert.Equal(parallel, display.Value!.Value, 0.1 * parallel);
    }

    [Fact]
    public void Lead_resistance_is_added_unless_nulled()
    {
        var (with, without) = (
            Read(
                Setting(Tractor),
                MeterFunction.Ohms,
                "magneto.kill",
                "block.crankcase",
                batteryOff: true,
                meter: Meter.Ordinary with
                {
                    Leads = new Ohms(0.4),
                }
            ),
            Read(
                Setting(Tractor),
                MeterFunction.Ohms,
                "magneto.kill",
                "block.crankcase",
                batteryOff: true,
                meter: Nulled
            )
        );
        Assert.Equal(0.4, with.Value!.Value - without.Value!.Value, 1e-9);
    }

    [Fact]
    public void An_open_reads_OL()
    {
        var display = Read(
            Setting(Tractor),
            MeterFunction.Ohms,
            "solenoid.M",
            "solenoid.S",
            batteryOff: true,
            faults: new PlantedFault(Fault("starter/open"), 0)
        );
        Assert.Equal("OL", display.Shown);
    }

    [Fact]
    public void Swapped_probes_show_minus()
    {
        var display = Read(Setting(Tractor), MeterFunction.DcVolts, "battery.-", "battery.+");
        Assert.StartsWith("-12.5", display.Shown, StringComparison.Ordinal);
    }

    [Fact]
    public void A_beep_is_not_a_good_joint()
    {
        // Twenty ohms in a ground path beeps like a sound one; the ohms tell.
        var twenty = Math.Log(20 / 0.02) / Math.Log(1000 / 0.02);
        var rusty = new PlantedFault(Fault("G1/resistive"), twenty);
        Assert.Equal(
            "beep",
            Read(
                Setting(Tractor),
                MeterFunction.Beep,
                "solenoid.case",
                "frame.fender",
                batteryOff: true,
                faults: rusty
            ).Shown
        );
        Assert.Equal(
            20,
            Read(
                Setting(Tractor),
                MeterFunction.Ohms,
                "solenoid.case",
                "frame.fender",
                batteryOff: true,
                meter: Nulled,
                faults: rusty
            ).Value!.Value,
            0.5
        );
    }

    [Fact]
    public void Amps_in_place_of_the_blown_fuse_are_the_ignition_feeds_own()
    {
        // Key RUN: solenoid 12.6/14 = 0.9 A, oil lamp 2 W = 0.17 A, hour meter 14 mA.
        var run = Setting(Tractor, ("key", "RUN"));
        var display = Read(
            run,
            MeterFunction.DcAmps,
            "fuse.1",
            "fuse.2",
            faults: new PlantedFault(Fault("fuse/blown"), 0)
        );
        Assert.Equal(0.9 + 0.17 + 0.014, display.Value!.Value, 0.06);
    }

    [Fact]
    public void Amps_across_the_battery_are_refused_before_the_meters_fuse_goes()
    {
        var display = Read(Setting(Tractor), MeterFunction.DcAmps, "battery.+", "battery.-");
        Assert.Contains("fuse", display.Refusal, StringComparison.Ordinal);
    }

    [Fact]
    public void A_test_lamp_shows_the_corroded_joint_that_volts_alone_do_not()
    {
        var corroded = new PlantedFault(Fault("P1/1/resistive"), 0.6);
        Assert.InRange(
            Read(Setting(Tractor), MeterFunction.DcVolts, "key.B", "battery.-", faults: corroded).Value!.Value,
            12.5,
            12.6
        );
        Assert.StartsWith(
            "out",
            Read(Setting(Tractor), MeterFunction.TestLamp, "key.B", "battery.-", faults: corroded).Shown,
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            "bright",
            Read(Setting(Tractor), MeterFunction.TestLamp, "key.B", "battery.-").Shown,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("magneto.kill")]
    [InlineData("key.M")]
    [InlineData("seat.k1")]
    public void A_test_lamp_is_refused_on_every_part_of_a_live_kill_wire(string point)
    {
        var running = Setting(Tractor, ("key", "RUN"), ("seat", "occupied"));
        Assert.Contains(
            "kill wire",
            Read(running, MeterFunction.TestLamp, "battery.+", point).Refusal,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_diode_range_through_a_winding_shows_nearly_nothing_and_through_an_open_OL()
    {
        Assert.InRange(
            Read(
                Setting(Tractor),
                MeterFunction.Diode,
                "winding.out",
                "block.crankcase",
                batteryOff: true
            ).Value!.Value,
            0,
            0.002
        );
        Assert.Equal(
            "OL",
            Read(Setting(Tractor), MeterFunction.Diode, "rectifier.dc", "rectifier.ac", batteryOff: true).Shown
        );
    }

    private static Faults.Fault Fault(string id) => Tractor.Faults.Single(f => f.Id.Text == id);

    private static MeterDisplay Read(
        ControlSetting setting,
        MeterFunction function,
        string red,
        string black,
        bool batteryOff = false,
        Meter? meter = null,
        params PlantedFault[] faults
    ) =>
        Bench.Read(
            new Case
            {
                Circuit = Tractor,
                Settings = [setting],
                Faults = faults,
                BatteryDisconnected = batteryOff,
            },
            meter ?? Meter.Ordinary,
            function,
            Tractor.NodeOf(red),
            Tractor.NodeOf(black)
        );
}
