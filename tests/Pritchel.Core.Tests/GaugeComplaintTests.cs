using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

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

    /// <summary>
    /// A gauge of 90 ohms and a sender of 80 part the battery's volts: about six at the sender. None there is what lead or sender on metal
    /// shows, and no sound wiring with the needle against its stop.
    /// </summary>
    [Theory]
    [InlineData(0, false)]
    [InlineData(5.9, true)]
    public void A_sender_without_volts_is_not_sound_while_the_needle_is_pegged(double volts, bool agrees)
    {
        var kit = Shipped.Kit("terrace-dumper-1", "reads-fuel-gauge");
        var beliefs = Beliefs.Weigh(kit.Table, Shipped.Told(kit, Heard.TooMuch), Meter.Ordinary, []);
        var at = new ProbePair(0, kit.Circuit.NodeOf("fuel-sender.out"), kit.Circuit.NodeOf("battery.-"));
        Assert.Equal(agrees, Staircase.Agrees(beliefs, at, volts));
    }

    /// <summary>
    /// A lamp, a buzzer or a gauge is read with the key on or with the engine running, on every machine: nobody holds START for it, where a
    /// starter turns and volts sag.
    /// </summary>
    [Fact]
    public void Nobody_holds_START_to_read_an_alarm()
    {
        var looked = 0;
        foreach (var circuit in Shipped.Ids.Select(Shipped.Circuit))
        {
            foreach (var duty in Symptoms.Of(circuit).Select(s => s.Duty))
            {
                var tested = new TestedDuty(circuit, duty);
                if (tested.Effect is EffectKind.Glows or EffectKind.Sounds or EffectKind.Reads)
                {
                    looked++;
                    Assert.DoesNotContain(
                        ProcedureCatalogue.Conditions(tested).Skip(1),
                        c => c is { Observable: DirectVolts, Speed: DutySpeed.Rest, MayTurnEngine: true }
                    );
                }
            }
        }

        Assert.True(looked > 50);
    }
}
