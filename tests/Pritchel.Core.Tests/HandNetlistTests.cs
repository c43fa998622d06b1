using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// Small networks against netlists written by hand for the reference simulator with its own diodes (Shockley's law with
/// 1N4000-class figures, from memory: IS 7 nA, N 1.8, RS 40 mΩ). Nothing of the netlists is exported: a wire here is 0.5 m of
/// 2.5 mm² at 7.41 mΩ/m (IEC 60228) and two screws of 1 mΩ, 5.7 mΩ; the battery is taken as a source of the volts at its posts.
/// </summary>
public class HandNetlistTests
{
    private const string Diodes = ".model D1 D(IS=7n N=1.8 RS=0.04)\n";

    // A knee of 0.55 V with 0.05 Ω stands for Shockley's curve from a milliamp to some amperes: within this.
    private const double DiodeVolts = 0.35;
    private const double LinearVolts = 0.02;

    public static TheoryData<string> Names => [.. Networks.Select(n => n.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public void A_network_reads_as_its_hand_written_netlist(string name)
    {
        var network = Networks.Single(n => n.Name == name);
        var circuit = network.Machine().Compile();
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(circuit.Setting(circuit.Machine.Controls.ToDictionary(c => c.Id.Text, _ => "ON")));
        var ground = circuit.NodeOf(TerminalAddress.Of("battery.-"));
        double Ours(string at) => state.Drop(circuit.NodeOf(TerminalAddress.Of(at)), ground);

        var netlist = $"* {name}\nVB b 0 {Ours("battery.+"):R}\nRC b a 0.0194\n{network.Netlist}{Diodes}";
        var theirs = Ngspice.Run([(netlist, [.. network.Points.Select(p => $"v({p.Theirs})")])], "op", Ngspice.Tight)[
            0
        ];
        for (var k = 0; k < network.Points.Length; k++)
        {
            var (ours, at) = (Ours(network.Points[k].Ours), network.Points[k].Ours);
            var allowed = network.HasDiodes ? DiodeVolts : LinearVolts;
            Assert.True(Math.Abs(ours - theirs[k]) <= allowed, $"{at}: {ours:0.000} V here, {theirs[k]:0.000} V there");
        }
    }

    /// <summary>A network both ways.</summary>
    private sealed record Network(
        string Name,
        bool HasDiodes,
        Func<SmallMachine> Machine,
        string Netlist,
        params (string Ours, string Theirs)[] Points
    );

    // Node a is key.A: two wires' worth of feed and the key's 8 mΩ contact before it (RC). Wires are 5.7 mΩ, written 5.7m.
    private static readonly Network[] Networks =
    [
        new(
            "a load behind a diode",
            true,
            () =>
                Fed()
                    .Part("d", "diode", "a", "k")
                    .Load("l", "load", "ohms", 6)
                    .Wire("key.A", "d.a")
                    .Wire("d.k", "l.+")
                    .Wire("l.-", "frame.bolt"),
            "R1 a x 5.7m\nD1 x y D1\nR2 y z 5.7m\nRL z g 6\nR3 g f 5.7m\nR4 f 0 5.7m\n",
            ("l.+", "z")
        ),
        new(
            "a milliamp through a diode",
            true,
            () =>
                Fed()
                    .Part("d", "diode", "a", "k")
                    .Load("l", "load", "ohms", 12_000)
                    .Wire("key.A", "d.a")
                    .Wire("d.k", "l.+")
                    .Wire("l.-", "frame.bolt"),
            "D1 a y D1\nRL y 0 12k\n",
            ("l.+", "y")
        ),
        new(
            "two feeds kept apart",
            true,
            () =>
                Fed()
                    .Part("d1", "diode", "a", "k")
                    .Part("d2", "diode", "a", "k")
                    .Load("l", "load", "ohms", 3)
                    .Load("o", "load", "ohms", 20)
                    .Wire("key.A", "d1.a")
                    .Wire("d1.k", "l.+")
                    .Wire("d2.k", "l.+")
                    .Wire("d2.a", "o.+")
                    .Wire("o.-", "frame.bolt")
                    .Wire("l.-", "frame.bolt"),
            "D1 a y D1\nRL y f 3.0057\nD2 o y D1\nRO o f 20\nRF f 0 5.7m\n",
            ("l.+", "y"),
            ("o.+", "o")
        ),
        new(
            "a bridge fed with the wrong polarity",
            true,
            () =>
                Fed()
                    .Part("b", "bridge-rectifier", "a", "b", "+", "-")
                    .Load("l", "load", "ohms", 8)
                    .Wire("key.A", "b.b")
                    .Wire("b.a", "frame.bolt")
                    .Wire("b.+", "l.+")
                    .Wire("b.-", "l.-"),
            "RW a q 5.7m\nD1 q p D1\nD2 n 0 D1\nD3 0 p D1\nD4 n q D1\nRL p n 8\n",
            ("l.+", "p"),
            ("l.-", "n")
        ),
        new(
            "an alarm through its diodes",
            true,
            () =>
                Fed()
                    .Load("z", "buzzer", "ohms", 240)
                    .Part("d1", "diode", "a", "k")
                    .Part("d2", "diode", "a", "k")
                    .Switch("s1")
                    .Load("g", "load", "ohms", 500)
                    .Wire("key.A", "z.+")
                    .Wire("z.-", "d1.a")
                    .Wire("z.-", "d2.a")
                    .Wire("d1.k", "s1.1")
                    .Wire("s1.2", "frame.bolt")
                    .Wire("d2.k", "g.+")
                    .Wire("g.-", "frame.bolt"),
            "RZ a m 240\nD1 m s D1\nRS s 0 0.0194\nD2 m t D1\nRG t 0 500\n",
            ("z.-", "m"),
            ("g.+", "t")
        ),
        new(
            "a relay's coil with a diode across it",
            true,
            () =>
                Fed()
                    .Part("r", "relay", "85", "86", "30", "87", "87a")
                    .Part("d", "diode", "a", "k")
                    .Load("l", "load", "ohms", 40)
                    .Wire("key.A", "l.+")
                    .Wire("l.-", "r.86")
                    .Wire("r.85", "frame.bolt")
                    .Wire("r.86", "d.k")
                    .Wire("d.a", "r.85")
                    .Wire("r.30", "frame.bolt")
                    .Wire("r.87", "frame.bolt")
                    .Wire("r.87a", "frame.bolt"),
            "RL a c 40\nRK c 0 85\nD1 0 c D1\n",
            ("r.86", "c")
        ),
        new(
            "a gauge and its sender",
            false,
            () =>
                Fed()
                    .Part("m", "gauge", "+", "S")
                    .Part("s", "sender", "out", "case")
                    .Wire("key.A", "m.+")
                    .Wire("m.S", "s.out")
                    .Wire("s.case", "frame.bolt"),
            "RM a t 90\nRS t 0 70\n",
            ("m.S", "t")
        ),
        new(
            "a two-winding solenoid fed too weakly to pull in",
            false,
            () =>
                Fed()
                    .Part("s", "starter-solenoid", "B", "M", "S", "case")
                    .Part("m", "starter", "post", "case")
                    .Load("r", "load", "ohms", 2)
                    .Wire("battery.+", "s.B")
                    .Wire("key.A", "r.+")
                    .Wire("r.-", "s.S")
                    .Wire("s.M", "m.post")
                    .Wire("m.case", "frame.bolt")
                    .Wire("s.case", "frame.bolt"),
            "RR a s 2.0114\nRH s g 1.2\nRP s m 0.4\nRM m f 0.0414\nRG g f 5.7m\nRF f 0 5.7m\n",
            ("s.S", "s")
        ),
        new(
            "an excited field behind its lamp's resistance",
            false,
            () =>
                Fed()
                    .Load("w", "load", "ohms", 48)
                    .Load("x", "load", "ohms", 4)
                    .Wire("key.A", "w.+")
                    .Wire("w.-", "x.+")
                    .Wire("x.-", "frame.bolt"),
            "RW a d 48\nRX d 0 4\n",
            ("x.+", "d")
        ),
        new(
            "a module's switch inputs",
            false,
            () =>
                Fed()
                    .Part("i", "igniter", "+", "coil", "pickup+", "pickup-", "case", "stand", "neutral")
                    .Load("c", "load", "ohms", 3)
                    .Load("n", "load", "ohms", 1000)
                    .Load("p", "load", "ohms", 200)
                    .Load("s", "load", "ohms", 100_000)
                    .Wire("key.A", "i.+")
                    .Wire("key.A", "c.+")
                    .Wire("c.-", "i.coil")
                    .Wire("p.+", "i.pickup+")
                    .Wire("p.-", "i.pickup-")
                    .Wire("i.case", "frame.bolt")
                    .Wire("i.neutral", "n.+")
                    .Wire("n.-", "frame.bolt")
                    .Wire("i.stand", "s.+")
                    .Wire("s.-", "frame.bolt")
                    .Wire("p.-", "frame.bolt"),
            "RS a s 4.7k\nRS2 s 0 50k\nRN a n 4.7k\nRN2 n 0 990.099\n",
            ("i.stand", "s"),
            ("i.neutral", "n")
        ),
        new(
            "a low-volts lamp behind a long lead",
            false,
            () =>
                Fed()
                    .Part("v", "low-volts-lamp", "+", "-")
                    .Load("r", "load", "ohms", 50)
                    .Wire("key.A", "r.+")
                    .Wire("r.-", "v.+")
                    .Wire("v.-", "frame.bolt"),
            "RR a v 50\nRV v 0 400\n",
            ("v.+", "v")
        ),
        new(
            "a regulator's sensing at rest",
            false,
            () =>
                Fed()
                    .Part("g", "regulator-half-wave", "ac", "dc", "case")
                    .Load("r", "load", "ohms", 1000)
                    .Load("w", "load", "ohms", 1)
                    .Wire("key.A", "r.+")
                    .Wire("r.-", "g.dc")
                    .Wire("g.case", "frame.bolt")
                    .Wire("g.ac", "w.+")
                    .Wire("w.-", "frame.bolt"),
            "RR a d 1k\nRS d 0 25k\n",
            ("g.dc", "d")
        ),
    ];

    private static SmallMachine Fed() => new();
}
