using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What was told of a machine means the same when its drawing is renumbered and its controls are said otherwise.</summary>
public class RenumberedTests
{
    private static readonly Lazy<(DiagnosisKit Before, DiagnosisKit After)> Kits = new(() =>
    {
        var machine = Shipped.Read("orchard-tractor-4");
        var renumbered = machine with
        {
            Controls =
            [
                .. machine
                    .Controls.Reverse()
                    .Select(c =>
                        c with
                        {
                            Name = c.Name + " anew",
                            Says = c.Positions.ToDictionary(p => p, p => "at " + p),
                        }
                    ),
            ],
            Parts = [.. machine.Parts.Reverse()],
            Wires = [.. machine.Wires.Reverse()],
        };
        DiagnosisKit Sketch(Machine m) => DiagnosisKit.Sketch(Circuit.Compile(m), m.Duties[0], []);
        return (Sketch(machine), Sketch(renumbered));
    });

    [Fact]
    public void Every_test_that_was_taken_is_found_again_though_conditions_and_nodes_are_numbered_anew()
    {
        var (before, after) = Kits.Value;
        var moved = 0;
        foreach (var at in before.Plan.Allowed(new Diagnosis.Planning.Situation()).Take(400))
        {
            var told = before.Told(at);
            var found = after.Pair(told);
            Assert.NotNull(found);
            Assert.Equal(told.Condition, after.KeyOf(found.Value.Condition));
            moved += found.Value == at ? 0 : 1;
        }

        Assert.True(moved > 0, "nothing was numbered anew");
    }

    [Fact]
    public void Checks_of_a_proof_are_the_same_checks_whatever_they_are_called()
    {
        var (before, after) = Kits.Value;
        IEnumerable<CheckId> Checks(DiagnosisKit kit) =>
            ProofPlan.Of(kit.Table, new Complaint { Duty = new DutyId("cranks") }, [], []).Checks.Select(c => c.Id);
        Assert.Equal(Checks(before).ToHashSet(), Checks(after).ToHashSet());
    }

    /// <summary>Makers number wires and fuses alike.</summary>
    [Fact]
    public void A_wire_called_like_a_fuse_is_another_thing()
    {
        var machine = Shipped.Read("orchard-tractor-4");
        var alike = machine with
        {
            Wires = [.. machine.Wires.Select(w => w.Id.Text == "2" ? w with { Id = new WireId("fuse") } : w)],
        };
        Assert.Empty(Machines.Files.MachineValidator.Check(alike));
        var circuit = Circuit.Compile(alike);
        Assert.Equal(circuit.Faults.Count, Shipped.Tractor.Faults.Count);
        Assert.Equal(circuit.Faults.Count, circuit.Faults.Select(f => f.Id).Distinct().Count());
        var kit = DiagnosisKit.Build(circuit, alike.Duties[0], []);
        var beliefs = Diagnosis.Inference.Beliefs.Weigh(
            kit.Table,
            new Complaint { Duty = new DutyId("cranks"), Heard = Heard.Nothing },
            Metering.Meter.Ordinary,
            []
        );
        var named = beliefs.Suspects.Select(s => s.Id.Text).ToList();
        Assert.Contains("part:fuse", named);
        Assert.Contains("wire:fuse", named);
    }
}
