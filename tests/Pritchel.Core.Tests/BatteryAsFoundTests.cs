using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>A battery told as it stands is solved as it stands.</summary>
public class BatteryAsFoundTests
{
    private const double ColdCranking = 300;
    private const double Load = 0.5;

    private static readonly Circuit Bench = new SmallMachine()
        .Battery("coldCrankingAmps", ColdCranking)
        .Battery("wear", 1)
        .Load("load", "load", "ohms", Load)
        .Wire("key.A", "load.+")
        .Wire("load.-", "frame.bolt")
        .Compile();

    /// <summary>
    /// By hand: rest volts of the BCI table; ohms of the cold-cranking test (SAE J537: full at −18 °C, 7.2 V at its amps), so a
    /// full battery at −18 °C sags by the share of its own resistance.
    /// </summary>
    [Theory]
    [InlineData(PartKinds.Battery, 1.0, 12.65)]
    [InlineData(PartKinds.Battery, 0.5, 12.24)]
    [InlineData(PartKinds.AgmBattery, 1.0, 12.85)]
    public void Rest_volts_are_those_of_the_type_and_charge_told(string type, double charge, double rest)
    {
        var told = new BatteryAsFound(Bench.Machine.Parts[0].Id) { Type = type, Charge = charge };
        Assert.Equal(rest, Volts(told, "OFF"), 0.005);
    }

    [Fact]
    public void It_sags_as_its_cold_cranking_amps_say()
    {
        var cold = new BatteryAsFound(Bench.Machine.Parts[0].Id) { Charge = 1, Warmth = new Celsius(-18) };
        var own = (12.65 - 7.2) / ColdCranking;
        // The leads of this bench are some thousandths of an ohm.
        Assert.Equal(12.65 * Load / (Load + own), Volts(cold, "ON"), 0.05);
        var warm = cold with { Warmth = new Celsius(25) };
        Assert.InRange(Volts(warm, "ON"), Volts(cold, "ON") + 0.05, 12.65);
    }

    /// <summary>Nothing told changes nothing: the machine is the very same.</summary>
    [Fact]
    public void Nothing_told_is_the_drawing()
    {
        var fitted = BatteryAsFound.Fit(Shipped.Tractor.Machine, []);
        Assert.Equal(
            Machines.Files.MachineFile.Write(Shipped.Tractor.Machine),
            Machines.Files.MachineFile.Write(fitted)
        );
    }

    /// <summary>What is known of this one battery is believed more closely than what is usual of its kind.</summary>
    [Fact]
    public void What_is_told_leaves_less_doubt()
    {
        Parameter Charge(Circuit circuit) => circuit.Parameters.Single(p => p.Key.ToString() == "battery/charge");
        var told = Fitted(new BatteryAsFound(Bench.Machine.Parts[0].Id) { Charge = 0.4 });
        var (usual, known) = (Charge(Bench), Charge(told));
        Assert.Equal(0.4, known.Nominal, 1e-9);
        Assert.InRange(known.Nominal, known.Spread.Low, known.Spread.High);
        Assert.True(known.Spread.High - known.Spread.Low < usual.Spread.High - usual.Spread.Low);
    }

    [Theory]
    [InlineData("battery", null, 1.2, null, "Charge")]
    [InlineData("battery", null, 0.0, null, "Charge")]
    [InlineData("battery", null, double.NaN, null, "Charge")]
    [InlineData("battery", null, null, -60.0, "Temperature")]
    [InlineData("battery", "nickel", null, null, "type of battery")]
    [InlineData("starter", null, 0.5, null, "not a battery")]
    public void What_cannot_be_told_is_refused(string part, string? type, double? charge, double? celsius, string says)
    {
        var kit = DiagnosisKit.Sketch(Shipped.Tractor, Symptoms.Duty(Shipped.Tractor, new DutyId("cranks")), []);
        var rules = new ComplaintRules(kit.Table.Duty, kit.Table, [], []);
        var told = new Complaint
        {
            Duty = kit.Table.Duty.Id,
            Heard = Heard.Nothing,
            Batteries =
            [
                new BatteryAsFound(new PartId(part))
                {
                    Type = type,
                    Charge = charge,
                    Warmth = celsius is { } warmth ? new Celsius(warmth) : null,
                },
            ],
        };
        var refusal = Assert.Single(rules.Check(told));
        Assert.Equal("batteries", refusal.Field);
        Assert.Contains(says, refusal.Message, StringComparison.Ordinal);
    }

    private static Circuit Fitted(BatteryAsFound told) => Circuit.Compile(BatteryAsFound.Fit(Bench.Machine, [told]));

    private static double Volts(BatteryAsFound told, string key)
    {
        var circuit = Fitted(told);
        var @case = new Case { Circuit = circuit, Settings = [Shipped.Setting(circuit, ("key", key))] };
        var state = new CircuitState(@case.Wired);
        Assert.Equal(Settlement.Settled, @case.Settle(state));
        return state.Drop(circuit.NodeOf("battery.+"), circuit.NodeOf("battery.-"));
    }
}
