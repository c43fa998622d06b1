using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;

namespace Pritchel.Core.Tests;

/// <summary>Differences between versions, told so that an owner can check them against what was done.</summary>
public class MachineDifferenceTests
{
    private static readonly Machine Before = Shipped.Read("orchard-zero-turn-7");

    [Fact]
    public void A_machine_does_not_differ_from_itself() => Assert.Empty(MachineDifference.Between(Before, Before));

    [Fact]
    public void Recoloured_regauged_lengthened_added_and_taken_out_are_each_told_once()
    {
        var after = Before with
        {
            Name = "Orchard zero-turn No. 8",
            Wires =
            [
                .. Before
                    .Wires.Where(w => w.Id.Text != "28")
                    .Select(w =>
                        w.Id.Text switch
                        {
                            "12" => w with { Colours = ["violet"] },
                            "14" => w with { Gauge = "1.5 mm2", LengthM = 0.9 },
                            "20" => w with { From = w.From with { Joint = "screw" } },
                            _ => w,
                        }
                    ),
                Before.Wires[0] with
                {
                    Id = new WireId("900"),
                },
            ],
            Parts = [.. Before.Parts.Select(p => p.Id.Text == "fuse" ? p with { Place = new PlaceId("battery") } : p)],
        };
        var said = MachineDifference.Between(Before, after);
        Assert.Equal(8, said.Count);
        Assert.Contains("name: Orchard zero-turn No. 7 → Orchard zero-turn No. 8", said);
        Assert.Contains("part fuse: place pod → battery", said);
        Assert.Contains("wire 12: colours violet/white → violet", said);
        Assert.Contains("wire 14: gauge 1 mm2 → 1.5 mm2", said);
        Assert.Contains(said, s => s.StartsWith("wire 14: lengthM ", StringComparison.Ordinal));
        Assert.Contains(said, s => s.StartsWith("wire 20: from joint ", StringComparison.Ordinal));
        Assert.Contains(said, s => s.StartsWith("wire 28 taken out: black, hours.-", StringComparison.Ordinal));
        Assert.Contains(said, s => s.StartsWith("wire 900 added: ", StringComparison.Ordinal));
    }
}
