using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>
/// Readings against the ranges that the trade gives (common practice, no source), each on a circuit small enough to be
/// followed by hand.
/// </summary>
public class TradeRangesTests
{
    /// <summary>A capacitor-discharge unit puts its capacitor's 100 to 400 V on the coil's primary for an instant.</summary>
    [Fact]
    public void The_primary_of_a_discharged_coil_shows_hundreds_of_volts_at_its_peak()
    {
        var example = Example.Of("cdi-exciter");
        var peak = example.Volts(example.Case("key=RUN", 1700), "coil.+", "coil.-", MeterFunction.PeakVolts);
        Assert.InRange(peak, 100, 400);

        // Killed, nothing is charged and nothing discharges: what the primary's ohm lets through only.
        var killed = example.Volts(example.Case("key=OFF", 1700), "coil.+", "coil.-", MeterFunction.PeakVolts);
        Assert.InRange(killed, 0, 5);
    }

    /// <summary>A battery coil's primary is thrown up to 200 to 400 V as its current is cut off; at rest it is not.</summary>
    [Fact]
    public void The_primary_of_a_battery_coil_is_thrown_up_by_hundreds_of_volts()
    {
        var example = Example.Of("igniter-two-coils");
        double Peak(string setting, double rpm) =>
            example.Volts(example.Case(setting, rpm), "coil1.-", "battery.-", MeterFunction.PeakVolts);
        Assert.InRange(Peak("key=ON stop=RUN", 1500), 200, 400);
        Assert.InRange(Peak("key=ON stop=STOP", 1500), 0, 15);
    }

    /// <summary>
    /// The unit holds its exciter near what its capacitor is charged to (280 V here): open it gives 300 V a thousand, nearly
    /// two thousand at work speed.
    /// </summary>
    [Fact]
    public void An_exciter_is_held_by_its_unit_and_not_without()
    {
        var example = Example.Of("cdi-exciter");
        var joined = example.Case("key=RUN", 6500);
        var held = example.Volts(joined, "exciter.out", "exciter.case", MeterFunction.PeakVolts);
        Assert.InRange(held, 270, 400);
        var wire = example.Circuit.Machine.Wires.First(w =>
            w.From.At.Text == "exciter.out" || w.To.At.Text == "exciter.out"
        );
        var end = wire.From.At.Text == "exciter.out" ? wire.Id.From : wire.Id.To;
        var apart = example.Volts(
            joined with
            {
                Off = [(Disconnection)end],
            },
            "exciter.out",
            "exciter.case",
            MeterFunction.PeakVolts
        );

        // Past the thousand volts that a meter's adapter goes to.
        Assert.Equal(double.PositiveInfinity, apart);
    }

    /// <summary>An AC range shows some tenths of a volt of a pickup, on machines with a charge winding and on those without.</summary>
    [Theory]
    [InlineData("sound-cruiser-2", "p-pickup")]
    [InlineData("ridge-twin-1", "pickup")]
    public void A_running_pickup_shows_on_an_AC_range(string machine, string pickup)
    {
        var circuit = Shipped.Circuit(machine);
        var @case = new Case
        {
            Circuit = circuit,
            Settings = [circuit.Setting(null)],
            Speeds = circuit.Engines.ToDictionary(e => e.Id, e => new Rpm(e.IdleRpm)),
        };
        var shown = Bench.Read(
            @case,
            Example.Fine,
            MeterFunction.AcVolts,
            circuit.NodeOf(pickup + ".+"),
            circuit.NodeOf(pickup + ".-")
        );
        Assert.InRange(shown.Value!.Value, 0.3, 10);
    }

    /// <summary>Once it charges, D+ stands within three tenths of B+, and the lamp between them is dark.</summary>
    [Fact]
    public void D_plus_stands_near_B_plus_and_the_charge_lamp_is_dark()
    {
        var example = Example.Of("alternator-charge-lamp");
        var charging = example.Case("key=ON", 2600);
        Assert.InRange(example.Volts(charging, "alternator.B+", "battery.-"), 13.8, 14.6);
        Assert.InRange(example.Volts(charging, "alternator.B+", "alternator.D+"), 0, 0.3);
        Assert.InRange(example.Outcome("key=ON", 2600).Glows[new PartId("charge-lamp")], 0, 0.1);
    }

