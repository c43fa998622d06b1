using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Plugs that can be mistaken for each other, and wires too thin for what comes over them, as a proof tells of them.</summary>
public class PlugExchangeTests
{
    /// <summary>Off the files by hand: couplings of as many cavities in one zone.</summary>
    [Theory]
    [InlineData("orchard-tractor-4", "P2-P4")]
    [InlineData("sound-cruiser-2", "p-P1-s-P1 p-P2-s-P2")]
    [InlineData("ridge-carrier-4", "P3-P4")]
    [InlineData("hill-quad-2", "")]
    public void Couplings_of_like_cavities_within_reach_are_pairs(string machine, string pairs) =>
        Assert.Equal(
            pairs,
            string.Join(
                ' ',
                PlugExchange.Of(Shipped.Circuit(machine).Machine).Select(x => $"{x.One.Id.Text}-{x.Other.Id.Text}")
            )
        );

    [Theory]
    [InlineData("orchard-tractor-4")]
    [InlineData("sound-cruiser-2")]
    public void Exchanged_twice_a_machine_is_what_it_was(string id)
    {
        var machine = Shipped.Circuit(id).Machine;
        foreach (var plugs in PlugExchange.Of(machine))
        {
            var once = plugs.In(machine);
            Assert.NotEqual(machine.Wires, once.Wires);
            Assert.Equal(machine.Wires, plugs.In(once).Wires);
        }
    }

    /// <summary>
    /// By hand, cruiser: each helm plug has its own engine's key behind it. Exchanged, port's key at START turns starboard's starter,
    /// port's own key being off as far as starboard's engine is told.
    /// </summary>
    [Fact]
    public void Helm_plugs_brought_together_are_a_hazard_and_were_there_before_are_inherent()
    {
        var cruiser = Shipped.Circuit("sound-cruiser-2");
        Assert.Equal(FindingKind.Inherent, Told(DesignProof.Of(cruiser, cruiser), "port helm plug and").Kind);
        var elsewhere = cruiser.Machine.Index.Part(new PartId("s-P1"))!.Place;
        var apart = Circuit.Compile(
            cruiser.Machine with
            {
                Parts = [.. cruiser.Machine.Parts.Select(p => p.Id.Text == "s-P2" ? p with { Place = elsewhere } : p)],
            }
        );
        var told = Told(DesignProof.Of(cruiser, apart), "port helm plug and");
        Assert.Equal(FindingKind.Hazard, told.Kind);
        Assert.Contains("Mark both halves", told.Words, StringComparison.Ordinal);
    }

    /// <summary>
    /// By hand, tractor: two lamps of 21 W at 12 volts draw three and a half amps over wire 46, which want a fuse of five. 20 AWG, 0.52
    /// mm², bears ten, 8.5 in an engine space; a fifth of a square millimetre in proportion 3.3.
    /// </summary>
    [Fact]
    public void A_wire_made_too_thin_for_its_amps_is_a_hazard()
    {
        var machine = Shipped.Tractor.Machine;
        var thin = Circuit.Compile(
            machine with
            {
                Wires = [.. machine.Wires.Select(w => w.Id.Text == "46" ? w with { Gauge = "0.2 mm2" } : w)],
            }
        );
        Assert.Equal(
            FindingKind.Hazard,
            Told(
                DesignProof.Of(thin, Shipped.Tractor),
                "Wire 46, from key switch L to coupling P1 cavity 10, dash side, 0.2 mm²"
            ).Kind
        );
        Assert.DoesNotContain(
            DesignProof.Of(Shipped.Tractor, Shipped.Tractor).Findings,
            f => f.Words.Contains("too thin", StringComparison.Ordinal)
        );
    }

    private static ProofFinding Told(DesignProof proof, string begins) =>
        Assert.Single(proof.Findings, f => f.Words.StartsWith(begins, StringComparison.OrdinalIgnoreCase));
}
