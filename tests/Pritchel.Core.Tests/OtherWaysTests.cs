using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// What works one way and is dead another, by hand off the diagrams: the scooter's stop lamp has a contact on either lever, the launch's
/// buzzer is called by oil, coolant and the water at its seal, the quad cranks in neutral or with the clutch in, the mower stops by its
/// lever or its speed control, the outboard trims up and down by relays of their own, and the twin and the tractor run on where an interlock is
/// satisfied.
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
    // With the stand up or in neutral it may run: the stand's switch is what says the one, the neutral switch the other.
    [InlineData("ridge-twin-1", "goes-on-coil1-gear-1-stand-0", "stand-switch/up/open", true)]
    [InlineData("ridge-twin-1", "goes-on-coil1-stand-1-gear-0", "stand-switch/up/open", false)]
    // Seat and brake ground the kill lead in series: somebody on the seat opens it, unless it stays closed.
    [InlineData("orchard-tractor-4", "goes-on-magneto-brake-0-seat-1", "seat/kill/welded", true)]
    [InlineData("orchard-tractor-4", "goes-on-magneto-brake-0-seat-1", "seat/kill/open", false)]
    [InlineData("orchard-tractor-4", "goes-on-magneto-blades-1-seat-1", "seat/kill/welded", true)]
    [InlineData("orchard-tractor-4", "goes-on-magneto-blades-1-seat-1", "brake/kill/welded", false)]
    // Fed to stop: a relay that welded holds it stopped wherever the stop circuit has volts, an open coil stops nothing.
    [InlineData("terrace-dumper-1", "runs-stop", "stop-relay/welded", true)]
    [InlineData("terrace-dumper-1", "runs-stop", "stop/open", false)]
    [InlineData("harbour-launch-1", "runs-stop", "stop-relay/welded", true)]
    [InlineData("harbour-launch-1", "runs-stop", "stop-button/stop/welded", true)]
    [InlineData("harbour-launch-1", "runs-stop", "stop-relay/stuck", false)]
    public void Only_what_lies_on_that_way_gives_the_complaint(string machine, string duty, string fault, bool gives)
    {
        var kit = Shipped.Sketch(machine, duty);
        var planted = kit.Circuit.Faults.First(f => f.Id.Text == fault);
        var hidden = HiddenFault.Hide(kit.Table, planted, Meter.Ordinary, new Random(2));
        Assert.Equal(gives ? Heard.Nothing : null, hidden?.Complaint.Heard);
    }

    /// <summary>
    /// In gear with the clutch in it cranks against its own caution, which wants neutral, and with the blades on it runs against the other:
    /// that is said. By the scooter's other lever it does not, and somebody on the seat drives nothing.
    /// </summary>
    [Theory]
    [InlineData("hill-quad-2", "cranks-clutch-1", "gear")]
    [InlineData("ridge-twin-1", "cranks-clutch-1", "gear")]
    [InlineData("quay-scooter-3", "cranks-rear-1", "")]
    [InlineData("hill-quad-2", "cranks", "")]
    [InlineData("orchard-tractor-4", "goes-on-magneto-blades-1-seat-1", "blades")]
    [InlineData("orchard-zero-turn-7", "goes-on-magneto1-blades-1-seat-1", "blades")]
    [InlineData("ridge-twin-1", "goes-on-coil1-gear-1-stand-0", "gear")]
    [InlineData("ridge-twin-1", "sparks-coil1-fast", "")]
    public void What_turns_against_its_own_start_is_named(string machine, string duty, string against)
    {
        var circuit = Shipped.Circuit(machine);
        var found = Symptoms.Duty(circuit, new DutyId(duty));
        var runs = found.Speed is DutySpeed.Idle or DutySpeed.Work;
        var named = AgainstStart.Controls(circuit, circuit.Setting(found.Setting), runs).Select(c => c.Id.Text);
        Assert.Equal(against, string.Join(' ', named));
    }
}
