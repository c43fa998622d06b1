using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>The meter in use is the one believed in, and the one tests are chosen for.</summary>
public class OtherMetersTests
{
    private static readonly Meter Thirsty = Meter.Ordinary with { Name = "needle", Input = new Ohms(20e3) };

    /// <summary>A meter of twenty kilohms pulls down what hangs on leakage; each prediction is held against that meter read in the circuit.</summary>
    [Fact]
    public void What_is_predicted_for_a_thirsty_meter_is_what_it_shows_in_the_circuit()
    {
        var circuit = Shipped.Tractor;
        var table = PredictionTable.Build(circuit, circuit.Machine.Duties[0], [], Thirsty);
        var kit = DiagnosisKit.Of(table);
        var hypothesis = table.Hypotheses.First(h => h.Fault?.Id.Text == "brake/start/open");
        var differs = 0;
        foreach (var red in kit.Points.All.Select(p => p.Node).Distinct())
        {
            var @case = new Case
            {
                Circuit = circuit,
                Settings = [circuit.Setting(null), table.Conditions[0].Setting],
                Faults = [new PlantedFault(hypothesis.Fault!, 0.5)],
            };
            double Shown(Meter meter) =>
                Bench.Read(@case, meter, MeterFunction.DcVolts, red, circuit.Reference).Value!.Value;
            var predicted = hypothesis.Across(new Diagnosis.Procedures.ProbePair(0, red, circuit.Reference))[0];
            Assert.Equal(Shown(Thirsty), predicted, 0.75);
            differs += Math.Abs(Shown(Thirsty) - Shown(Meter.Ordinary)) > 0.5 ? 1 : 0;
        }

        TestContext.Current.TestOutputHelper?.WriteLine($"{differs} points differ between the two meters");
    }

    [Theory]
    [InlineData("orchard-tractor-4", "cranks")]
    [InlineData("hedgerow-mower-2", "sparks-magneto")]
    public void A_meter_that_only_beeps_and_reads_volts_is_never_asked_for_more(string machine, string duty)
    {
        var poor = Meter.Ordinary with { Functions = [MeterFunction.DcVolts, MeterFunction.Beep] };
        var circuit = Shipped.Circuit(machine);
        var kit = DiagnosisKit.Build(circuit, Diagnosis.Complaints.Symptoms.Duty(circuit, new DutyId(duty)), [], poor);
        var told = new Diagnosis.Complaints.Complaint
        {
            Duty = new DutyId(duty),
            Heard = Diagnosis.Complaints.Heard.Nothing,
            Failed = 3,
            Tried = 3,
        };
        var beliefs = Diagnosis.Inference.Beliefs.Weigh(kit.Table, told, poor, []);
        var tests = kit.Plan.Best(beliefs, new Situation(), 40);
        Assert.NotEmpty(tests);
        Assert.All(
            tests,
            t =>
                Assert.True(
                    t.Condition.Observable is DirectVolts or Beep or { IsSeen: true },
                    t.Condition.Observable.Key
                )
        );
    }

    [Fact]
    public void Another_meters_beep_is_another_answer()
    {
        var deaf = Meter.Ordinary with { BeepsUnder = new Ohms(2) };
        Assert.Equal(2, Beep.Of(Meter.Ordinary, 10));
        Assert.Equal(0, Beep.Of(deaf, 10));
        var keen = Meter.Ordinary with { BeepsUnder = new Ohms(400) };
        Assert.Equal(2, Beep.Of(keen, 200));
        Assert.Equal(0, Beep.Of(Meter.Ordinary, 200));
    }

    /// <summary>Typed to a tenth: as likely anywhere within a twentieth either way, which is a tenth over the root of twelve.</summary>
    [Fact]
    public void A_figure_is_no_surer_than_the_digits_it_was_typed_with()
    {
        var volts = DirectVolts.Instance;
        double Doubt(double figure, string typed) =>
            volts.Noise(Meter.Ordinary, figure, volts.Read(typed, out _)!.Value.Digits);
        Assert.True(Doubt(12.4, "12.4") >= 0.1 / Math.Sqrt(12));
        Assert.True(Doubt(12.4, "12.4") > Doubt(12.4, "12.40"));

        // Two decimals are a twenty volt range, whose last digit wanders by two counts: never a reading of millivolts.
        Assert.True(Doubt(0.01, "0.01") > 0.01);
        Assert.True(Doubt(0.01, "0.01") > 4 * Doubt(0.01, "0.0100"));
    }
}
