using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What a proof says of the way that a setting is come to, and of a machine whose battery goes off while it runs.</summary>
public class ProofClaimsTests
{
    /// <summary>A wire from the starter's post back to the solenoid's coil: it feeds itself once the contacts have closed.</summary>
    [Fact]
    public void A_solenoid_that_holds_itself_in_is_found_though_no_setting_shows_it()
    {
        var machine = Shipped.Tractor.Machine;
        var held = Circuit.Compile(
            machine with
            {
                Wires =
                [
                    .. machine.Wires,
                    machine.Index.Wire(new WireId("8"))! with
                    {
                        Id = new WireId("loop"),
                        From = new WireEnd(TerminalAddress.Of("solenoid.M"), "ring"),
                        To = new WireEnd(TerminalAddress.Of("solenoid.S"), "push-on"),
                    },
                ],
            }
        );
        Assert.Contains(
            DesignProof.Of(held, Shipped.Tractor).Findings,
            f => f.Kind == FindingKind.Hazard && f.Words.StartsWith("The starter stays in", StringComparison.Ordinal)
        );
        Assert.DoesNotContain(
            DesignProof.Of(Shipped.Tractor, Shipped.Tractor).Findings,
            f => f.Words.StartsWith("The starter stays in", StringComparison.Ordinal)
        );
    }

    /// <summary>
    /// A magneto grounded by the key stops without a battery, and a tractor's fuel cut shuts by itself; a diesel that is stopped
    /// by a solenoid's pull goes on.
    /// </summary>
    [Theory]
    [InlineData("orchard-tractor-4", false)]
    [InlineData("hedgerow-mower-2", false)]
    [InlineData("tide-outboard-3", false)]
    [InlineData("terrace-dumper-1", true)]
    public void With_the_battery_off_what_is_stopped_by_a_feed_runs_on(string machine, bool runsOn)
    {
        var circuit = Shipped.Circuit(machine);
        var findings = DesignProof
            .Of(circuit, circuit)
            .Findings.Where(f => f.Words.StartsWith("With the battery off", StringComparison.Ordinal))
            .ToList();
        Assert.Equal(runsOn, findings.Count > 0);
        Assert.All(findings, f => Assert.Equal(FindingKind.Inherent, f.Kind));
    }
}
