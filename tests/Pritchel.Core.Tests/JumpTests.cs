using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Handbook;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;

namespace Pritchel.Core.Tests;

/// <summary>Leads and bulbs put in: what an electrician knows must come of them, with each of a few faults.</summary>
public class JumpTests
{
    private static DiagnosisKit Tractor => BeliefsTests.Kit;

    private static readonly Lazy<DiagnosisKit> Blades = new(() => Shipped.Few("orchard-zero-turn-7", "blades"));

    private static readonly Lazy<DiagnosisKit> Headlamp = new(() =>
        Shipped.Few("orchard-tractor-4", "does-lamp-right")
    );

    /// <summary>What is seen on the middle one of the machines drawn with a fault, or with the sound machine; or on the brightest.</summary>
    private static double Seen(DiagnosisKit kit, string words, string? fault, bool brightest = false)
    {
        var condition = kit.Table.Conditions.ToList().FindIndex(c => c.Words.Contains(words, StringComparison.Ordinal));
        Assert.True(condition >= 0, $"no test says {words}");
        var (red, _) = kit.Table.Conditions[condition].Pairs![0];
        var hypothesis = kit.Table.Hypotheses.First(h => h.Fault?.Id.Text == fault && h.HasPredictions);
        var seen = hypothesis.At(condition, red).ToArray().Order().ToArray();
        var step = kit.Table.Conditions[condition].Observable.Figure(seen[brightest ? ^1 : seen.Length / 2]);
        return Math.Round(step, 6);
    }

    [Theory]
    // Post to post goes round the contacts, the coil and everything that commands it, and proves starter and cables.
    [InlineData("start solenoid B joined to start solenoid M", null, 2)]
    [InlineData("start solenoid B joined to start solenoid M", "solenoid/contact-open", 2)]
    [InlineData("start solenoid B joined to start solenoid M", "key/B-S/open", 2)]
    [InlineData("start solenoid B joined to start solenoid M", "starter/open", 0)]
    [InlineData("start solenoid B joined to start solenoid M", "battery/open", 0)]
    // Volts to the coil go round the key and the interlocks; burnt contacts leave a click.
    [InlineData("by a fused lead to start solenoid S", "key/B-S/open", 2)]
    [InlineData("by a fused lead to start solenoid S", "solenoid/contact-open", 1)]
    [InlineData("by a fused lead to start solenoid S", "solenoid/coil-open", 0)]
    // A bulb in the fuse's place is dim through the coil, and shows nothing of what lies before it.
    [InlineData("main fuse out, a bulb in its place · key START", "1/open", 0)]
    public void A_jump_on_the_tractor_does_what_it_must(string words, string? fault, double seen) =>
        Assert.Equal(seen, Seen(Tractor, words, fault), 6);

    [Theory]
    [InlineData("blade clutch relay 30 joined to blade clutch relay 87", null, 2)]
    [InlineData("blade clutch coil − by a lead to battery −", null, 2)]
    public void A_jump_at_the_blade_clutch_does_what_it_must(string words, string? fault, double seen) =>
        Assert.Equal(seen, Seen(Blades.Value, words, fault), 6);

    [Fact]
    public void A_bulb_in_the_fuses_place_is_bright_on_a_dead_short_and_goes_out_past_the_coupling_that_holds_it()
    {
        // Wire 2 runs from the fuse to coupling P1: bared to the frame there.
        Assert.Equal(
            2,
            Seen(Tractor, "main fuse out, a bulb in its place · key START", "2/chafed", brightest: true),
            6
        );
        Assert.Equal(
            2,
            Seen(Tractor, "main fuse out, a bulb in its place, coupling P1 apart", "2/chafed", brightest: true),
            6
        );
        Assert.Equal(0, Seen(Tractor, "main fuse out, a bulb in its place, coupling P1 apart", null), 6);
    }

    [Theory]
    // The right headlamp's way: battery, fuse, wire 2, coupling P1, key B to L, then the splice and wire 49.
    [InlineData("main fuse 2", null, 2)]
    [InlineData("main fuse 2", "1/open", 0)]
    [InlineData("main fuse 2", "key/B-L/open", 2)]
    [InlineData("key switch L", "key/B-L/open", 0)]
    [InlineData("key switch L", "2/open", 0)]
    [InlineData("key switch L", "49/open", 2)]
    public void A_test_lamp_lights_behind_what_still_feeds(string at, string? fault, double seen) =>
        Assert.Equal(seen, Seen(Headlamp.Value, $"test lamp from {at} to battery", fault), 6);

