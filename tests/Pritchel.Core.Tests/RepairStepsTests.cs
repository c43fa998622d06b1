using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;

namespace Pritchel.Core.Tests;

/// <summary>Cautions fit the machine: a diesel has no plug lead to take off, and what ignites by sparks has.</summary>
public class RepairStepsTests
{
    public static TheoryData<RepairKind> Kinds => [.. Enum.GetValues<RepairKind>()];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void No_repair_of_a_diesel_speaks_of_a_plug_lead(RepairKind kind)
    {
        foreach (var wrong in new FaultKind?[] { null, FaultKind.Chafed, FaultKind.ShortedToNeighbour })
        {
            Assert.DoesNotContain(
                "plug lead",
                RepairSteps.For(kind, wrong, sparks: false).Caution,
                StringComparison.OrdinalIgnoreCase
            );
        }
    }

    [Theory]
    [InlineData(RepairKind.RenewWire, FaultKind.Chafed)]
    [InlineData(RepairKind.RenewWire, FaultKind.Open)]
    [InlineData(RepairKind.ReplacePart, FaultKind.StuckClosed)]
    [InlineData(RepairKind.CleanJoint, FaultKind.HighResistance)]
    public void What_sparks_has_its_plug_lead_off_before_it_turns(RepairKind kind, FaultKind wrong) =>
        Assert.Contains("Plug lead off", RepairSteps.For(kind, wrong, sparks: true).Caution, StringComparison.Ordinal);
}
