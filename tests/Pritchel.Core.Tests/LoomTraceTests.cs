using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring.Tracing;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Unknown looms drawn at random and traced with a beeper that errs as beepers do.</summary>
public class LoomTraceTests
{
    private const double FalseSilence = 0.03;
    private const double FalseBeep = 0.003;
    private static readonly string[] Colours = ["red", "black", "white", "yellow", "green", "brown", "blue", "violet"];

    /// <summary>A loom as it is, which nobody knows.</summary>
    private sealed class Hidden
    {
        public required Loom Loom { get; init; }
        public required int[] Net { get; init; }
        public List<(int One, int Other, double Ohms)> Parts { get; } = [];
        public List<(LoomSetting Setting, int One, int Other)> Closes { get; } = [];

        /// <summary>Ohms between two ends: none within a net, through parts the least of their sums, else infinite.</summary>
        public double Ohms(LoomQuestion asked)
        {
            var far = new Dictionary<int, double> { [Net[asked.One]] = 0 };
            for (var again = true; again; )
            {
                again = false;
                var links = Parts.Concat(
                    Closes.Where(c => c.Setting == asked.Setting).Select(c => (c.One, c.Other, 0.05))
                );
                foreach (
                    var (one, other, ohms) in links.SelectMany(l => new[] { l, (l.Item2, l.Item1, l.Item3) }).ToList()
                )
                {
                    if (
                        far.TryGetValue(one, out var here)
                        && here + ohms < far.GetValueOrDefault(other, double.PositiveInfinity)
                    )
                    {
                        (far[other], again) = (here + ohms, true);
                    }
                }
            }

            return far.GetValueOrDefault(Net[asked.Other], double.PositiveInfinity);
        }
    }

    private static Hidden Draw(Random random)
    {
        var ends = new List<LoomEnd>();
        var metres = new Dictionary<string, double>();
        var net = new List<int>();
        var plugs = random.Next(4, 7);
        for (var p = 0; p < plugs; p++)
        {
            metres[$"P{p + 1}"] = p == 0 ? 0 : 3 * random.NextDouble();
            var cavities = random.Next(4, 8);
            for (var c = 0; c < cavities; c++)
            {
                ends.Add(new LoomEnd($"P{p + 1}", $"{c + 1}", Colours[random.Next(Colours.Length)]));
                net.Add(-1);
            }
        }

        var nets = 0;
        int[] order = [.. Enumerable.Range(0, ends.Count)];
        random.Shuffle(order);
        for (var at = 0; at < order.Length; nets++)
        {
            // A lead to one other end, more often than not of its colour; some meet in splices; some go nowhere.
            var many = random.NextDouble() switch
            {
                < 0.12 => 1,
                < 0.8 => 2,
                < 0.93 => 3,
                _ => 4,
            };
            foreach (var end in order.Skip(at).Take(many))
            {
                net[end] = nets;
                if (random.NextDouble() < 0.7)
                {
                    ends[end] = ends[end] with { Colour = Colours[nets % Colours.Length] };
                }
            }

            at += many;
        }

        var controls = new List<LoomControl>();
        var hidden = new Hidden { Loom = new Loom(ends, controls, metres), Net = [.. net] };
        for (var k = 0; k < random.Next(0, 3); k++)
        {
            var plug = $"P{random.Next(plugs) + 1}";
            controls.Add(new LoomControl($"switch {k + 1}", ["OFF", "ON", "START"], plug));
            int[] own = [.. Enumerable.Range(0, ends.Count).Where(e => ends[e].Plug == plug)];
            for (var position = 1; position < 3; position++)
            {
                var (one, other) = (net[own[random.Next(own.Length)]], net[own[random.Next(own.Length)]]);
                if (one != other)
                {
                    hidden.Closes.Add((new LoomSetting(k, position), one, other));
                }
            }
        }

        for (var k = 0; k < random.Next(1, 4); k++)
        {
            var (one, other) = (random.Next(nets), random.Next(nets));
            if (one != other)
            {
                hidden.Parts.Add((one, other, 1.5 + (30 * random.NextDouble())));
            }
        }

        return hidden;
    }