    [Fact]
    public void No_test_lamp_touches_a_controllers_way()
    {
        var circuit = Shipped.Circuit("ridge-carrier-4");
        var controller = Enumerable
            .Range(0, circuit.Network.NodeCount)
            .Where(n => circuit.NodePoints[n].Any(a => a.Terminal?.Part.Text == "ecu"))
            .ToHashSet();
        var lamps = Symptoms
            .Of(circuit)
            .SelectMany(s => ProcedureCatalogue.Conditions(new TestedDuty(circuit, s.Duty)))
            .Where(c => c.Jump?.Kind == JumpKind.TestLamp)
            .ToList();
        Assert.NotEmpty(lamps);
        Assert.DoesNotContain(lamps, c => controller.Contains(c.Jump!.From) && c.Jump.From != circuit.Reference);
    }

    [Fact]
    public void Nothing_is_bridged_where_petrol_vapour_may_gather()
    {
        foreach (var id in new[] { "sound-cruiser-2", "tide-outboard-3" })
        {
            var circuit = Shipped.Circuit(id);
            Assert.All(
                Symptoms.Of(circuit),
                s =>
                    Assert.All(ProcedureCatalogue.Conditions(new TestedDuty(circuit, s.Duty)), c => Assert.Null(c.Jump))
            );
        }
    }

    [Fact]
    public void No_jump_touches_a_kill_wire()
    {
        foreach (var id in Shipped.Ids)
        {
            var circuit = Shipped.Circuit(id);
            var touched = Symptoms
                .Of(circuit)
                .SelectMany(s => ProcedureCatalogue.Conditions(new TestedDuty(circuit, s.Duty)))
                .Where(c => c.Jump is not null)
                .SelectMany(c => new[] { c.Jump!.From, c.Jump.To })
                .Distinct();
            Assert.All(touched, n => Assert.DoesNotContain(circuit.NodePoints[n], circuit.Topology.CarriesIgnition));
        }
    }

    [Fact]
    public void A_lamp_comes_to_rest_where_its_own_law_and_the_circuit_meet()
    {
        // 12 V behind 3 Ω into a bulb of 144/21 Ω hot.
        const double Hot = 144.0 / 21;
        var share = Filament.ShareOf(Hot, ohms => ohms / (ohms + 3));
        var ohms = Hot * Filament.OhmsShare(share);
        Assert.Equal(12 * share / ohms, 12 * (1 - share) / 3, 6);
    }

    [Theory]
    [InlineData("5/open", true)]
    [InlineData("solenoid/contact-open", true)]
    [InlineData("P2/1/open", true)]
    [InlineData("starter/stalled", false)]
    [InlineData("battery/weak", false)]
    public void A_clip_lead_is_offered_where_it_can_stand_in_for_what_is_missing(string id, bool offered)
    {
        var fault = Tractor.Circuit.Faults.First(f => f.Id.Text == id);
        Assert.Equal(offered, ClipLead.For(Tractor, fault) is not null);
    }

    [Fact]
    public void A_clip_lead_in_the_register_keeps_a_job_from_being_proved_until_it_is_off()
    {
        var put = new LeadPut(PointId.Of("key.S"), PointId.Of("blade.in"), Worked: true);
        var events = new JobEvent[]
        {
            new ComplaintMade(new Complaint { Duty = new DutyId("cranks"), Heard = Heard.Nothing }),
            new VerdictTaken(SuspectId.Of("wire:5"), "wire 5", 0.99),
            put,
        };
        JobState State(params JobEvent[] more) =>
            JobState.Of([
                .. events.Concat(more).Select((e, i) => new RecordedEvent(i + 1, DateTimeOffset.UnixEpoch, e)),
            ]);
        Assert.Equal([put.Bypass], State().OpenBypasses);
        Assert.Null(State().LeadOff);
        Assert.Empty(State(new LeadOff(FailsAgain: true)).OpenBypasses);
        Assert.True(State(new LeadOff(FailsAgain: true)).LeadOff!.FailsAgain);

        // Taking the last entry back puts it on again.
        Assert.Equal([put.Bypass], State(new LeadOff(FailsAgain: true), new Undone(4)).OpenBypasses);
    }
}
