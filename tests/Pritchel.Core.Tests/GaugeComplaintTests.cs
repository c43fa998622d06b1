using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>
/// What a needle does, by hand off the dumper's diagram: key, gauge, P2 cavity 9, a sender of 80 ohms, ground. Less of a sender's ohms
/// move it further: none puts it against its stop, and an open lead lets it rest.
/// </summary>
public class GaugeComplaintTests
{
    [Theory]
    [InlineData("fuel-sender/open", Heard.Nothing)]
    [InlineData("54/open", Heard.Nothing)]
    [InlineData("fuel-gauge/open", Heard.Nothing)]
    [InlineData("54/chafed", Heard.TooMuch)]
    [InlineData("55/chafed", Heard.TooMuch)]
    public void A_lead_that_is_open_lets_the_needle_rest_and_one_on_metal_pegs_it(string fault, Heard heard)
    {
        var kit = Shipped.Kit("terrace-dumper-1", "reads-fuel-gauge");
        var planted = kit.Circuit.Faults.First(f => f.Id.Text == fault);
        var hidden = HiddenFault.Hide(kit.Table, planted, Meter.Ordinary, new Random(1));
        Assert.Equal(heard, hidden!.Complaint.Heard);
    }

    /// <summary>A key contact, a feed or a ground that is gone leaves it at rest as well: all of them are doubted of a dead gauge.</summary>
    [Fact]
    public void What_feeds_it_and_what_grounds_it_are_doubted_beside_the_gauge()
    {
        var kit = Shipped.Kit("terrace-dumper-1", "reads-fuel-gauge");
        var doubted = kit.Table.Hypotheses.Where(h => h is { Fault: not null, HasPredictions: true }).ToList();
        foreach (var owner in new[] { "fuel-gauge", "fuel-sender", "key", "53", "54", "55", "56" })
        {
            Assert.Contains(doubted, h => h.Fault!.Id.Of.Owner.Text == owner);
        }
    }
}
