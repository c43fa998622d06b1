using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>Machines that are built otherwise than drawn, read where the drawing puts the points.</summary>
public class DifferenceTests
{
    /// <summary>
    /// A battery at rest reads what a lead-acid one does, whatever was added or left out elsewhere, and what a charger holds it at where one
    /// was left on: 12.0 to 12.9 V, and 12.9 to 14 (BCI's table, from memory).
    /// </summary>
    [Theory]
    [InlineData(Difference.RelayExtra, 12, 12.9)]
    [InlineData(Difference.GroundExtra, 12, 12.9)]
    [InlineData(Difference.ChargerOn, 12.9, 14)]
    public void A_battery_reads_as_it_does_whatever_is_built_otherwise(Difference difference, double least, double most)
    {
        var kit = BeliefsTests.Kit;
        var hidden = new Evaluation(kit, World.Believed with { Differs = difference });
        var rest = kit
            .Table.Conditions.ToList()
            .FindIndex(c => c.Observable is DirectVolts && c.Words == "everything at rest");
        var at = new ProbePair(rest, kit.Circuit.NodeOf("battery.+"), kit.Circuit.NodeOf("battery.-"));
        var read = Enumerable
            .Range(0, 40)
            .Select(seed => hidden.Hide(seed))
            .OfType<HiddenFault>()
            .Where(h => !h.Faults.Any(f => f.Id.Of.Owner.Text == "battery"))
            .Take(5)
            .Select(h => h.Read(at).Value!.Value)
            .ToList();
        Assert.NotEmpty(read);
        Assert.All(read, volts => Assert.InRange(volts, least, most));
    }

    /// <summary>A switch that opens where it should close keeps the tractor from cranking, and the switch is what is at fault.</summary>
    [Fact]
    public void A_switch_of_the_wrong_kind_is_cured_by_that_switch_alone()
    {
        var kit = BeliefsTests.Kit;
        var hidden = HiddenFault.Misplace(
            kit.Table,
            Meter.Ordinary,
            new Random(3),
            World.Believed with
            {
                Differs = Difference.WrongKind,
            }
        )!;
        var cures = kit
            .Circuit.Faults.Select(f => f.Repair)
            .DistinctBy(r => r.Id)
            .Where(r => hidden.IsCuredBy(r.Id))
            .ToList();
        Assert.Contains(
            cures,
            c => hidden.Id.Of.Owner.Text == c.Id.Text.Replace("part:", "", StringComparison.Ordinal)
        );
        Assert.True(cures.Count < 4);
    }

    /// <summary>
    /// With a charger left on, the battery stands above any that is drawn, and so do tenths of a volt all over the machine: a charge
    /// lamp's lead on the block and two pins that touch were told apart by them at 98 %, and wrongly, far from both.
    /// </summary>
    [Fact]
    public void What_a_charger_adds_tells_nothing_apart_for_sure()
    {
        var kit = Shipped.Kit("sound-cruiser-2", "warns-p-charge-lamp");
        var evaluation = new Evaluation(kit, World.Believed with { Differs = Difference.ChargerOn });
        var hunts = Enumerable
            .Range(0, 4)
            .Append(40857197)
            .Select(seed => evaluation.Hunt(seed, new ByInformation()))
            .OfType<Hunt>()
            .ToList();
        Assert.NotEmpty(hunts);
        Assert.DoesNotContain(hunts, h => h is { Right: false, Verdict: not null, Share: > Certainty.MostUnproved });
    }
}
