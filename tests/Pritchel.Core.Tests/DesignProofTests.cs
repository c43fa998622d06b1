using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What a proof says of one machine beside another, and what its charging pays for.</summary>
public class DesignProofTests
{
    [Theory]
    [InlineData("orchard-tractor-4")]
    [InlineData("hedgerow-mower-2")]
    [InlineData("hill-quad-2")]
    [InlineData("quay-scooter-3")]
    [InlineData("tide-outboard-3")]
    [InlineData("terrace-dumper-1")]
    [InlineData("ridge-twin-1")]
    public void A_shipped_machine_compared_with_itself_has_no_new_hazard(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var proof = DesignProof.Of(circuit, circuit);
        Assert.DoesNotContain(proof.Findings, f => f.Kind == FindingKind.Hazard && f.Fault is not null);
        Assert.DoesNotContain(proof.Rows, r => r.CranksWrongly || r.RunsWrongly || r.IsLost);
    }

    /// <summary>Nothing taken away and nothing joined: the machine that a rewire makes is the machine that was.</summary>
    [Theory]
    [InlineData("hedgerow-mower-2")]
    [InlineData("terrace-dumper-1")]
    [InlineData("packhouse-generator-1")]
    [InlineData("quay-scooter-3")]
    public void A_rewire_of_nothing_changes_nothing(string id)
    {
        var machine = Shipped.Circuit(id).Machine;
        var whole = new RewirePlan(
            new RewireSide(SideKey.Host, machine, machine.Parts.Select(p => p.Id), []),
            null,
            []
        );
        var proof = DesignProof.Of(Circuit.Compile(Marriage.Of(whole).Machine), Shipped.Circuit(id));
        Assert.True(proof.IsSound, string.Join('\n', proof.Findings.Select(f => $"{f.Kind} {f.Words}")));
    }

    /// <summary>Drawn from nothing, what cannot work is told though no part of the file is missing.</summary>
    [Theory]
    [InlineData("11", "oil lamp works in no setting")]
    [InlineData("13", "Runs in no setting")]
    [InlineData("8", "Cranks in no setting")]
    public void What_can_do_nothing_is_told_without_anything_to_compare_with(string wire, string words)
    {
        var machine = Shipped.Tractor.Machine;
        var cut = machine with { Wires = [.. machine.Wires.Where(w => w.Id.Text != wire)], Duties = [] };
        var proof = DesignProof.Of(Circuit.Compile(cut), null);
        Assert.Contains(
            proof.Findings,
            f => f.Kind == FindingKind.Lost && f.Words.StartsWith(words, StringComparison.OrdinalIgnoreCase)
        );
        Assert.True(DesignProof.Of(Shipped.Tractor, null).IsSound);
    }

    /// <summary>An interlock more refuses what was allowed and is no loss; one less allows what was refused.</summary>
    [Fact]
    public void An_interlock_more_is_no_loss_and_one_less_is_a_hazard()
    {
        // Wires 6 and 7 joined past the brake switch, whose kill contact is taken out too.
        var machine = Shipped.Tractor.Machine;
        var past = new WireEnd(new PartId("past").At("x"), "splice");
        var less = machine with
        {
            Controls = [.. machine.Controls.Where(c => c.Id.Text != "brake")],
            Parts =
            [
                .. machine.Parts.Where(p => p.Id.Text != "brake"),
                machine.Index.Part(new PartId("SP2"))! with
                {
                    Id = new PartId("past"),
                },
            ],
            Wires =
            [
                .. machine
                    .Wires.Where(w => w.Id.Text is not ("32" or "33"))
                    .Select(w =>
                        w.Id.Text switch
                        {
                            "6" => w with { To = past },
                            "7" => w with { From = past },
                            _ => w,
                        }
                    ),
            ],
            Duties = [],
        };
        var (with, without) = (Shipped.Tractor, Circuit.Compile(less));
        Assert.Equal(
            [],
            DesignProof
                .Of(with, without)
                .Rows.Where(r => r.IsLost && r.Before!.Cranks && !r.After.Cranks)
                .SelectMany(r => r.Settings)
                .Select(x => x.Words(with.Machine))
        );
        Assert.Contains(
            DesignProof.Of(without, with).Findings,
            f =>
                f.Kind == FindingKind.Hazard
                && f.Words.StartsWith("Cranks where it did not before", StringComparison.Ordinal)
        );
    }

    /// <summary>
    /// Against the machine's own charging duty, and by hand: amps of a start for six seconds, over what comes in at 85 %.
    /// </summary>
    [Fact]
    public void A_start_is_paid_back_by_what_charges_and_lamps_cost_what_they_draw()
    {
        var budget = ChargeBudget.Of(Shipped.Tractor);
        var (least, most) = (budget.Lines[0], budget.Lines[1]);
        Assert.True(least.AtWork.Value > least.AtIdle.Value);
        Assert.True(most.AtWork.Value < least.AtWork.Value);
        Assert.Contains("LIGHTS", most.Setting.Words(Shipped.Tractor.Machine), StringComparison.Ordinal);

        var cranking = new CircuitState(Shipped.Tractor);
        cranking.Begin(Shipped.Tractor.NominalParameters());
        cranking.Move(Shipped.Setting(Shipped.Tractor, ("key", "START"), ("brake", "down")));
        var amps = -Outcome.Of(cranking, Settlement.Settled).Charges.Values.Sum();
        Assert.Equal(amps * 6 / 60 / (0.85 * least.AtWork.Value), budget.PaidBack!.Value.Value, 0.05);
        Assert.Empty(ChargeBudget.Of(Shipped.Circuit("hedgerow-mower-2")).Lines);
    }

    /// <summary>
    /// Feed and start lie side by side in P1, which is so before: moved to two other cavities they are a new danger there, though
    /// the machine knew one of its like.
    /// </summary>
    [Fact]
    public void A_danger_laid_somewhere_new_is_no_old_one()
    {
        static string Moved(string at) =>
            at.StartsWith("P1.", StringComparison.Ordinal)
                ? at[3..^1] switch
                {
                    "1" => "P1.9",
                    "9" => "P1.1",
                    "2" => "P1.10",
                    "10" => "P1.2",
                    var same => "P1." + same,
                } + at[^1]
                : at;
        static WireEnd End(WireEnd end) => end with { At = TerminalAddress.Of(Moved(end.At.Text)) };
        var machine = Shipped.Tractor.Machine;
        var moved = Circuit.Compile(
            machine with
            {
                Wires = [.. machine.Wires.Select(w => w with { From = End(w.From), To = End(w.To) })],
            }
        );
        Assert.Contains(
            DesignProof.Of(moved, Shipped.Tractor).Findings,
            f => f.Kind == FindingKind.Hazard && f.Fault?.Text == "P1/9-10-touching"
        );
    }
}
