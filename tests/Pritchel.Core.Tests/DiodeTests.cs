using System.Diagnostics;
using System.Globalization;
using CsCheck;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Diodes: one way only, on every range of the meter, and against the reference simulator's own.</summary>
public class DiodeTests
{
    private static readonly Meter Nulled = Meter.Ordinary with { LeadsNulled = true };

    [Fact]
    public void It_feeds_forward_less_its_knee_and_holds_off_backwards()
    {
        var forward = Fed("d.a", "d.k");
        var backward = Fed("d.k", "d.a");
        Assert.InRange(Volts(forward, "lamp.+"), 11.8, 12.1);
        Assert.Equal(0, Volts(backward, "lamp.+"), 6);
    }

    [Fact]
    public void The_diode_range_tells_it_both_ways_where_ohms_and_beep_are_silent()
    {
        var circuit = Fed("d.a", "d.k");
        Assert.InRange(Read(circuit, MeterFunction.Diode, "d.a", "d.k").Value!.Value, 0.5, 0.6);
        Assert.Equal("OL", Read(circuit, MeterFunction.Diode, "d.k", "d.a").Shown);
        Assert.Equal("silent", Read(circuit, MeterFunction.Beep, "d.a", "d.k").Shown);
        Assert.Equal("OL", Read(circuit, MeterFunction.Ohms, "d.a", "d.k").Shown);
    }

    [Fact]
    public void Two_diodes_keep_two_feeds_apart()
    {
        // Two keys' worth of feed into one lamp: with one side dead, nothing comes back up it.
        var circuit = new SmallMachine()
            .Part("d1", "diode", "a", "k")
            .Part("d2", "diode", "a", "k")
            .Lamp("lamp", 21)
            .Lamp("other", 5)
            .Wire("key.A", "d1.a")
            .Wire("d1.k", "lamp.+")
            .Wire("d2.k", "lamp.+")
            .Wire("d2.a", "other.+")
            .Wire("other.-", "frame.bolt")
            .Wire("lamp.-", "frame.bolt")
            .Compile();
        Assert.InRange(Volts(circuit, "lamp.+"), 11.5, 12.1);
        Assert.Equal(0, Volts(circuit, "other.+", "other.-"), 5);
    }

    [Fact]
    public void Random_bridges_come_to_rest_and_obey_every_diode() =>
        Gen.Select(Gen.Double[-1.3, 3], Gen.Double[-1.3, 3], Gen.Double[-1.3, 3])
            .Sample(
                (a, b, c) =>
                {
                    var circuit = Bridge();
                    var values = circuit.NominalParameters();
                    foreach (var (name, exponent) in new[] { ("w3/ohms", a), ("w5/ohms", b), ("w8/ohms", c) })
                    {
                        values[circuit.Parameters.ToList().FindIndex(p => p.Key.ToString() == name)] = Math.Pow(
                            10,
                            exponent
                        );
                    }

                    var state = new CircuitState(circuit);
                    state.Begin(values);
                    Assert.Equal(Settlement.Settled, state.Move(Shipped.Setting(circuit, ("key", "ON"))));
                    Assert.Equal(1, state.StateAt(circuit.StateOf(Texts.Part("d1"))));
                    Assert.Equal(0, state.StateAt(circuit.StateOf(Texts.Part("d4"))));
                    foreach (var d in new[] { "d1", "d2", "d3", "d4" })
                    {
                        var volts = state.Drop(circuit.NodeOf(d + ".a"), circuit.NodeOf(d + ".k"));
                        Assert.Equal(volts > 0.55, state.StateAt(circuit.StateOf(Texts.Part(d))) == 1);
                    }
                },
                iter: 200
            );

    [Fact]
    public void A_bridge_feeds_its_load_as_the_reference_simulators_exponential_diodes_do()
    {
        // Its diode is a curve, ours two lines: alike within the tenth of a volt that the knee is uncertain by.
        var circuit = Bridge();
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(Shipped.Setting(circuit, ("key", "ON")));
        var ours = state.Drop(circuit.NodeOf("lamp.+"), circuit.NodeOf("lamp.-"));
        var lampOhms = ours / (21.0 / 12 * Math.Pow(ours / 12, 0.55));
        var netlist = string.Create(
            CultureInfo.InvariantCulture,
            $"""
            * bridge
            V1 in 0 {Volts(circuit, "key.A"):R}
            R1 in p 0.01
            D1 p plus DX
            D2 0 plus DX
            D3 minus 0 DX
            D4 minus p DX
            RL plus minus {lampOhms:R}
            .model DX D(IS=1e-9 N=1 RS=0.05)
            .control
            op
            print v(plus)-v(minus)
            quit
            .endc
            .end
            """
        );
        Assert.Equal(RunOne(netlist), ours, 0.1);
    }

    private static double RunOne(string netlist)
    {
        var file = Path.GetTempFileName();
        File.WriteAllText(file, netlist + "\n");
        using var process = Process.Start(
            new ProcessStartInfo("ngspice", ["-b", file])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                UseShellExecute = false,
            }
        )!;
        var errors = process.StandardError.ReadToEndAsync();
        var line = process
            .StandardOutput.ReadToEnd()
            .Split('\n')
            .First(l => l.Contains(" = ", StringComparison.Ordinal) && l.Contains("plus", StringComparison.Ordinal));
        process.WaitForExit();
        File.Delete(file);
        return double.Parse(line[(line.LastIndexOf('=') + 1)..], CultureInfo.InvariantCulture);
    }

    private static Circuit Bridge() =>
        new SmallMachine()
            .Part("d1", "diode", "a", "k")
            .Part("d2", "diode", "a", "k")
            .Part("d3", "diode", "a", "k")
            .Part("d4", "diode", "a", "k")
            .Lamp("lamp", 21)
            .Wire("key.A", "d1.a")
            .Wire("d1.k", "lamp.+")
            .Wire("frame.bolt", "d2.a")
            .Wire("d2.k", "lamp.+")
            .Wire("lamp.-", "d3.a")
            .Wire("d3.k", "frame.bolt")
            .Wire("lamp.-", "d4.a")
            .Wire("d4.k", "d1.a")
            .Compile();

    private static Circuit Fed(string near, string far) =>
        new SmallMachine()
            .Part("d", "diode", "a", "k")
            .Lamp("lamp", 21)
            .Wire("key.A", near)
            .Wire(far, "lamp.+")
            .Wire("lamp.-", "frame.bolt")
            .Compile();

    private static double Volts(Circuit circuit, string at, string against = "battery.-")
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(Shipped.Setting(circuit, ("key", "ON")));
        return state.Drop(circuit.NodeOf(at), circuit.NodeOf(against));
    }

    private static MeterDisplay Read(Circuit circuit, MeterFunction function, string red, string black) =>
        Bench.Read(
            new Case { Circuit = circuit, Settings = [circuit.Setting(null)] },
            Nulled,
            function,
            circuit.NodeOf(red),
            circuit.NodeOf(black)
        );
}
