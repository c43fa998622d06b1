using Pritchel.Core.Machines;

namespace Pritchel.Core.Tests;

/// <summary>Finding a wire or a terminal again by what is seen on the metal.</summary>
public class MachineSearchTests
{
    private static List<MachineHit> Find(string id, string asked) =>
        [.. MachineSearch.Find(Shipped.Circuit(id).Machine, asked)];

    [Fact]
    public void A_terminal_is_found_by_its_part_and_letter() =>
        Assert.Contains(Find("orchard-zero-turn-7", "key S"), h => h.At?.Text == "key.S");

    [Fact]
    public void Wires_are_found_by_colour_and_tracer_and_no_others()
    {
        var hits = Find("harbour-launch-1", "yellow/red");
        var wires = Shipped.Circuit("harbour-launch-1").Machine.Wires.Where(w => w.Colours is ["yellow", "red"]);
        Assert.Equal(wires.Select(w => w.Id.Text).Order(), hits.Select(h => h.Wire?.Text).Order());
    }

    [Fact]
    public void A_kind_finds_its_machine_only()
    {
        var found = Shipped.Ids.Where(id => Find(id, "outboard").Any(h => h is { Wire: null, At: null })).ToList();
        Assert.Equal(["tide-outboard-3"], found);
    }

    [Theory]
    [InlineData("")]
    [InlineData("   ")]
    [InlineData("zebra crossing")]
    [InlineData("key zebra")]
    public void Nothing_asked_or_nothing_that_matches_finds_nothing(string asked) =>
        Assert.Empty(Find("orchard-tractor-4", asked));
}
