using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What somebody bridged, left apart or took off before, solved as it was found.</summary>
public class AlterationTests
{
    private static DesignCheck Check(string duty, params string[] altered)
    {
        var circuit = Shipped.Tractor;
        var own = Symptoms.Duty(circuit, new DutyId(duty));
        return DesignCheck.Of(circuit, own, circuit.Setting(own.Setting), [.. altered.Select(AlterationId.Of)]);
    }

    [Fact]
    public void Every_switch_coupling_and_wire_of_every_machine_can_be_found_altered_under_an_id_of_its_own()
    {
        foreach (var circuit in Shipped.Ids.Select(Shipped.Circuit))
        {
            var all = Alteration.Of(circuit).ToList();
            Assert.Equal(all.Count, all.Select(a => a.Id).Distinct().Count());
            Assert.Equal(circuit.Machine.Wires.Count, all.Count(a => a.By == AlteredBy.Off));
            Assert.All(all, a => Assert.Same(a.As, Alteration.Find(circuit, a.Id)!.As));
        }

        Assert.Null(Alteration.Find(Shipped.Tractor, AlterationId.Of("apart/nowhere")));
        Assert.Null(Alteration.Find(Shipped.Tractor, AlterationId.Of("off/")));
    }

    /// <summary>By hand, from the tractor's drawing: the start line runs key, blade, P1, brake, P2, solenoid.</summary>
    [Theory]
    [InlineData("apart/P2", true)]
    [InlineData("apart/P1", true)]
    [InlineData("off/7", true)]
    [InlineData("off/C2", true)]
    [InlineData("apart/P3", false)]
    [InlineData("off/50", false)]
    [InlineData("brake/start", false)]
    [InlineData("seat/kill", false)]
    public void What_was_altered_is_said_to_give_the_complaint_where_it_does(string altered, bool gives)
    {
        var check = Check("cranks", altered);
        Assert.Equal(gives, check.AsDesigned);
        Assert.Equal(gives ? [altered] : [], check.Altered.Select(a => a.Id.Text));
    }

    [Fact]
    public void Of_several_the_guilty_one_is_named_and_what_does_no_harm_is_not()
    {
        Assert.Equal(["off/7"], Check("cranks", "seat/kill", "off/7", "off/50").Altered.Select(a => a.Id.Text));
    }

    /// <summary>By hand: the kill line runs through the seat switch, then brake or blades to ground; the key kills by itself.</summary>
    [Theory]
    [InlineData("stops-magneto-brake-0", true)]
    [InlineData("stops-magneto-blades-1", true)]
    [InlineData("stops-magneto-key-0", false)]
    public void A_seat_plug_left_apart_is_itself_why_the_engine_runs_on(string duty, bool gives)
    {
        Assert.Equal(gives ? ["apart/P4"] : [], Check(duty, "apart/P4").Altered.Select(a => a.Id.Text));
    }

    [Fact]
    public void Predictions_are_of_the_machine_as_it_was_found()
    {
        var circuit = Shipped.Tractor;
        var duty = Symptoms.Duty(circuit, new DutyId("cranks"));
        var fed = new ProbePair(0, circuit.NodeOf("lamp-left.+"), circuit.Reference);
        double Healthy(params string[] altered) =>
            PredictionTable
                .BuildCoarse(
                    circuit,
                    duty with
                    {
                        Setting = Lights(duty),
                    },
                    [.. altered.Select(AlterationId.Of)],
                    (_, _) => []
                )
                .Healthy.Across(fed)[0];
        Assert.InRange(Healthy(), 11, 13);
        Assert.InRange(Healthy("off/48"), -0.1, 0.1);
    }

    private static Dictionary<ControlId, PositionId> Lights(Machines.Duty duty) =>
        new(duty.Setting) { [new ControlId("key")] = new PositionId("LIGHTS") };
}
