using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Fuses that blow, engines that miss at speed or on one cylinder, and cures that were tried before.</summary>
public class FuseComplaintTests
{
    /// <summary>
    /// By hand, from the quad's list of wires: 2 and 3 bring the main fuse's feed to the key, 4 leaves it at ON, and wire 48
    /// alone is fed at LIGHTS and not before; what lies behind the lamp fuse blows that one.
    /// </summary>
    [Fact]
    public void A_main_fuse_that_blows_only_at_LIGHTS_is_put_down_to_the_one_wire_that_only_LIGHTS_feeds()
    {
        var job = Job("hill-quad-2", "holds-fuse-key-2");
        Assert.Equal("48", Wire(job.Beliefs.Suspects[0]));
        var upstream = new[] { "2", "3", "4" }.Sum(w => ShareOf(job, w));
        Assert.True(ShareOf(job, "48") > 2 * upstream, $"48 {ShareOf(job, "48"):P1}, before the key {upstream:P1}");
        Assert.True(new[] { "49", "50", "51", "52" }.Sum(w => ShareOf(job, w)) < 0.02);
    }

    /// <summary>By hand: what blows it with everything off lies before the key, and no load is on.</summary>
    [Fact]
    public void A_main_fuse_that_blows_with_everything_off_is_put_down_to_what_lies_before_the_key()
    {
        var job = Job("hill-quad-2", "holds-fuse");
        Assert.True(ShareOf(job, "2") + ShareOf(job, "3") > 0.9);
    }

    /// <summary>By hand: the lamp fuse's loom, its three sockets, or a fuse too small for them; never a bulb that is gone.</summary>
    [Fact]
    public void A_lamp_fuse_is_blown_by_its_loom_by_a_socket_or_because_it_is_too_small()
    {
        var job = Job("hill-quad-2", "holds-fuse2-key-2");
        string[] may = ["head-left/shorted", "head-right/shorted", "tail-lamp/shorted", "fuse2/too-small"];
        foreach (var id in may)
        {
            Assert.True(OfFault(job, id) > 0.02, $"{id} {OfFault(job, id):P1}");
        }

        Assert.True(new[] { "49", "50", "51", "52" }.Sum(w => ShareOf(job, w)) > 0.1);
        Assert.True(OfFault(job, "head-left/open") < 0.001);
        Assert.DoesNotContain(job.Beliefs.Suspects, s => s.Share > 0.8);
    }

    /// <summary>A sound machine blows no fuse in any setting in which one may be told to blow.</summary>
    [Fact]
    public void No_fuse_of_a_sound_machine_blows_where_it_may_be_told_to()
    {
        foreach (var circuit in Shipped.Ids.Concat(Shipped.Variants).Select(Shipped.Circuit))
        {
            foreach (var symptom in Symptoms.Of(circuit).Where(s => s.Group == CircuitGroup.Protection))
            {
                var state = new CircuitState(circuit) { FollowsWaves = false };
                state.Begin(circuit.NominalParameters());
                state.Move(circuit.Setting(symptom.Duty.Setting));
                Assert.True(
                    circuit.DeviceOf(symptom.Duty.Load).Effect(state) is { Kind: EffectKind.Holds, Level: 1 },
                    $"{circuit.Machine.Id} {symptom.Duty.Id}"
                );
            }
        }
    }

    /// <summary>
    /// By hand: each cylinder of the outboard has its own trigger, pack, coil and stop lead; exciter and key are shared, and
    /// with the other cylinder firing they are nearly cleared.
    /// </summary>
    [Fact]
    public void An_engine_that_misses_on_one_cylinder_is_not_put_down_to_what_both_share()
    {
        var none = Job("tide-outboard-3", "sparks-coil1");
        var one = Job("tide-outboard-3", "sparks-coil1-alone");
        foreach (var shared in new[] { "exciter", "key", "tether" })
        {
            Assert.True(
                PartShare(one, shared) < 0.25 * PartShare(none, shared),
                $"{shared}: {PartShare(none, shared):P1} alone {PartShare(one, shared):P1}"
            );
        }

        Assert.True(PartShare(one, "coil1") > PartShare(none, "coil1"));
    }

