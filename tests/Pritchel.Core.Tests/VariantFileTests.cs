using System.Text.Json.Nodes;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines.Files;

namespace Pritchel.Core.Tests;

/// <summary>Machine files that hold only what differs from a parent.</summary>
public class VariantFileTests
{
    private const string Parent = "hedgerow-mower-2";

    public static TheoryData<string> Variants => [.. Shipped.Variants];

    [Theory]
    [MemberData(nameof(Variants))]
    public void A_variant_made_whole_is_a_machine_file_that_needs_no_parent(string id)
    {
        var variant = Shipped.Read(id);
        Assert.NotNull(variant.VariantOf);
        var text = MachineFile.Write(variant);
        Assert.Equal(text, MachineFile.Write(MachineFile.Read(text).Machine!));
    }

    [Fact]
    public void What_is_not_named_stays_the_parent_s()
    {
        var parent = Shipped.Read(Parent);
        var wire = parent.Wires[0];
        var variant = Read(
            $$"""
            {"parent": "{{Parent}}", "format": 1, "id": "other-mower", "name": "Other mower",
             "wires": [{"id": "{{wire.Id}}", "from": {"joint": "screw"}, "lengthM": 1.25}]}
            """
        ).Machine!;
        Assert.Equal(parent.Parts.Select(p => p.Id), variant.Parts.Select(p => p.Id));
        Assert.Equal(1.25, variant.Wires[0].LengthM);
        Assert.Equal(wire.From.At, variant.Wires[0].From.At);
        Assert.NotEqual(wire.From.Joint, variant.Wires[0].From.Joint);
        Assert.Equal(wire.To, variant.Wires[0].To);
        Assert.Equal(parent.Wires.Skip(1).Select(w => w.LengthM), variant.Wires.Skip(1).Select(w => w.LengthM));
    }

    [Theory]
    [InlineData("{\"parent\": \"no-such-machine\"}", "/parent", "no machine “no-such-machine”")]
    [InlineData("{\"parent\": 3}", "/parent", "as text")]
    [InlineData("{\"parent\": \"P\", \"without\": [\"1\"]}", "/without", "Name the lists")]
    [InlineData("{\"parent\": \"P\", \"without\": {\"bolts\": [\"1\"]}}", "/without/bolts", "places, engines")]
    [InlineData("{\"parent\": \"P\", \"without\": {\"wires\": [\"1\", \"999\"]}}", "/without/wires/1", "999")]
    [InlineData("{\"parent\": \"P\", \"without\": {\"wires\": [\"1\"]}}", "/", "Loose end")]
    [InlineData(
        "{\"parent\": \"P\", \"wires\": [{\"id\": \"1\", \"lengthM\": 900}]}",
        "/wires/0/lengthM",
        "0.02 to 100"
    )]
    [InlineData("{\"parent\": \"P\", \"wires\": [{\"id\": \"1\", \"lengthM\": \"far\"}]}", "/wires/0", "wrong type")]
    [InlineData("{\"parent\": \"P\", \"parts\": [{\"id\": \"ghost\"}]}", "/parts/0", "Missing")]
    [InlineData("{\"parent\": \"P\", \"wires\": [7]}", "/wires/0", "")]
    [InlineData("{\"parent\": \"P\", \"wires\": {\"id\": \"1\"}}", "/wires", "wrong type")]
    [InlineData("{\"parent\": \"P\", \"include\": \"x\"}", "/include", "not known")]
    [InlineData("{\"parent\": \"P\", \"name\": null}", "/name", "null")]
    public void A_wrong_difference_is_refused_at_its_own_place(string json, string pointer, string allowed)
    {
        var reading = Read(json.Replace("\"P\"", $"\"{Parent}\"", StringComparison.Ordinal));
        Assert.Null(reading.Machine);
        Assert.Contains(
            reading.Problems,
            p =>
                p.Pointer.StartsWith(pointer, StringComparison.Ordinal)
                && p.Message.Contains(allowed, StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Without_machines_to_look_in_no_variant_is_read() =>
        Assert.Equal(
            "/parent",
            Assert.Single(MachineFile.Read(JsonNode.Parse("{\"parent\": \"x\"}")!.ToJsonString()).Problems).Pointer
        );

    /// <summary>By hand: what the owner of that variant can say of it, and what its like cannot.</summary>
    [Theory]
    [InlineData("hill-quad-5", "Runs on with tether out (ignition coil)")]
    [InlineData("ridge-twin-3", "Runs on with in gear, stand down (left coil)")]
    [InlineData("orchard-tractor-6", "Electric blade clutch does not work")]
    [InlineData("orchard-tractor-6", "Electric blade clutch stays on")]
    [InlineData("orchard-tractor-6", "Runs on with brake up, off the seat (magneto)")]
    [InlineData("ridge-four-2", "Fuel pump does not work")]
    [InlineData("quay-scooter-5", "Runs on with kill at STOP (ignition coil)")]
    public void A_variant_can_be_complained_of_in_its_own_words(string id, string complaint) =>
        Assert.Contains(complaint, Symptoms.Of(Shipped.Circuit(id)).Select(s => s.Duty.Complaint));

    /// <summary>Sound ones of its kind, as they differ, do what they are for: at least four in five of those drawn.</summary>
    [Theory]
    [InlineData("harbour-launch-2", "cranks")]
    [InlineData("hill-quad-5", "sparks-coil")]
    [InlineData("ridge-four-2", "does-pump")]
    [InlineData("quay-scooter-5", "sparks-coil")]
    public void A_sound_variant_works_with_a_margin(string id, string duty)
    {
        var heard = Enumerable
            .Range(1, 8)
            .SelectMany(seed => Shipped.Sketch(id, duty, seed).Table.Healthy.HeardBy.ToArray())
            .ToList();
        var works = heard.Count(h => h == Heard.Works);
        Assert.True(works >= 0.8 * heard.Count, $"{works} of {heard.Count}");
    }

    [Theory]
    [InlineData("sound-cruiser-2")]
    [InlineData("sound-cruiser-3")]
    public void Opening_a_battery_switch_is_no_way_of_stopping(string id) =>
        Assert.DoesNotContain(
            Symptoms.Of(Shipped.Circuit(id)),
            s =>
                s.Duty.Id.Text.StartsWith("stops-", StringComparison.Ordinal)
                && s.Duty.Setting.ContainsKey(new ControlId("p-bank"))
        );

    private static MachineReading Read(string json) =>
        MachineFile.Read(json, id => Shipped.Ids.Contains(id) ? Shipped.Read(id) : null);
}
