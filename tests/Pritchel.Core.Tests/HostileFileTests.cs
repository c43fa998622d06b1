using System.Diagnostics;
using System.Text.Json.Nodes;
using CsCheck;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>Machine files cut about at random: read or refused, and if read, solved at rest and at speed within bounds.</summary>
public class HostileFileTests
{
    private const int TextMutations = 3000;
    private const int TreeMutations = 7000;
    private const long MostBytes = 100_000_000;
    private const double MostSeconds = 10;

    private static readonly string[] Files =
    [
        Shipped.Text("orchard-tractor-4"),
        .. Example.Names.Select(n => File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "examples", n + ".json"))),
    ];

    [Fact]
    public void Files_cut_about_as_text_are_read_or_refused()
    {
        var text = Files[0];
        Gen.Select(
                Gen.Int[0, text.Length - 1],
                Gen.Int[1, 40],
                Gen.OneOfConst("", "\"", "{", "]", "9", "null", "-1", "1e400", "\u0000", "x")
            )
            .Sample(
                (at, cut, with) =>
                {
                    Try(text[..at] + with + text[Math.Min(text.Length, at + cut)..], new Random(at));
                },
                iter: TextMutations
            );
    }

    [Fact]
    public void Files_changed_value_by_value_are_refused_or_solved_within_bounds()
    {
        var random = new Random(7000);
        var (read, slowest, largest) = (0, TimeSpan.Zero, 0L);
        for (var k = 0; k < TreeMutations; k++)
        {
            var file = JsonNode.Parse(Files[k % Files.Length])!;
            for (var changes = 1 + random.Next(2); changes > 0; changes--)
            {
                Change(file, random);
            }

            var (watch, before) = (Stopwatch.StartNew(), GC.GetAllocatedBytesForCurrentThread());
            read += Try(file.ToJsonString(), random) ? 1 : 0;
            slowest = watch.Elapsed > slowest ? watch.Elapsed : slowest;
            largest = Math.Max(largest, GC.GetAllocatedBytesForCurrentThread() - before);
            Assert.True(watch.Elapsed.TotalSeconds < MostSeconds, $"mutation {k} took {watch.Elapsed}");
            Assert.True(largest < MostBytes, $"mutation {k} allocated {largest} bytes");
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{TreeMutations} changed files, {read} still readable and solved; slowest {slowest.TotalMilliseconds:0} ms, most allocated {largest / 1e6:0.0} MB"
        );
        Assert.True(read > TreeMutations / 20, $"only {read} files were still readable: too little was tried");
    }

    /// <summary>A small file that unfolds to more than anybody draws is refused at once, and the place of it is named.</summary>
    [Theory]
    [InlineData("/controls", "at most 24 are allowed")]
    [InlineData("/controls", "at most 48 are allowed")]
    [InlineData("/mounts", "at most 400 are allowed")]
    [InlineData("/duties", "at most 40 are allowed")]
    [InlineData("/parts/0/terminals", "at most 120 are allowed")]
    [InlineData("/turningCautions", "at most 12 are allowed")]
    public void More_than_anybody_draws_is_refused_by_its_place(string place, string words)
    {
        var file = JsonNode.Parse(Files[0])!;
        JsonArray At(string name) => file[name]!.AsArray();
        JsonObject Control(int i, int positions) =>
            new()
            {
                ["id"] = $"c{i}",
                ["name"] = "knob",
                ["positions"] = new JsonArray([.. Enumerable.Range(0, positions).Select(p => (JsonNode)$"p{p}")]),
                ["rest"] = "p0",
                ["held"] = new JsonArray(),
            };
        void Repeat(JsonArray list, int count)
        {
            for (var i = list.Count; i < count; i++)
            {
                list.Add(list[0]!.DeepClone());
            }
        }

        switch (place, words.Contains("48", StringComparison.Ordinal))
        {
            case ("/controls", false):
                Enumerable.Range(0, 400).ToList().ForEach(i => At("controls").Add(Control(i, 12)));
                break;
            case ("/controls", true):
                Enumerable.Range(0, 5).ToList().ForEach(i => At("controls").Add(Control(i, 12)));
                break;
            case ("/parts/0/terminals", _):
                var terminals = At("parts")[0]!["terminals"]!.AsArray();
                Enumerable.Range(0, 200).ToList().ForEach(i => terminals.Add($"t{i}"));
                break;
            default:
                Repeat(At(place[1..]), 2000);
                break;
        }

        var watch = Stopwatch.StartNew();
        var reading = MachineFile.Read(file.ToJsonString());
        Assert.Null(reading.Machine);
        Assert.Contains(reading.Problems, p => p.Pointer == place && p.Message.Contains(words));
        Assert.True(watch.Elapsed.TotalSeconds < MostSeconds);
    }

    /// <summary>Reads a file and, if it is a machine, asks what it does with a fault at a speed. True when it is one.</summary>
    private static bool Try(string json, Random random)
    {
        var reading = MachineFile.Read(json);
        Assert.True((reading.Machine is null) == (reading.Problems.Count > 0));
        if (reading.Machine is not { } machine)
        {
            return false;
        }

        var circuit = Circuit.Compile(machine);
        var setting = circuit.Setting(
            machine.Controls.ToDictionary(c => c.Id, c => c.Positions[random.Next(c.Positions.Count)])
        );
        var rpm = new Rpm(random.Next(3) * 2000);
        var outcome = Outcome.Of(
            new Case
            {
                Circuit = circuit,
                Settings = [setting],
                Speeds = circuit.Engines.ToDictionary(e => e.Id, _ => rpm),
                Waited = new Seconds(random.Next(2) * 30),
                Faults =
                    circuit.Faults.Count == 0
                        ? []
                        : [new PlantedFault(circuit.Faults[random.Next(circuit.Faults.Count)], random.NextDouble())],
            }
        );
        Assert.All(outcome.BatteryVolts.Values, v => Assert.True(double.IsFinite(v)));
        Assert.All(outcome.Sparks, s => Assert.False(double.IsNaN(s.Level)));
        return true;
    }

    /// <summary>Changes one value somewhere: a number, a word taken from elsewhere in the file, an item dropped or doubled.</summary>
    private static void Change(JsonNode file, Random random)
    {
        var all = Descendants(file).Where(n => n.Parent is not null).ToList();
        var victim = all[random.Next(all.Count)];
        JsonNode? with = victim switch
        {
            JsonValue v when v.TryGetValue<double>(out var number) => (number, random.Next(5)) switch
            {
                (_, 0) => 0,
                (_, 1) => -number,
                (_, 2) => number * 1000,
                (_, 3) => number / 1000,
                _ => 1 + random.Next(10),
            },
            JsonValue => all[random.Next(all.Count)].DeepClone() is JsonValue other ? other : "x",
            _ => all[random.Next(all.Count)].DeepClone(),
        };
        switch (victim.Parent)
        {
            case JsonArray list:
                var at = list.IndexOf(victim);
                switch (random.Next(3))
                {
                    case 0:
                        list.RemoveAt(at);
                        break;
                    case 1:
                        list.Add(victim.DeepClone());
                        break;
                    default:
                        list[at] = with;
                        break;
                }

                break;
            case JsonObject record:
                record[victim.GetPropertyName()] = with;
                break;
        }
    }

    private static IEnumerable<JsonNode> Descendants(JsonNode node) =>
        (
            node switch
            {
                JsonObject record => record.Select(p => p.Value),
                JsonArray list => list,
                _ => [],
            }
        )
            .OfType<JsonNode>()
            .SelectMany(Descendants)
            .Prepend(node);
}