    /// <summary>A meter's milliamp stands at 0.45 to 0.6 V over silicon, whatever it is made for.</summary>
    [Theory]
    [InlineData("rectifier", "ac", "dc")]
    [InlineData("bridge-rectifier", "a", "+")]
    [InlineData("bridge-rectifier", "-", "b")]
    [InlineData("diode", "a", "k")]
    public void A_milliamp_stands_at_half_a_volt_over_silicon(string kind, string anode, string cathode)
    {
        string[] terminals = kind switch
        {
            "rectifier" => ["ac", "dc", "case"],
            "diode" => ["a", "k"],
            _ => ["a", "b", "+", "-"],
        };
        var circuit = new SmallMachine().Part("it", kind, terminals).Wire($"it.{anode}", "key.A").Compile();
        var @case = new Case
        {
            Circuit = circuit,
            Settings = [circuit.Setting(null)],
            BatteryDisconnected = true,
        };
        double? Shown(string red, string black) =>
            Bench
                .Read(
                    @case,
                    Meter.Ordinary,
                    MeterFunction.Diode,
                    circuit.NodeOf($"it.{red}"),
                    circuit.NodeOf($"it.{black}")
                )
                .Value;
        Assert.InRange(Shown(anode, cathode)!.Value, 0.45, 0.6);
        Assert.Equal(double.PositiveInfinity, Shown(cathode, anode)!.Value);
    }

    /// <summary>What blocks leaks nanoamps: at rest a sound stator's legs read hundredths to a few tenths of a volt.</summary>
    [Theory]
    [InlineData("hill-quad-2")]
    [InlineData("ridge-twin-1")]
    [InlineData("ridge-carrier-4")]
    public void Legs_of_a_sound_stator_read_next_to_nothing_at_rest(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var @case = new Case { Circuit = circuit, Settings = [circuit.Setting(null)] };
        foreach (var leg in new[] { "a", "b", "c" })
        {
            var shown = Bench.Read(
                @case,
                Meter.Ordinary,
                MeterFunction.DcVolts,
                circuit.NodeOf($"stator.{leg}"),
                circuit.Reference
            );
            Assert.InRange(Math.Abs(shown.Value!.Value), 0, 0.5);
        }
    }

    /// <summary>Seventy relays, each fed through the contact of the one before, pull in one after another and stay.</summary>
    [Fact]
    public void A_long_chain_of_relays_comes_to_rest()
    {
        const int Relays = 70;
        var machine = new SmallMachine();
        for (var r = 0; r < Relays; r++)
        {
            machine
                .Part($"r{r}", "relay", "85", "86", "30", "87", "87a")
                .Wire("key.A", $"r{r}.30")
                .Wire(r == 0 ? "key.A" : $"r{r - 1}.87", $"r{r}.86")
                .Wire($"r{r}.85", "frame.bolt");
        }

        var circuit = machine.Compile();
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        Assert.Equal(Settlement.Settled, state.Move(Shipped.Setting(circuit, ("key", "ON"))));
        for (var r = 0; r < Relays; r++)
        {
            Assert.Equal(1, state.StateAt(circuit.StateOf(Texts.Part($"r{r}"))));
        }
    }

