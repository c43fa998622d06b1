using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What guards a machine's wires from its batteries, against lengths and wires read off the machine files by hand.</summary>
public class FeedGuardsTests
{
    /// <summary>Metres of the one wire between the battery, or a cranking cable's stud, and each fuse nearest to it.</summary>
    [Theory]
    [InlineData("orchard-tractor-4", "fuse", 0.25, FusePlace.InSheath)]
    [InlineData("orchard-zero-turn-7", "fuse", 0.9, FusePlace.InSheath)]
    [InlineData("quay-scooter-3", "fuse", 0.15, FusePlace.Near)]
    [InlineData("ridge-twin-1", "main-fuse", 0.12, FusePlace.Near)]
    [InlineData("terrace-dumper-1", "main-fuse", 0.5, FusePlace.InSheath)]
    [InlineData("tide-outboard-3", "trim-fuse", 0.25, FusePlace.InSheath)]
    [InlineData("harbour-launch-1", "cabin-breaker", 1.6, FusePlace.FromBatteryPost)]
    public void A_fuse_sits_so_far_from_what_feeds_it(string machine, string fuse, double metres, FusePlace place)
    {
        var found = FeedGuards.Of(Shipped.Circuit(machine)).Fuses.Single(f => f.Part.Id.Text == fuse);
        Assert.Equal(metres, found.Before!.Value.Value, 3);
        Assert.Equal(place, found.Place);
    }

    /// <summary>
    /// A lamp fuse behind the key and its fuse guards the lamps' wires, of which 52 to the tail lamp is the thinnest, and not 27
    /// of the neutral lamp, as thin, that the key feeds before it.
    /// </summary>
    [Fact]
    public void A_fuse_behind_another_guards_what_is_behind_it_alone()
    {
        var fuse = FeedGuards.Of(Shipped.Circuit("hill-quad-2")).Fuses.Single(f => f.Part.Id.Text == "fuse2");
        Assert.Null(fuse.Before);
        Assert.Equal("52", fuse.Thinnest!.Id.Text);
    }

    /// <summary>The carrier's regulator alone hangs on its battery without a fuse; everything else is behind one.</summary>
    [Fact]
    public void One_wire_of_all_shipped_machines_is_fed_past_every_fuse()
    {
        var unfused = Shipped
            .Ids.SelectMany(id =>
                FeedGuards.Of(Shipped.Circuit(id)).Unfused.SelectMany(u => u.Wires.Select(w => (id, w.Id.Text)))
            )
            .ToList();
        Assert.Equal([("ridge-carrier-4", "75")], unfused);
    }

    /// <summary>The tractor's key wire put on the fuse's feed side: hazard, with the wires and what they feed.</summary>
    [Fact]
    public void A_feed_led_past_its_fuse_is_a_new_hazard()
    {
        var machine = Shipped.Tractor.Machine;
        var past = Circuit.Compile(
            machine with
            {
                Wires =
                [
                    .. machine.Wires.Select(w =>
                        w.Id.Text == "2" ? w with { From = w.From with { At = TerminalAddress.Of("fuse.1") } } : w
                    ),
                ],
            }
        );
        var finding = DesignProof
            .Of(past, Shipped.Tractor)
            .Findings.First(f => f.Words.StartsWith("No fuse between", StringComparison.Ordinal));
        Assert.Equal(FindingKind.Hazard, finding.Kind);
        Assert.Contains("key", finding.Words, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain(
            DesignProof.Of(Shipped.Tractor, Shipped.Tractor).Findings,
            f => f.Words.StartsWith("No fuse", StringComparison.Ordinal)
        );
    }

    /// <summary>0.75 mm² bears 10 A; half as much again is 15 A: 15 A guards it, 20 A does not (ABYC E-11, from memory).</summary>
    [Theory]
    [InlineData(15, false)]
    [InlineData(20, true)]
    public void A_fuse_is_too_large_for_the_thinnest_wire_behind_it(double amps, bool tooLarge)
    {
        var machine = Shipped.Tractor.Machine;
        var fused = Circuit.Compile(
            machine with
            {
                Parts =
                [
                    .. machine.Parts.Select(p =>
                        p.Id.Text == "fuse"
                            ? p with
                            {
                                Values = new Dictionary<string, double> { ["ratingAmps"] = amps },
                            }
                            : p
                    ),
                ],
            }
        );
        var fuse = FeedGuards.Of(fused).Fuses.Single(f => f.Part.Id.Text == "fuse");
        Assert.Equal("0.75 mm2", fuse.Thinnest!.Gauge);
        Assert.Equal(tooLarge, fuse.IsTooLarge);
    }
}
