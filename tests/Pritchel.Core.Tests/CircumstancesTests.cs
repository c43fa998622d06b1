using Pritchel.Core.Faults;

namespace Pritchel.Core.Tests;

/// <summary>What a machine has lived through changes which faults are likely.</summary>
public class CircumstancesTests
{
    private static readonly Circumstances Usual = Circumstances.Usual;

    [Theory]
    [InlineData("P1/1/resistive", "salt damp vibration age")]
    [InlineData("7/open", "vibration rodents recent age")]
    [InlineData("7/chafed", "vibration rodents recent")]
    [InlineData("7/damp", "salt damp age")]
    [InlineData("P1/unplugged", "recent vibration")]
    [InlineData("battery/weak", "age")]
    public void Each_fault_is_weak_to_what_causes_it_and_to_nothing_else(string faultId, string causes)
    {
        var fault = Shipped.Tractor.Faults.Single(f => f.Id.Text == faultId);
        foreach (
            var (name, life) in new (string, Circumstances)[]
            {
                ("salt", Usual with { Salt = true }),
                ("damp", Usual with { Damp = true }),
                ("vibration", Usual with { Vibration = true }),
                ("rodents", Usual with { Rodents = true }),
                ("recent", Usual with { RecentWork = true }),
                ("age", Usual with { Years = 30 }),
            }
        )
        {
            var likelier = fault.RateUnder(life) > fault.RateUnder(Usual);
            Assert.True(likelier == causes.Split(' ').Contains(name), $"{faultId} under {name}");
        }
    }

    [Fact]
    public void Every_fault_of_every_machine_has_a_rate_and_a_cause()
    {
        var hard = new Circumstances(30, Salt: true, Damp: true, Vibration: true, Rodents: true, RecentWork: true);
        foreach (
            var fault in Example.Names.SelectMany(n => Example.Of(n).Circuit.Faults).Concat(Shipped.Tractor.Faults)
        )
        {
            Assert.True(fault.Rate > 0, fault.Id.Text);
            Assert.True(fault.RateUnder(hard) > fault.Rate, fault.Id.Text);
            Assert.Equal(fault.Rate, fault.RateUnder(Usual));
        }
    }
}
