using System.Text.Json.Nodes;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>Meters as data: the three that ship, and what their differences do to readings.</summary>
public class MeterFileTests
{
    private static Meter Shipped(string name)
    {
        var reading = MeterFile.Read(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "meters", name + ".json"))
        );
        Assert.Empty(reading.Problems);
        return reading.Meter!;
    }

    [Theory]
    [InlineData("cheap")]
    [InlineData("good")]
    [InlineData("lamp-only")]
    public void A_shipped_meter_is_read_and_written_back_the_same(string name)
    {
        var meter = Shipped(name);
        Assert.Equal(meter, MeterFile.Read(MeterFile.Write(meter)).Meter);
    }

    [Fact]
    public void A_lamp_alone_reads_no_volts_and_lights()
    {
        var (tractor, lamp) = (Tests.Shipped.Tractor, Shipped("lamp-only"));
        MeterDisplay Read(MeterFunction function) =>
            Bench.Read(
                new Simulation.Case { Circuit = tractor, Settings = [tractor.Setting(null)] },
                lamp,
                function,
                tractor.NodeOf("battery.+"),
                tractor.NodeOf("battery.-")
            );
        Assert.Contains("no such function", Read(MeterFunction.DcVolts).Refusal, StringComparison.Ordinal);
        Assert.StartsWith("bright", Read(MeterFunction.TestLamp).Shown, StringComparison.Ordinal);
    }

    [Fact]
    public void The_same_volts_are_shown_in_each_meters_own_steps_and_doubt()
    {
        var example = Example.Of("stator-single-phase");
        var @case = example.Case("key=OFF");
        MeterDisplay With(Meter meter) => example.Read(@case, "battery.+", "battery.-", MeterFunction.DcVolts, meter);
        var (cheap, good) = (With(Shipped("cheap")), With(Shipped("good")));

        // 2000 counts on 20 V: 10 mV steps, 1 % and 2 counts. 6000 counts on 60 V: 10 mV, 0.1 % and 2 counts.
        Assert.Equal((0.01 * cheap.Value!.Value) + 0.02, cheap.Doubt!.Value, 1e-3);
        Assert.Equal((0.001 * good.Value!.Value) + 0.02, good.Doubt!.Value, 1e-3);
    }

    [Fact]
    public void A_megohm_meter_pulls_a_megohm_joint_down_where_ten_megohms_do_not()
    {
        // 12.57 V behind 10 kΩ in the feed of an idle point: 1/(1 + 0.01) and 1/(1 + 0.001) of it.
        var circuit = new SmallMachine().Part("stud", "body", "x").Wire("battery.+", "stud.x").Compile();
        var fault = circuit.Faults.Single(f => f.Id.Text == "w3@to/joint/resistive");
        double Volts(string meter) =>
            Bench
                .Read(
                    new Simulation.Case
                    {
                        Circuit = circuit,
                        Settings = [circuit.Setting(null)],
                        Faults = [new Simulation.PlantedFault(fault, 1)],
                    },
                    Shipped(meter),
                    MeterFunction.DcVolts,
                    circuit.NodeOf("stud.x"),
                    circuit.NodeOf("battery.-")
                )
                .Value!.Value;
        Assert.Equal((1 + 0.001) / (1 + 0.01), Volts("cheap") / Volts("good"), 1e-5);
    }

    [Theory]
    [InlineData("/name", "\"\"", "1 to 40")]
    [InlineData("/displayCounts", "3", "200 to 1000000")]
    [InlineData("/voltsRanges", "[20, 2]", "ascending")]
    [InlineData("/voltsRanges", "[]", "1 to 12")]
    [InlineData("/leadOhms", "-1", "0 to 100")]
    [InlineData("/functions", "[\"guess\"]", "docs/machine-format.md")]
    [InlineData("/gizmo", "1", "docs/machine-format.md")]
    [InlineData("/inputOhms", "\"high\"", "docs/machine-format.md")]
    public void A_wrong_meter_file_is_refused_by_place(string pointer, string value, string allowed)
    {
        var file = JsonNode.Parse(MeterFile.Write(Meter.Ordinary))!;
        file[pointer[1..]] = JsonNode.Parse(value);
        var reading = MeterFile.Read(file.ToJsonString());
        Assert.Null(reading.Meter);
        Assert.Contains(
            reading.Problems,
            p =>
                p.Pointer.StartsWith(pointer, StringComparison.Ordinal)
                && p.Message.Contains(allowed, StringComparison.Ordinal)
        );
    }
}
