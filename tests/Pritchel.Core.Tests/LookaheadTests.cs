using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>Looking ahead when few suspects are left.</summary>
public class LookaheadTests
{
    private static readonly Lazy<DiagnosisKit> Mower = new(() =>
        Shipped.Kit("hedgerow-mower-2", "stops-magneto-lever-0")
    );

    /// <summary>
    /// The mower runs on with its lever let go, and through the plug at the shroud the coil reads as it should: three
    /// quarters of what is left lies at the flywheel brake, nine minutes of shroud away, or shows there. Whoever goes to the
    /// speed control first, two minutes away, has to take the shroud off in three cases of four all the same.
    /// </summary>
    [Fact]
    public void The_shroud_comes_off_before_a_quicker_reading_that_would_seldom_spare_it()
    {
        var kit = Mower.Value;
        var coil = new Reading(
            PairOf(kit, "P1.1a", "P1.2a"),
            Texts.Reads(Quantity.Ohms).Scaled(0.8),
            SymptomNow.Present
        );
        var complaint = new Complaint
        {
            Duty = kit.Table.Duty.Id,
            Heard = Heard.Nothing,
            Failed = 3,
            Tried = 3,
        };
        var beliefs = Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, [coil]);
        var situation = kit.Plan.After(new Situation(), coil.At);
        var next = kit.Plan.Best(beliefs, situation, 1)[0];
        Assert.Contains(kit.Plan.Places(next.At), p => p.Id.Text == "brake");
        Assert.True(next.WantedAnyway.Value > 3, $"{next.WantedAnyway} of it wanted anyway");
    }

    /// <summary>Places are opened, controls set and engines made safe once.</summary>
    [Fact]
    public void What_is_open_and_set_already_is_not_paid_for_twice()
    {
        var kit = Mower.Value;
        foreach (var at in kit.Plan.Allowed(new Situation()))
        {
            var (fresh, again) = (
                kit.Plan.Cost(at, new Situation()),
                kit.Plan.Cost(at, kit.Plan.After(new Situation(), at))
            );
            var reaching = kit.Plan.Places(at).Sum(p => p.Minutes);
            Assert.True(again.Value <= fresh.Value - reaching + 1e-9, $"{again} after {fresh}");
            Assert.True(again.Value > 0);
        }
    }

    private static ProbePair PairOf(DiagnosisKit kit, string red, string black) =>
        kit
            .Plan.Allowed(new Situation())
            .First(p =>
                kit.Table.Conditions[p.Condition].Observable.Key == Quantity.Ohms
                && p.Red == kit.Circuit.NodeOf(red)
                && p.Black == kit.Circuit.NodeOf(black)
            );
}