    private static LoomAnswer Read(Hidden hidden, LoomQuestion asked, Random random)
    {
        var ohms = hidden.Ohms(asked);
        var silent = double.IsInfinity(ohms) ? random.NextDouble() >= FalseBeep : random.NextDouble() < FalseSilence;
        return new LoomAnswer(
            asked,
            silent ? double.PositiveInfinity
                : double.IsInfinity(ohms) ? 0.3
                : ohms + (0.2 * random.NextDouble())
        );
    }

    /// <summary>
    /// Sixty looms of 16 to 42 ends: ends whose copper is told rightly or honestly left open in 98 of 100, wrongly in under 1; in
    /// fewer minutes than every pair read once.
    /// </summary>
    [Fact]
    public void Random_looms_are_recovered_or_honestly_unknown()
    {
        const int Looms = 60;
        var (right, open, wrong, contacts, contactsFound, contactsWrong) = (0, 0, 0, 0, 0, 0);
        var (minutes, every, questions) = (0.0, 0.0, 0);
        for (var k = 0; k < Looms; k++)
        {
            var random = new Random(100 + k);
            var hidden = Draw(random);
            var (trace, answers) = Trace(hidden, random);
            var ends = hidden.Loom.Ends.Count;
            for (var e = 0; e < ends; e++)
            {
                var net = trace.Nets[trace.NetOf(e)];
                var same = Enumerable.Range(0, ends).Where(o => hidden.Net[o] == hidden.Net[e]);
                _ =
                    net.Ends.Order().SequenceEqual(same) ? right++
                    : !net.IsSure ? open++
                    : wrong++;
            }

            foreach (var (setting, one, other) in hidden.Closes)
            {
                contacts++;
                contactsFound += trace.Contacts.Any(c =>
                    c.Setting == setting
                    && c.Closes
                    && new[] { hidden.Net[c.One], hidden.Net[c.Other] }
                        .Order()
                        .SequenceEqual(new[] { one, other }.Order())
                )
                    ? 1
                    : 0;
            }

            contactsWrong += trace.Contacts.Count(c =>
                hidden.Ohms(new LoomQuestion(c.Setting, c.One, c.Other)) is var ohms
                && (c.Closes ? !(ohms < 1) : ohms < 1)
            );
            minutes += trace.Minutes;
            every += EveryPair(hidden);
            questions += answers;
        }

        var all = right + open + wrong;
        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{Looms} looms, {all} ends: right {right}, open {open}, wrong {wrong}; contacts {contactsFound} of {contacts}, false {contactsWrong}; {questions / Looms} readings, {minutes / Looms:0.0} min against {every / Looms:0.0} for every pair once"
        );
        Assert.True(
            right + open >= 0.98 * all && wrong < 0.01 * all,
            $"{right} right, {open} open, {wrong} wrong of {all}"
        );
        Assert.True(right > 0.95 * all, $"{right} of {all}");
        Assert.True(contactsFound >= 0.93 * contacts, $"{contactsFound} of {contacts} contacts");
        Assert.True(contactsWrong <= 0.05 * contacts, $"{contactsWrong} false contacts");
        Assert.True(minutes < every, $"{minutes} against {every} minutes");
    }

    /// <summary>By hand: four ends; a wire from P1 1 to P2 1, and P1 2 to P2 2 through a coil of 4 ohm.</summary>
    [Fact]
    public void A_coil_left_in_is_a_part_and_no_wire()
    {
        var loom = new Loom(
            [new("P1", "1", ""), new("P1", "2", ""), new("P2", "1", ""), new("P2", "2", "")],
            [],
            new Dictionary<string, double>()
        );
        var trace = new LoomTrace(
            loom,
            [
                new LoomAnswer(new LoomQuestion(LoomSetting.Rest, 0, 2), 0.2),
                new LoomAnswer(new LoomQuestion(LoomSetting.Rest, 0, 2), 0.2),
                new LoomAnswer(new LoomQuestion(LoomSetting.Rest, 1, 3), 4),
            ]
        );
        Assert.Equal(trace.NetOf(0), trace.NetOf(2));
        Assert.NotEqual(trace.NetOf(1), trace.NetOf(3));
        var part = Assert.Single(trace.Parts);
        Assert.Equal(4, part.Ohms);
    }

    [Fact]
    public void A_silence_inside_a_piece_of_copper_is_asked_again()
    {
        var loom = new Loom(
            [new("P1", "1", ""), new("P2", "1", ""), new("P3", "1", "")],
            [],
            new Dictionary<string, double>()
        );
        LoomAnswer At(int one, int other, double ohms) => new(new LoomQuestion(LoomSetting.Rest, one, other), ohms);
        LoomAnswer[] read =
        [
            At(0, 1, 0.1),
            At(0, 1, 0.1),
            At(1, 2, 0.1),
            At(1, 2, 0.1),
            At(0, 2, double.PositiveInfinity),
        ];
        Assert.Equal(new LoomQuestion(LoomSetting.Rest, 0, 2), new LoomTrace(loom, read).Again);
        Assert.Null(new LoomTrace(loom, [.. read, At(0, 2, 0.1)]).Again);

        // A beep that alone joins two ends is heard twice before it is believed; one that does not come again joins nothing.
        Assert.Equal(new LoomQuestion(LoomSetting.Rest, 0, 1), new LoomTrace(loom, [At(0, 1, 0.1)]).Again);
        var once = new LoomTrace(loom, [At(0, 1, 0.1), At(0, 1, double.PositiveInfinity)]);
        Assert.NotEqual(once.NetOf(0), once.NetOf(1));
    }

    /// <summary>What is traced is a machine: its drawing lacks only what no beeper tells, and its copper conducts as was read.</summary>
    [Fact]
    public void A_traced_loom_is_a_machine_that_conducts_as_it_was_read()
    {
        for (var k = 0; k < 6; k++)
        {
            var random = new Random(300 + k);
            var hidden = Draw(random);
            var (trace, _) = Trace(hidden, random);
            var machine = LoomMachine.Of(
                new MachineId("loom-1"),
                "traced",
                hidden.Loom,
                trace,
                new Dictionary<int, string> { [0] = "start solenoid, S" }
            );
            Assert.DoesNotContain(MachineValidator.Check(machine), p => !p.Unfinished);
            var battery = new Part
            {
                Id = new PartId("battery"),
                Name = "battery",
                Kind = "battery",
                Place = machine.Places[0].Id,
                Terminals = [TerminalId.Of("+"), TerminalId.Of("-")],
            };
            var circuit = Circuit.Compile(machine with { Parts = [.. machine.Parts, battery] });
            var metal = Enumerable
                .Range(0, hidden.Loom.Ends.Count)
                .Select(e => circuit.Topology.MetalOf([Node(e)]))
                .ToList();
            int Node(int end)
            {
                var plug = machine.Parts.First(p =>
                    p.Kind == "coupling" && p.Name.Split(" (")[0] == hidden.Loom.Ends[end].Plug
                );
                return circuit.NodeOf(plug.At(hidden.Loom.Ends[end].Cavity + "a"));
            }

            for (var i = 0; i < hidden.Loom.Ends.Count; i++)
            {
                for (var j = 0; j < i; j++)
                {
                    Assert.Equal(trace.NetOf(i) == trace.NetOf(j), metal[i].Contains(Node(j)));
                }
            }
        }
    }

    [Theory]
    [InlineData("P1 red, black", "", "is not a plug")]
    [InlineData("P1: red", "", "1 leads in all; 2 to 60")]
    [InlineData("P1: red, black\nP1: white", "", "each plug once")]
    [InlineData("P1 90 m: red, black", "", "0 to 50 m")]
    [InlineData("P1: red, black", "key: OFF, RUN", "is not a switch")]
    [InlineData("P1: red, black", "key behind P7: OFF, RUN", "is not among the plugs; allowed: P1")]
    [InlineData("P1: red, black", "key behind P1: OFF", "the position at rest first")]
    public void A_list_that_is_none_is_refused_with_its_line(string plugs, string switches, string says)
    {
        Assert.Null(LoomText.Read(plugs, switches, out var error));
        Assert.Contains(says, error, StringComparison.Ordinal);
    }

    /// <summary>Order does not matter: what was read, shuffled, comes to the same copper.</summary>
    [Fact]
    public void Answers_may_come_in_any_order()
    {
        var random = new Random(5);
        var hidden = Draw(random);
        var answers = new List<LoomAnswer>();
        for (var k = 0; k < 120; k++)
        {
            var (one, other) = (random.Next(hidden.Loom.Ends.Count), random.Next(hidden.Loom.Ends.Count));
            if (one != other)
            {
                answers.Add(Read(hidden, new LoomQuestion(LoomSetting.Rest, one, other), random));
            }
        }

        var trace = new LoomTrace(hidden.Loom, answers);
        LoomAnswer[] shuffled = [.. answers];
        random.Shuffle(shuffled);
        var again = new LoomTrace(hidden.Loom, shuffled);
        Assert.Equal(
            trace.Nets.Select(n => string.Join(',', n.Ends)),
            again.Nets.Select(n => string.Join(',', n.Ends))
        );
        for (var n = 0; n < trace.Nets.Count; n++)
        {
            Assert.Equal(trace.Nets[n].Open, again.Nets[n].Open, 9);
        }
    }

    private static (LoomTrace Trace, int Answers) Trace(Hidden hidden, Random random)
    {
        const int Most = 2500;
        var answers = new List<LoomAnswer>();
        var trace = new LoomTrace(hidden.Loom, answers);
        while (trace.Next is { } asked && answers.Count < Most)
        {
            answers.Add(Read(hidden, asked, random));
            trace = new LoomTrace(hidden.Loom, answers);
        }

        return (trace, answers.Count);
    }

    /// <summary>Every pair once, one clip left and the rest swept, and again in every position of every switch at its plug.</summary>
    private static double EveryPair(Hidden hidden)
    {
        var (minutes, last) = (0.0, (LoomQuestion?)null);
        var trace = new LoomTrace(hidden.Loom, []);
        void Ask(LoomQuestion question)
        {
            minutes += trace.Cost(last, question);
            last = question;
        }

        for (var i = 0; i < hidden.Loom.Ends.Count; i++)
        {
            for (var j = i + 1; j < hidden.Loom.Ends.Count; j++)
            {
                Ask(new LoomQuestion(LoomSetting.Rest, i, j));
            }
        }

        foreach (var (control, c) in hidden.Loom.Controls.Select((x, i) => (x, i)))
        {
            int[] own =
            [
                .. Enumerable.Range(0, hidden.Loom.Ends.Count).Where(e => hidden.Loom.Ends[e].Plug == control.Plug),
            ];
            for (var p = 1; p < control.Positions.Count; p++)
            {
                for (var i = 0; i < own.Length; i++)
                {
                    for (var j = i + 1; j < own.Length; j++)
                    {
                        Ask(new LoomQuestion(new LoomSetting(c, p), own[i], own[j]));
                    }
                }
            }
        }

        return minutes;
    }

    /// <summary>A line that is made to match in ever more ways is refused as any other that is no plug.</summary>
    [Fact]
    public void A_line_of_spaces_without_end_is_refused_in_words()
    {
        var endless = "P1" + new string(' ', 100_000) + "x";
        Assert.Null(LoomText.Read(endless, "", out var plugs));
        Assert.StartsWith("Plugs:", plugs, StringComparison.Ordinal);
        Assert.Null(LoomText.Read("P1: red, black\nP2: red, black", "key behind" + endless, out var switches));
        Assert.StartsWith("Switches:", switches, StringComparison.Ordinal);
        Assert.All([plugs, switches], said => Assert.InRange(said.Length, 20, 250));
    }
}
