using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;

namespace Pritchel.Core.Tests;

/// <summary>
/// What works one way and is dead another, by hand off the diagrams: the scooter's stop lamp has a contact on either lever, the launch's
/// buzzer is called by oil, coolant and the water at its seal.
/// </summary>
public class OtherWaysTests
{
    [Theory]
    [InlineData("quay-scooter-3", "does-stop-lamp-rear-1", "rear-lever/made/open", true)]
    [InlineData("quay-scooter-3", "does-stop-lamp-rear-1", "front-lever/made/open", false)]
    [InlineData("quay-scooter-3", "does-stop-lamp-rear-1", "stop-lamp/open", true)]
    [InlineData("harbour-launch-1", "does-buzzer-water-1", "seal-switch/wet/open", true)]
    [InlineData("harbour-launch-1", "does-buzzer-water-1", "temp-switch/hot/open", false)]
    public void Only_what_lies_on_that_way_gives_the_complaint(string machine, string duty, string fault, bool gives)
    {
        var kit = Shipped.Kit(machine, duty);
        var planted = kit.Circuit.Faults.First(f => f.Id.Text == fault);
        var hidden = HiddenFault.Hide(kit.Table, planted, Meter.Ordinary, new Random(2));
        Assert.Equal(gives ? Heard.Nothing : null, hidden?.Complaint.Heard);
    }
}
