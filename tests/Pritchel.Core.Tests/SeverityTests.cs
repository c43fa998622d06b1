using Pritchel.Core.Faults;

namespace Pritchel.Core.Tests;

/// <summary>The scale of severity runs from the mildest to the worst for every fault there is.</summary>
public class SeverityTests
{
    public static TheoryData<string> Machines => [.. Shipped.Ids];

    [Theory]
    [MemberData(nameof(Machines))]
    public void The_worst_is_further_from_sound_than_the_mildest(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var sound = circuit.NominalParameters();
        foreach (var fault in circuit.Faults.Where(f => f.Severity != Severity.Complete))
        {
            var (mild, bad) = (fault.Severity.At(0), fault.Severity.At(1));

            // What a fault lays between two pieces of metal is the worse the less ohms it has.
            Assert.All(fault.Paths, _ => Assert.True(bad < mild, fault.Id.Text));
            foreach (var change in fault.Changes.Where(c => c.Rule != ChangeRule.Set))
            {
                double Away(double severity) =>
                    change.Rule switch
                    {
                        ChangeRule.AddSeverity => severity,
                        ChangeRule.MultiplyBySeverity => Math.Abs(Math.Log(severity)),
                        // Not there at all on a sound machine: the fewer ohms it has, the more it does.
                        _ when sound[change.Parameter.Index] is 0 or double.PositiveInfinity => 1 / severity,
                        _ => Math.Abs(Math.Log(severity / sound[change.Parameter.Index])),
                    };
                Assert.True(Away(bad) > Away(mild), $"{fault.Id.Text}: {mild} to {bad}");
            }
        }
    }
}