    /// <summary>
    /// A winding shorted by its own wires carries alternating current and no direct one, however long it takes to say so:
    /// 50 mH over some 40 mΩ forgets in more than a second, and a turn takes a hundredth.
    /// </summary>
    [Fact]
    public void A_shorted_winding_of_little_resistance_carries_no_direct_current()
    {
        var machine = Example.Of("stator-single-phase").Circuit.Machine;
        var slow = machine with
        {
            Parts =
            [
                .. machine.Parts.Select(p =>
                    p.Id.Text == "stator"
                        ? p with
                        {
                            Values = new Dictionary<string, double>
                            {
                                ["voltsPer1000Rpm"] = 14,
                                ["ohms"] = 0.01,
                                ["millihenries"] = 50,
                            },
                        }
                        : p
                ),
            ],
            Wires =
            [
                .. machine.Wires,
                machine.Wires[0] with
                {
                    Id = new WireId("short"),
                    From = new WireEnd(TerminalAddress.Of("stator.a"), "screw"),
                    To = new WireEnd(TerminalAddress.Of("stator.b"), "screw"),
                    Gauge = "6 mm2",
                    LengthM = 10,
                },
            ],
        };
        var circuit = Circuit.Compile(slow);
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.SetSpeed(0, 1500);
        state.Move(circuit.Setting(null));
        var (a, b) = (circuit.NodeOf("short@from"), circuit.NodeOf("short@to"));

        // 14 V · 1.5 over ωL = 2π·150·0.05 = 47 Ω: 0.45 A r.m.s. through 10 m · 3.1 mΩ/m.
        var alternating = state.Alternating(a, b);
        Assert.InRange(alternating, 0.010, 0.018);
        Assert.InRange(Math.Abs(state.Drop(a, b)), 0, 0.01 * alternating);
    }

    /// <summary>Bolted metal loses no more than the trade allows a whole ground side while it cranks: two tenths of a volt.</summary>
    [Theory]
    [InlineData("harbour-launch-1", "starter.case")]
    [InlineData("orchard-tractor-4", "starter.case")]
    [InlineData("orchard-zero-turn-7", "starter.case")]
    [InlineData("terrace-dumper-1", "starter.case")]
    public void A_starters_foot_and_ground_lose_little_while_cranking(string machine, string foot)
    {
        var circuit = Shipped.Circuit(machine);
        var duty = circuit.Machine.Duties.First(d => d.Load.Text == "starter");
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        state.Move(circuit.Setting(duty.Setting));
        var block = circuit.Machine.Parts.First(p => p.Id.Text == "block");
        Assert.InRange(state.Drop(circuit.NodeOf(foot), circuit.NodeOf(block.At(block.Terminals[0]))), 0, 0.06);
        Assert.InRange(state.Drop(circuit.NodeOf(foot), circuit.Reference), 0, 0.55);
        Assert.InRange(circuit.DeviceOf("starter").Effect(state).Level, 0.98, 1.02);
    }

    /// <summary>Charge and kind as the file gives them: rest volts of the tables, typed here from the cards of each kind.</summary>
    [Theory]
    [InlineData("battery", 1, 12.65)]
    [InlineData("battery", 0.5, 12.24)]
    [InlineData("agm-battery", 1, 12.85)]
    [InlineData("agm-battery", 0.5, 12.3)]
    [InlineData("lithium-battery", 1, 13.35)]
    public void A_battery_rests_at_the_volts_of_its_kind_and_charge(string kind, double charge, double volts)
    {
        var circuit = new SmallMachine().BatteryKind(kind).Battery("charge", charge).Compile();
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        Assert.Equal(volts, state.Drop(circuit.NodeOf("battery.+"), circuit.NodeOf("battery.-")), 2e-3);
    }

    /// <summary>In the cold a battery gives less: at −18 °C and 7.2 V its cold-cranking amps (SAE J537).</summary>
    [Fact]
    public void A_cold_battery_gives_its_cold_cranking_amps_at_seven_volts_and_a_fifth()
    {
        var circuit = new SmallMachine()
            .Battery("charge", 1)
            .Battery("celsius", -18)
            .Battery("wear", 1)
            .Battery("coldCrankingAmps", 300)
            .Load("load", "load", "ohms", 7.2 / 300)
            .Wire("battery.+", "load.+")
            .Wire("load.-", "battery.-")
            .Compile();
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(null));
        var across = state.Drop(circuit.NodeOf("load.+"), circuit.NodeOf("load.-"));

        // Its two short leads take a volt or so of the seven.
        Assert.InRange(state.Drop(circuit.NodeOf("battery.+"), circuit.NodeOf("battery.-")), 7.2, 8.6);
        Assert.InRange(across / (7.2 / 300), 200, 300);
    }
}
