using System.Text.Json.Nodes;
using Json.Schema;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

public class MachineFileTests
{
    private const string Tractor = "orchard-tractor-4";

    [Theory]
    [MemberData(nameof(MachineTruthTests.Machines), MemberType = typeof(MachineTruthTests))]
    public void Shipped_machines_meet_their_schema_and_come_back_to_the_byte(string id)
    {
        // A variant's own file has a schema of its own; what it becomes is a machine file like any other.
        var isVariant = Shipped.Variants.Contains(id);
        var text = isVariant ? MachineFile.Write(Shipped.Read(id)) : Shipped.Text(id);
        Assert.Equal(text, MachineFile.Write(Shipped.Read(id)));
        if (isVariant)
        {
            Assert.True(SchemaOf("variant.schema.json").Evaluate(JsonNode.Parse(Shipped.Text(id))).IsValid);
        }

        Assert.True(SchemaOf("machine.schema.json").Evaluate(JsonNode.Parse(text)).IsValid);
    }

    private static JsonSchema SchemaOf(string file) =>
        JsonSchema.FromText(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", file)));

    [Fact]
    public void Thirteen_machines_ship_each_with_its_own_way_of_being_stopped_by_hand()
    {
        var machines = Shipped.Ids.Select(Shipped.Read).ToList();
        Assert.Equal(13, machines.Count);
        Assert.Equal(13, machines.Select(m => m.Kind).Distinct().Count());
        Assert.Equal(13, machines.Select(m => m.StopByHand).Distinct().Count());
        Assert.All(
            machines,
            m =>
                Assert.Contains("maker’s diagram comes first", m.MayDiffer.Replace('\'', '’'), StringComparison.Ordinal)
        );

        // Twenty-five parts and joints at least; the walk-behind, with the fewest wires of all, included.
        Assert.All(machines, m => Assert.True(m.Parts.Count + (2 * m.Wires.Count) + m.Mounts.Count >= 25, m.Id.Text));
    }

    [Fact]
    public void Schema_and_program_know_the_same_kinds_joints_and_colours()
    {
        var schema = JsonNode.Parse(
            File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", "machine.schema.json"))
        )!;
        Assert.Equal(
            DeviceKinds.All.Select(k => k.Name).Order(),
            Names(schema["properties"]!["parts"]!["items"]!["properties"]!["kind"]!["enum"]!).Order()
        );
        Assert.Equal(
            JointKinds.All.Select(k => k.Name).Order(),
            Names(schema["$defs"]!["end"]!["properties"]!["joint"]!["enum"]!).Order()
        );
        Assert.Equal(
            WireColours.Names.Order(),
            Names(schema["properties"]!["wires"]!["items"]!["properties"]!["colours"]!["items"]!["enum"]!).Order()
        );
    }

    [Theory]
    [InlineData("/parts/2/contacts/0/control", "\"throttle\"", "/parts/2/contacts/0/control", "control")]
    [InlineData(
        "/parts/2/contacts/0/closedIn/0",
        "\"HALF\"",
        "/parts/2/contacts/0/closedIn/0",
        "OFF, RUN, LIGHTS, START"
    )]
    [InlineData("/wires/6/to/at", "\"nowhere.1\"", "/wires/6/to/at", "part.terminal")]
    [InlineData("/wires/6/gauge", "\"thick\"", "/wires/6/gauge", "14 AWG")]
    [InlineData("/wires/6/lengthM", "-1", "/wires/6/lengthM", "0.02 to 100")]
    [InlineData("/wires/6/lengthM", "\"long\"", "/wires/6/lengthM", "wrong type")]
    [InlineData("/wires/6/colours", "[\"mauve\"]", "/wires/6/colours", "violet")]
    [InlineData("/wires/6/id", "\"7\"", "/wires/", "twice")]
    [InlineData("/parts/0/kind", "\"reactor\"", "/parts/0/kind", "battery")]
    [InlineData("/parts/0/values/coldCrankingAmps", "1e9", "/parts/0/values/coldCrankingAmps", "50 to 1500")]
    [InlineData("/format", "2", "/format", "newer")]
    [InlineData("/name", "\"\"", "/name", "1 to 400")]
    [InlineData("/include", "\"other-machine.json\"", "/include", "not known")]
    [InlineData("/name", "null", "/name", "null")]
    public void A_wrong_file_is_refused_with_its_place_and_what_is_allowed(
        string at,
        string value,
        string pointer,
        string allowed
    )
    {
        var reading = MachineFile.Read(With(at, value));
        Assert.Null(reading.Machine);
        Assert.Contains(
            reading.Problems,
            p =>
                p.Pointer.StartsWith(pointer, StringComparison.Ordinal)
                && p.Message.Contains(allowed, StringComparison.Ordinal)
        );
    }

    [Fact]
    public void A_loose_end_is_found_on_both_kinds()
    {
        var file = JsonNode.Parse(Shipped.Text(Tractor))!;
        var wires = file["wires"]!.AsArray();
        wires.Remove(wires.First(w => w!["id"]!.GetValue<string>() == "8"));
        var problems = MachineFile.Read(file.ToJsonString()).Problems;
        Assert.Contains(
            problems,
            p =>
                p.Message.Contains("P2", StringComparison.Ordinal)
                && p.Message.Contains("Loose end", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void A_file_of_five_megabytes_is_refused_before_it_is_parsed()
    {
        using var stream = new MemoryStream(new byte[5 * 1024 * 1024]);
        var problem = Assert.Single(MachineFile.Read(stream).Problems);
        Assert.Contains("2 MB", problem.Message, StringComparison.Ordinal);
    }

    private static string With(string pointer, string value)
    {
        var file = JsonNode.Parse(Shipped.Text(Tractor))!;
        var steps = pointer.Split('/')[1..];
        var node = file;
        foreach (var step in steps[..^1])
        {
            node = node is JsonArray array
                ? array[int.Parse(step, System.Globalization.CultureInfo.InvariantCulture)]!
                : node[step]!;
        }

        if (node is JsonArray list)
        {
            list[int.Parse(steps[^1], System.Globalization.CultureInfo.InvariantCulture)] = JsonNode.Parse(value);
        }
        else
        {
            node[steps[^1]] = JsonNode.Parse(value);
        }

        return file.ToJsonString();
    }

    private static IEnumerable<string> Names(JsonNode list) => list.AsArray().Select(n => n!.GetValue<string>());
}
