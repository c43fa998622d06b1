using System.Globalization;
using System.Text;
using Pritchel.Core.Exchange;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// Machines with relays and diodes moved through sequences of settings, against the reference simulator running its own
/// diodes and hysteretic switches. It is told no state of ours: each move begins from where its own switches stood.
/// </summary>
public class FreeRunningReferenceTests
{
    private const int Sequences = 50;
    private const int Moves = 4;

    [Fact]
    public void Two_hundred_moves_end_in_the_same_states_and_volts()
    {
        var random = new Random(2026);
        var runs = Enumerable.Range(0, Sequences).Select(k => Run.Make(random, relays: 1 + (k % 6))).ToList();
        var stood = runs.Select(r => r.Relays.Select(_ => false).ToArray()).ToList();
        var (figures, largest, pulled, held) = (0, 0.0, 0, 0);
        for (var move = 0; move < Moves; move++)
        {
            var references = Ngspice.Run(
                [.. runs.Select((r, c) => (r.Netlist(move, stood[c]), r.Expressions))],
                "op",
                Ngspice.Tight
            );
            for (var c = 0; c < Sequences; c++)
            {
                var ours = runs[c].Ours[move];
                Assert.Equal(ours.Length, references[c].Length);
                for (var k = 0; k < ours.Length; k++)
                {
                    if (double.IsNaN(ours[k]))
                    {
                        continue;
                    }

                    figures++;
                    var difference = Math.Abs(ours[k] - references[c][k]);
                    largest = Math.Max(largest, difference);
                    Assert.True(
                        difference <= Math.Max(1e-5 * Math.Abs(references[c][k]), 50e-6),
                        $"sequence {c}, move {move}, {runs[c].Expressions[k]}: ours {ours[k]:R}, reference {references[c][k]:R}"
                    );
                }

                stood[c] = [.. runs[c].Relays.Select((_, r) => references[c][r] > 0.5)];
                pulled += stood[c].Count(s => s);
                held += runs[c].Held[move];
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{Sequences * Moves} moves, {figures} figures; largest difference {largest * 1e6:0.###} µV; "
                + $"relays in {pulled} times, {held} of them held below their pull-in"
        );
        Assert.True(pulled > 50 && held > 10, $"{pulled} in, {held} held: too little happened");
    }

    /// <summary>One machine and one sequence: figures here after each move, netlists for there.</summary>
    private sealed class Run
    {
        private const double PullIn = 7;
        private const double DropOut = 2.5;
        private const double KneeVolts = 0.55;

        private readonly List<string> lines = [];
        private readonly List<string[]> hands = [];

        public List<string> Relays { get; private init; } = [];

        public List<string> Expressions { get; } = [];

        /// <summary>After each move: relays in or out, then volts of nodes; not a number where only a leak holds a node.</summary>
        public List<double[]> Ours { get; } = [];

        public List<int> Held { get; } = [];

        /// <summary>
        /// Relays in a chain of feeds, each coil through a resistance that a switch of its own bridges: what it does
        /// depends on what went before. Diodes and loads hang between.
        /// </summary>
        public static Run Make(Random random, int relays)
        {
            var machine = new SmallMachine();
            var feeds = new List<string> { "key.A" };
            string Feed() => feeds[random.Next(feeds.Count)];
            for (var r = 0; r < relays; r++)
            {
                machine
                    .Part($"r{r}", "relay", "85", "86", "30", "87", "87a")
                    .Switch($"s{r}")
                    .Load($"drop{r}", "load", "ohms", 40 + (random.NextDouble() * 200));
                var coilFeed = Feed();
                machine.Wire(coilFeed, $"s{r}.1").Wire(coilFeed, $"drop{r}.+").Wire($"drop{r}.-", $"s{r}.2");
                machine.Wire($"s{r}.2", $"r{r}.86").Wire($"r{r}.85", "frame.bolt").Wire(Feed(), $"r{r}.30");
                foreach (var contact in new[] { "87", "87a" })
                {
                    var (load, diode) = ($"l{r}{contact}", $"d{r}{contact}");
                    machine
                        .Load(load, "load", "ohms", 5 + (random.NextDouble() * 500))
                        .Part(diode, "diode", "a", "k")
                        .Wire($"r{r}.{contact}", load + ".+")
                        .Wire(load + ".-", "frame.bolt")
                        .Wire($"r{r}.{contact}", diode + (random.Next(3) == 0 ? ".k" : ".a"));
                    machine.Load(load + "b", "load", "ohms", 20 + (random.NextDouble() * 500));
                    machine.Wire(load + "b.-", "frame.bolt");
                    var free = machine.IsWired(diode + ".a") ? diode + ".k" : diode + ".a";
                    machine.Wire(free, load + "b.+");
                    feeds.Add($"r{r}.{contact}");
                }
            }

            var circuit = machine.Compile();
            var settings = Enumerable
                .Range(0, Moves)
                .Select(_ =>
                    circuit.Setting(
                        circuit.Machine.Controls.ToDictionary(
                            c => c.Id,
                            c =>
                                random.Next(c.Id.Text == "key" ? 6 : 2) == 0
                                    ? new PositionId("OFF")
                                    : new PositionId("ON")
                        )
                    )
                )
                .ToList();
            var run = new Run
            {
                Relays = [.. circuit.Machine.Parts.Where(p => p.Kind == "relay").Select(p => p.Id.Text)],
            };
            var state = new CircuitState(circuit);
            state.Begin(circuit.NominalParameters());
            foreach (var setting in settings)
            {
                Assert.Equal(Settlement.Settled, state.Move(setting));
                run.Keep(state, setting);
            }

            run.Write(state);
            return run;
        }

        /// <summary>The netlist of a move, its hysteretic switches standing as they stood before.</summary>
        public string Netlist(int move, bool[] stood)
        {
            var text = new StringBuilder("* free running\n");
            text.AppendJoin('\n', lines).Append('\n').AppendJoin('\n', hands[move]).Append('\n');
            for (var r = 0; r < Relays.Count; r++)
            {
                var (armature, broken) = stood[r] ? ("on", "off") : ("off", "on");
                text.Append($"Sin{r} one p{r} x{r} 0 armature {armature}\n");
                text.Append($"Smade{r} c{r} m{r} p{r} 0 contact {armature}\n");
                text.Append($"Sbroken{r} c{r} b{r} one p{r} contact {broken}\n");
            }

            return text.ToString();
        }

        private void Keep(CircuitState state, ControlSetting setting)
        {
            var circuit = state.Circuit;
            bool In(string relay) => state.StateAt(circuit.StateOf(Texts.Part(relay))) == 1;
            var held = ReferenceComparison.Held(state);
            Ours.Add([
                .. Relays.Select(r => In(r) ? 1.0 : 0),
                .. Enumerable
                    .Range(0, circuit.Network.NodeCount)
                    .Where(n => n != circuit.Reference)
                    .Select(n => held[n] ? state.Drop(n, circuit.Reference) : double.NaN),
            ]);
            Held.Add(
                Relays.Count(r => In(r) && state.Drop(circuit.NodeOf(r + ".86"), circuit.NodeOf(r + ".85")) < PullIn)
            );
            hands.Add([
                .. circuit
                    .Machine.Parts.Where(p => p.Kind == "switch")
                    .Select(p => (p.Id, Contact: p.Contacts![0]))
                    .Where(p => setting.Named(circuit.Machine)[p.Contact.Control].Text == "ON")
                    .Select(p =>
                        $"Rhand{p.Id} {Node(circuit, p.Id.At(p.Contact.Between[0]).Text)} {Node(circuit, p.Id.At(p.Contact.Between[1]).Text)} 0.008"
                    ),
            ]);
        }

        private void Write(CircuitState state)
        {
            var circuit = state.Circuit;
            void Line(FormattableString line) => lines.Add(line.ToString(CultureInfo.InvariantCulture));
            var plain = circuit
                .BranchKeys.Select((key, index) => (name: key.Of.Text, index))
                .ToDictionary(b => b.name, b => b.index);
            foreach (var part in circuit.Machine.Parts)
            {
                string At(string terminal) => Node(circuit, part.At(terminal).Text);
                switch (part.Kind)
                {
                    case "relay":
                        // One hysteretic switch is the armature, worked by the volts across the coil; contacts follow it.
                        var r = Relays.IndexOf(part.Id.Text);
                        Line($"E{r} x{r} 0 {At("86")} {At("85")} 1");
                        Line($"Rin{r} p{r} 0 1k");
                        Line($"Vc{r} c{r} {At("30")} 0");
                        Line($"Vm{r} m{r} {At("87")} 0");
                        Line($"Vb{r} b{r} {At("87a")} 0");
                        Expressions.Add($"v(p{r})");
                        plain.Remove(part.Id + "/made");
                        plain.Remove(part.Id + "/broken");
                        break;
                    case "diode":
                        Line($"A{part.Id} {At("a")} {At("k")} knee");
                        plain.Remove(part.Id + "/short");
                        break;
                    case "switch":
                        plain.Remove($"{part.Id}/{part.Contacts![0].Id}");
                        break;
                }
            }

            foreach (var (name, index) in plain)
            {
                var branch = circuit.Network.Branches[index];
                var (from, to) = (
                    SpiceNetlist.NodeName(circuit, branch.From),
                    SpiceNetlist.NodeName(circuit, branch.To)
                );
                Line($"R{index} {from} {to} {1 / state.Conductances[index]:R} ; {name}");
            }

            Line($"Vbattery plus {Node(circuit, "battery.-")} {state.Emfs[0]:R}");
            Line($"Rbattery {Node(circuit, "battery.+")} plus {1 / state.SourceConductances[0]:R}");
            Line($"Vone one 0 1");
            Line($".model armature sw(vt={(PullIn + DropOut) / 2:R} vh={(PullIn - DropOut) / 2:R} ron=1m roff=1e12)");
            Line($".model contact sw(vt=0.5 vh=0.1 ron=0.006 roff=1e12)");
            Line($".model knee sidiode(ron=0.05 roff=1e9 vfwd={KneeVolts:R})");
            for (var n = 0; n < circuit.Network.NodeCount; n++)
            {
                if (n != circuit.Reference)
                {
                    Line($"Rfloat{n} {SpiceNetlist.NodeName(circuit, n)} 0 1e12");
                    Expressions.Add($"v({SpiceNetlist.NodeName(circuit, n)})");
                }
            }
        }

        private static string Node(Circuit circuit, string address) =>
            SpiceNetlist.NodeName(circuit, circuit.NodeOf(address));
    }
}
