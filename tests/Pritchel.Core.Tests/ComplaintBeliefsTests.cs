using System.Collections.Concurrent;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;

namespace Pritchel.Core.Tests;

/// <summary>Properties that beliefs must have for every complaint and quantity, whatever was read.</summary>
public class ComplaintBeliefsTests
{
    public static TheoryData<string, string> Complaints =>
        new()
        {
            { "hedgerow-mower-2", "sparks-magneto" },
            { "hedgerow-mower-2", "stops-magneto-lever-0" },
            { "run-stand-1", "cranks" },
            { "run-stand-1", "runs-fuel-cut" },
            { "packhouse-generator-1", "stops-magneto-oil-1" },
        };

    [Theory]
    [MemberData(nameof(Complaints))]
    public void Shares_sum_to_one_and_stay_finite_whatever_is_read(string machine, string duty)
    {
        var kit = Kit(machine, duty);
        var random = new Random(77);
        var readings = new List<Reading>();
        for (var r = 0; r < 12; r++)
        {
            var beliefs = Weigh(kit, readings);
            Assert.Equal(1, beliefs.Suspects.Sum(s => s.Share), 1e-9);
            Assert.All(beliefs.Suspects, s => Assert.True(double.IsFinite(s.Share) && s.Share >= 0));
            Assert.All(
                kit.Plan.Best(beliefs, new Situation(), 5),
                t => Assert.True(double.IsFinite(t.Rate) && t.Minutes.Value > 0)
            );
            readings.Add(Anything(kit, random));
        }
    }

    [Theory]
    [MemberData(nameof(Complaints))]
    public void Readings_count_alike_in_any_order(string machine, string duty)
    {
        var kit = Kit(machine, duty);
        var random = new Random(78);
        var readings = Enumerable.Range(0, 6).Select(_ => Anything(kit, random)).ToList();
        var (forth, back) = (Weigh(kit, readings), Weigh(kit, [.. Enumerable.Reverse(readings)]));
        foreach (var suspect in forth.Suspects)
        {
            Assert.Equal(suspect.Share, back.Suspects.Single(s => s.Id == suspect.Id).Share, 1e-9);
        }
    }

    [Theory]
    [MemberData(nameof(Complaints))]
    public void A_reading_taken_back_leaves_exactly_what_was(string machine, string duty)
    {
        var kit = Kit(machine, duty);
        var random = new Random(79);
        List<Reading> before = [Anything(kit, random), Anything(kit, random)];
        var was = Weigh(kit, before).Suspects.Select(s => (s.Id, s.Share)).ToList();
        _ = Weigh(kit, [.. before, Anything(kit, random)]);
        Assert.Equal(was, Weigh(kit, before).Suspects.Select(s => (s.Id, s.Share)));
    }

    [Theory]
    [MemberData(nameof(Complaints))]
    public void Every_test_on_offer_can_be_told_and_found_again(string machine, string duty)
    {
        // What is written in the record names no number of a condition or node.
        var kit = Kit(machine, duty);
        foreach (var at in kit.Plan.Allowed(new Situation()).Where((_, i) => i % 7 == 0))
        {
            Assert.Equal(at, kit.Pair(kit.Told(at)));
        }
    }

    [Fact]
    public void A_kill_wire_read_silent_behind_its_plug_clears_what_lies_before_it()
    {
        // The mower runs on. The stop wire, off at the coil, beeps to ground at the splice: all beyond it is whole, so the
        // break lies between coil and splice: wires 1 and 2, or cavity 1 of the plug between them.
        var kit = Kit("hedgerow-mower-2", "stops-magneto-lever-0");
        var off = kit
            .Table.Conditions.ToList()
            .FindIndex(c =>
                c.Observable.Key == Quantity.Ohms
                && c.Off.Count == 1
                && c.Words.StartsWith("kill wire off at the coil · everything", StringComparison.Ordinal)
            );
        var (splice, block) = (kit.Circuit.NodeOf("SP1.x"), kit.Circuit.NodeOf("magneto.case"));
        var beliefs = Weigh(
            kit,
            [
                new Reading(
                    new ProbePair(off, splice, block),
                    Texts.Reads(Quantity.Ohms).Scaled(0.05),
                    SymptomNow.Present
                ),
            ]
        );
        Assert.True(
            beliefs.Suspects.Where(s => s.Id.Text is "wire:1" or "wire:2" or "cavity:P1/1").Sum(s => s.Share) > 0.8
        );
        Assert.True(beliefs.Suspects.Single(s => s.Id.Text == "part:brake-switch").Share < 0.02);
    }

    [Fact]
    public void Circumstances_move_the_first_suspicion()
    {
        // Rodents chew insulation: chafes gain on everything else before anything is read.
        var kit = Kit("hedgerow-mower-2", "sparks-magneto");
        double Chafed(Complaint complaint) =>
            Enumerable
                .Range(0, kit.Table.Hypotheses.Count)
                .Where(h => kit.Table.Hypotheses[h].Fault?.Kind == Faults.FaultKind.Chafed)
                .Sum(Beliefs.Weigh(kit.Table, complaint, Meter.Ordinary, []).Share);
        var usual = Told(kit);
        Assert.True(Chafed(usual with { Circumstances = new(Rodents: true) }) > 2 * Chafed(usual));
    }

    private static DiagnosisKit Kit(string machine, string duty) => Shipped.Kit(machine, duty);

    private static Complaint Told(DiagnosisKit kit) =>
        new()
        {
            Duty = kit.Table.Duty.Id,
            Heard = Heard.Nothing,
            Failed = 3,
            Tried = 3,
        };

    private static Beliefs Weigh(DiagnosisKit kit, IReadOnlyList<Reading> readings) =>
        Beliefs.Weigh(kit.Table, Told(kit), Meter.Ordinary, readings);

    /// <summary>Any allowed test with any figure on the scale, sometimes one that jumps.</summary>
    private static Reading Anything(DiagnosisKit kit, Random random)
    {
        var allowed = kit.Plan.Allowed(new Situation()).ToArray();
        var at = allowed[random.Next(allowed.Length)];
        return new Reading(at, random.Next(8) == 0 ? null : (random.NextDouble() * 18) - 2, SymptomNow.Present);
    }
}
