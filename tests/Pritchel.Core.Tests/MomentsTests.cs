using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>Complaints of a moment: after key-off, with the engine running, when hot or wet; and what is told with them.</summary>
public class MomentsTests
{
    /// <summary>
    /// By hand: the dumper's timer feeds its stop relay after key-off and the relay its solenoid. What is in that line can keep
    /// it running; the glow plugs and the start relay cannot.
    /// </summary>
    [Fact]
    public void A_diesel_that_does_not_stop_at_key_off_is_put_down_to_its_stop_line()
    {
        var beliefs = Told("terrace-dumper-1", "stops-stop", Heard.Nothing);
        string[] line = ["timer", "stop-relay", "stop", "stop-fuse", "key"];
        foreach (var part in line)
        {
            Assert.True(ShareOf(beliefs, part) > 0.01, $"{part}: {ShareOf(beliefs, part):P2}");
        }

        Assert.True(ShareOf(beliefs, "start-relay") < 0.002);
        Assert.True(ShareOf(beliefs, "plug1") < 0.002);
        // In a mechanic's order the stop relay comes first: common practice, no source.
        Assert.Equal("stop-relay", beliefs.Suspects[0].Likeliest?.Id.Text.Split('/')[0]);
    }

    /// <summary>
    /// By hand: what charges too much is the regulator, or what it senses by; a stator open or a blown fuse charges too little.
    /// </summary>
    [Theory]
    [InlineData("hill-quad-2", "charges-battery", "regulator", "stator")]
    [InlineData("terrace-dumper-1", "charges-battery", "alternator", "charge-lamp")]
    public void Overcharging_is_put_down_to_what_regulates(string machine, string duty, string guilty, string innocent)
    {
        var beliefs = Told(machine, duty, Heard.TooMuch);
        Assert.Equal(guilty, beliefs.Suspects[0].Likeliest?.Id.Text.Split('/')[0]);
        Assert.True(ShareOf(beliefs, innocent) < 0.02);
    }

    /// <summary>By hand: lit with the engine running, its lead lies on metal or its switch is closed; its bulb is sound.</summary>
    [Fact]
    public void An_oil_lamp_lit_with_the_engine_running_is_its_switch_or_a_lead_on_metal()
    {
        var beliefs = Told("orchard-tractor-4", "warns-oil-lamp", Heard.Nothing);
        Assert.True(ShareOf(beliefs, "oil-switch") > 0.1);
        Assert.True(ShareOf(beliefs, "20") + ShareOf(beliefs, "21") + ShareOf(beliefs, "22") > 0.1);
        Assert.True(ShareOf(beliefs, "oil-lamp") < 0.05);
    }

    /// <summary>A warning that tells of what is felt is never put aside as designed.</summary>
    [Fact]
    public void An_alarm_told_with_a_hot_engine_may_be_telling_the_truth()
    {
        var circuit = Shipped.Circuit("harbour-launch-1");
        var duty = Symptoms.Duty(circuit, new DutyId("warns-buzzer"));
        var hot = circuit
            .Setting(duty.Setting)
            .With(circuit.Machine.Controls.ToList().FindIndex(c => c.Id.Text == "coolant"), 1);
        var check = DesignCheck.Of(circuit, duty, hot);
        Assert.True(check is { AsDesigned: true, MayBeTrue: true });
        Assert.False(DesignCheck.Of(circuit, duty, circuit.Setting(duty.Setting)).AsDesigned);
    }

    [Fact]
    public void What_is_told_of_hot_wet_and_shaken_raises_what_answers_to_it_and_alone_never_decides()
    {
        Beliefs Quad(params WorseWhen[] when) =>
            Told("hill-quad-2", "sparks-coil", Heard.Nothing, c => c with { WorseWhen = when, Failed = 2, Tried = 5 });
        var plain = Quad();
        var (hot, wet, shaken) = (Quad(WorseWhen.Hot), Quad(WorseWhen.Wet), Quad(WorseWhen.Shaken));
        Assert.True(ShareOf(hot, "cdi") > ShareOf(plain, "cdi"));
        Assert.True(KindOf(wet, FaultKind.ShortedToNeighbour) > KindOf(plain, FaultKind.ShortedToNeighbour));
        Assert.True(ShareOf(shaken, "cdi") < ShareOf(hot, "cdi"));
        Assert.All([hot, wet, shaken], b => Assert.True(b.Suspects[0].Share < 0.6));
    }

    [Fact]
    public void Where_the_wiring_is_new_and_never_worked_wrong_assembly_leads()
    {
        static double ByHand(Beliefs beliefs) =>
            beliefs
                .Suspects.Where(s => s.Likeliest is { } f && f.Weakness.HasFlag(Weakness.RecentWork))
                .Sum(s => s.Share);
        var usual = Told("orchard-tractor-4", "cranks", Heard.Nothing);
        var fresh = Told(
            "orchard-tractor-4",
            "cranks",
            Heard.Nothing,
            c => c with { Circumstances = new Circumstances(0, NewWiring: true) }
        );
        Assert.True(ByHand(fresh) > Math.Max(0.4, 2 * ByHand(usual)), $"{ByHand(usual):P0} → {ByHand(fresh):P0}");
    }

    private static Beliefs Told(string machine, string duty, Heard heard, Func<Complaint, Complaint>? also = null)
    {
        var kit = Shipped.Kit(machine, duty);
        var complaint = new Complaint
        {
            Duty = new DutyId(duty),
            Heard = heard,
            Failed = 3,
            Tried = 3,
        };
        return Beliefs.Weigh(kit.Table, also?.Invoke(complaint) ?? complaint, Meter.Ordinary, []);
    }

    private static double ShareOf(Beliefs beliefs, string owner) =>
        beliefs
            .Table.Hypotheses.Index()
            .Where(h => h.Item.Fault?.Id.Text.Split('/')[0] == owner)
            .Sum(h => beliefs.Share(h.Index));

    private static double KindOf(Beliefs beliefs, FaultKind kind) =>
        beliefs.Table.Hypotheses.Index().Where(h => h.Item.Fault?.Kind == kind).Sum(h => beliefs.Share(h.Index));
}
