using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// What works one way and is dead another, by hand off the diagrams: the scooter's stop lamp has a contact on either lever, the launch's
/// buzzer is called by oil, coolant and the water at its seal, the quad cranks in neutral or with the clutch in, the mower stops by its
/// lever or its speed control, and the outboard trims up and down by relays of their own.
/// </summary>
public class OtherWaysTests
{
    [Theory]
    [InlineData("quay-scooter-3", "does-stop-lamp-rear-1", "rear-lever/made/open", true)]
    [InlineData("quay-scooter-3", "does-stop-lamp-rear-1", "front-lever/made/open", false)]
    [InlineData("quay-scooter-3", "does-stop-lamp-rear-1", "stop-lamp/open", true)]
    [InlineData("hill-quad-2", "cranks-clutch-1", "clutch-switch/in/open", true)]
    [InlineData("hill-quad-2", "cranks-clutch-1", "neutral/neutral/open", false)]
    [InlineData("hedgerow-mower-2", "stops-magneto-speed-0", "speed-stop/stop/open", true)]
    [InlineData("hedgerow-mower-2", "stops-magneto-speed-0", "brake-switch/stop/open", false)]
    [InlineData("tide-outboard-3", "does-trim-motor-trim-2", "trim/down/open", true)]
    [InlineData("tide-outboard-3", "does-trim-motor-trim-2", "trim/up/open", false)]
    [InlineData("harbour-launch-1", "does-buzzer-water-1", "seal-switch/wet/open", true)]
    [InlineData("harbour-launch-1", "does-buzzer-water-1", "temp-switch/hot/open", false)]
    public void Only_what_lies_on_that_way_gives_the_complaint(string machine, string duty, string fault, bool gives)
    {
        var kit = Shipped.Kit(machine, duty);
        var planted = kit.Circuit.Faults.First(f => f.Id.Text == fault);
        var hidden = HiddenFault.Hide(kit.Table, planted, Meter.Ordinary, new Random(2));
        Assert.Equal(gives ? Heard.Nothing : null, hidden?.Complaint.Heard);
    }

    /// <summary>In gear with the clutch in it cranks against its own caution, which wants neutral: that is said. By the other lever it does not.</summary>
    [Theory]
    [InlineData("hill-quad-2", "cranks-clutch-1", "gear")]
    [InlineData("ridge-twin-1", "cranks-clutch-1", "gear")]
    [InlineData("quay-scooter-3", "cranks-rear-1", "")]
    [InlineData("hill-quad-2", "cranks", "")]
    public void What_it_is_cranked_against_is_named(string machine, string duty, string against)
    {
        var circuit = Shipped.Circuit(machine);
        var found = Symptoms.Duty(circuit, new DutyId(duty)).Setting;
        var named = CrankedOtherwise.Of(circuit, circuit.Setting(found)).Select(c => c.Id.Text);
        Assert.Equal(against, string.Join(' ', named));
    }
}