    /// <summary>What only shakes apart at speed may have held while it idled; what is gone for good may not.</summary>
    [Fact]
    public void An_engine_that_misses_above_idle_is_put_down_to_what_comes_and_goes()
    {
        var job = Job("tide-outboard-3", "sparks-coil1-fast");
        double Share(bool comesAndGoes) =>
            job.Beliefs.Suspects.Where(s => s.Likeliest is { } f && f.ComesAndGoes == comesAndGoes).Sum(s => s.Share);
        Assert.True(Share(comesAndGoes: true) > 3 * Share(comesAndGoes: false));
    }

    /// <summary>A cure without effect lowers its part and clears nothing; one that helped for a while raises what it moved.</summary>
    [Fact]
    public void A_cure_lowers_what_was_renewed_and_one_that_held_for_a_while_raises_its_joints()
    {
        var circuit = Shipped.Circuit("hill-quad-2");
        var kit = Shipped.Kit("hill-quad-2", "sparks-coil");
        var part = RepairId.OfPart(new PartId("coil"));
        double[] Shares(CureEffect? effect)
        {
            var told = new Complaint
            {
                Duty = new DutyId("sparks-coil"),
                Heard = Heard.Nothing,
                Failed = 3,
                Tried = 3,
                Cures = effect is { } did ? [new CureTried(part, did)] : [],
            };
            var job = Of(kit, told);
            var joints = job
                .Beliefs.Suspects.Where(s =>
                    s.Likeliest is { } f && f.Repair.Id != part && Touches(circuit, f.Nodes, "coil")
                )
                .Sum(s => s.Share);
            return [PartShare(job, "coil"), joints, job.Beliefs.Suspects.Min(s => s.Share)];
        }

        var (before, none, awhile) = (Shares(null), Shares(CureEffect.None), Shares(CureEffect.ForAWhile));
        Assert.True(none[0] < 0.5 * before[0] && none[0] > 0, $"coil {before[0]:P1} → {none[0]:P1}");
        Assert.True(none[1] >= before[1]);
        Assert.True(awhile[1] > 1.3 * before[1], $"its joints {before[1]:P1} → {awhile[1]:P1}");
        Assert.True(awhile[0] > none[0], "what helped does not speak for a new part as much as what did nothing");
    }

    private static bool Touches(Circuit circuit, (int From, int To) nodes, string part) =>
        circuit
            .Machine.Index.Part(new PartId(part))!
            .Addresses.Select(a => circuit.NodeOf(a))
            .Where(n => n != circuit.Reference)
            .Any(n => n == nodes.From || n == nodes.To);

    private static JobDiagnosis Job(string machine, string duty)
    {
        var kit = Shipped.Kit(machine, duty);
        return Of(
            kit,
            new Complaint
            {
                Duty = new DutyId(duty),
                Heard = Heard.Nothing,
                Failed = 3,
                Tried = 3,
            }
        );
    }

    private static JobDiagnosis Of(DiagnosisKit kit, Complaint told)
    {
        var circuit = kit.Circuit;
        return JobDiagnosis.Of(
            JobState.Of([new RecordedEvent(1, default, new ComplaintMade(told))]),
            kit,
            Meter.Ordinary,
            d =>
                Symptoms.Duty(circuit, d) is { } other && DutyTries.IsQuick(circuit, other)
                    ? DutyTries.Build(circuit, other, [], kit.Table.Duty)
                    : null
        );
    }

    private static string? Wire(Suspect suspect) => suspect.Likeliest?.Id.Of.Owner.Wire?.Text;

    private static double ShareOf(JobDiagnosis job, string wire) =>
        job.Beliefs.Suspects.Where(s => Wire(s) == wire).Sum(s => s.Share);

    private static double PartShare(JobDiagnosis job, string part) =>
        job.Beliefs.Suspects.Where(s => s.Id.Text == $"part:{part}").Sum(s => s.Share);

    private static double OfFault(JobDiagnosis job, string fault) =>
        job.Beliefs.Suspects.Where(s => s.Likeliest?.Id.Text == fault).Sum(s => s.Share);
}
