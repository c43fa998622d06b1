using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>
/// What jump leads tell, by hand off the tractor's diagram: C1 and C3 are the battery's cables, wire 4 is in the start line, C2 goes to the
/// starter.
/// </summary>
public class JumpStartTests
{
    private static DiagnosisKit Kit => BeliefsTests.Kit;

    private static readonly Lazy<DutyTries> OnLeads = new(() => JumpStart.Tries(Kit.Circuit, Kit.Table.Duty, []));

    private static double Turns(string fault) =>
        OnLeads.Value.Of(true, Kit.Circuit.Faults.First(f => f.Id.Text == fault));

    [Theory]
    [InlineData("battery/weak")]
    [InlineData("battery/flat")]
    [InlineData("battery/open")]
    public void A_second_battery_stands_in_for_the_first(string fault) => Assert.InRange(Turns(fault), 0.9, 1);

    [Theory]
    [InlineData("4/open")]
    [InlineData("fuse/blown")]
    [InlineData("C1/open")]
    [InlineData("C2@to/joint/open")]
    [InlineData("solenoid/coil-open")]
    public void Nothing_behind_the_posts_is_mended_by_it(string fault) => Assert.InRange(Turns(fault), 0, 0.1);

    /// <summary>Nobody says whether the clamps bit on the post or on the cable, or the black one on the block.</summary>
    [Theory]
    [InlineData("C1@from/joint/open")]
    [InlineData("C3@from/joint/open")]
    [InlineData("C3/open")]
    [InlineData("C4/open")]
    public void A_joint_at_the_posts_and_the_way_to_the_block_are_bridged_in_half(string fault) =>
        Assert.InRange(Turns(fault), 0.4, 0.6);

    /// <summary>A click, and it turns on the leads: the battery, its joints or its ground cable; the starter is as good as cleared.</summary>
    [Fact]
    public void What_turns_on_the_leads_is_the_batterys()
    {
        var none = Share(null, "part:battery", "part:starter", "part:solenoid");
        var turned = Share(true, "part:battery", "part:starter", "part:solenoid");
        Assert.True(turned[0] > 1.3 * none[0], $"battery {none[0]:0.000} then {turned[0]:0.000}");
        Assert.InRange(turned[1], 0, 0.2 * none[1]);
        Assert.InRange(turned[2], 0, 0.2 * none[2]);
    }

    /// <summary>Leads that bite badly do nothing for anybody: that it was the same with them makes the battery less likely and clears it not.</summary>
    [Fact]
    public void What_does_the_same_on_the_leads_is_less_the_batterys_and_clears_nothing()
    {
        var none = Share(null, "part:battery", "part:starter")!;
        var same = Share(false, "part:battery", "part:starter");
        Assert.InRange(same[0], 0.1 * none[0], 0.7 * none[0]);
        Assert.True(same[1] > 1.2 * none[1], $"starter {none[1]:0.000} then {same[1]:0.000}");
    }

    [Fact]
    public void Only_a_starter_that_should_turn_is_jumped()
    {
        var circuit = Shipped.Kit("hill-quad-2", "cranks").Circuit;
        bool Is(string duty) => JumpStart.IsFor(circuit, Symptoms.Duty(circuit, new(duty)));
        Assert.True(Is("cranks"));
        Assert.False(Is("not-starter"));
        Assert.False(Is("charges-battery"));
    }

    private static double[] Share(bool? turned, params string[] repairs)
    {
        var told = Shipped.Told(Kit) with { Heard = Heard.OneClick, JumpStarted = turned };
        var side = new SideEvidence([], turned is { } works ? [OtherDuty.OnJumpLeads(works, OnLeads.Value)] : []);
        var beliefs = Beliefs.Weigh(Kit.Table, told, Meter.Ordinary, [], side);
        return [.. repairs.Select(r => beliefs.Suspects.First(s => s.Repair?.Id.Text == r).Share)];
    }
}
