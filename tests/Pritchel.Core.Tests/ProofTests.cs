using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Core.Simulation;
using static Pritchel.Core.Tests.Shipped;

namespace Pritchel.Core.Tests;

public class ProofTests
{
    [Theory]
    [InlineData(1, 3, 18)] // the trade's own worked figures: 1 of 3 wants 18, 2 of 3 wants 5
    [InlineData(2, 3, 5)]
    public void Clean_tries_wanted_after_a_fault_that_came_and_went(int failed, int tried, int wanted) =>
        Assert.Equal(wanted, Proof.CleanTriesNeeded(failed, tried));

    /// <summary>
    /// By hand: gear, brake, lamps and heat have no say in the pump once the engine is cranked with the key on; the key, which
    /// stays where it is put, has: off it must stop.
    /// </summary>
    [Fact]
    public void What_an_engine_does_as_it_is_cranked_is_refused_by_what_stops_it_then()
    {
        var carrier = Shipped.Circuit("ridge-carrier-4");
        var duty = Symptoms.Duty(carrier, new DutyId("does-pump"));
        var refusal = Assert.Single(Proof.Refusals(carrier, carrier.Setting(duty.Setting), duty.Load, duty.Speed));
        Assert.Equal(new PositionId("OFF"), refusal.Named(carrier.Machine)[new ControlId("key")]);
    }

    [Fact]
    public void Clean_tries_agree_with_simulation()
    {
        // p drawn from Beta(k + ½, n − k + ½) by two gamma variates (sums of squares of normals are chi-square).
        var random = new Random(5);
        double ChiSquare(int degrees) =>
            Enumerable.Range(0, degrees).Sum(_ => Math.Pow(HealthyMachine.Normal(random), 2));
        var (failed, tried) = (2, 5);
        var wanted = Proof.CleanTriesNeeded(failed, tried);
        double Luck(int tries) =>
            Enumerable
                .Range(0, 200_000)
                .Average(_ =>
                {
                    var (a, b) = (ChiSquare((2 * failed) + 1), ChiSquare((2 * (tried - failed)) + 1));
                    return Math.Pow(b / (a + b), tries);
                });
        Assert.True(Luck(wanted) < 0.0515);
        Assert.True(Luck(wanted - 1) > 0.05);
    }

    [Fact]
    public void The_tractor_must_refuse_with_brake_up_and_with_blades_engaged()
    {
        var duty = Setting(Tractor, ("key", "START"), ("brake", "down"));
        var refusals = Proof.Refusals(Tractor, duty, new PartId("starter"));
        Assert.Equal(
            [
                Setting(Tractor, ("key", "START")),
                Setting(Tractor, ("key", "START"), ("brake", "down"), ("blades", "engaged")),
            ],
            refusals
        );
    }

    [Fact]
    public void Each_kill_path_of_the_tractor_has_a_setting_that_shows_it()
    {
        // By the drawing: key off (the seat path kept open by the brake), brake up with the seat empty, blades on with
        // the seat empty (brake down), blades on in reverse with the rider seated.
        var paths = Proof.KillPaths(Tractor).Settings.ToHashSet();
        Assert.Contains(Setting(Tractor, ("key", "RUN")), paths);
        Assert.Contains(Setting(Tractor, ("key", "RUN"), ("brake", "down"), ("blades", "engaged")), paths);
        Assert.Contains(
            Setting(Tractor, ("key", "RUN"), ("blades", "engaged"), ("seat", "occupied"), ("gear", "reverse")),
            paths
        );
        Assert.Contains(
            paths,
            p =>
                p.Named(Tractor.Machine)[new ControlId("key")].Text == "OFF"
                && (
                    p.Named(Tractor.Machine)[new ControlId("brake")].Text == "down"
                    || p.Named(Tractor.Machine)[new ControlId("seat")].Text == "occupied"
                )
        );
        Assert.Equal(4, paths.Count);
    }

    /// <summary>Each way of stopping stops every engine part that can be stopped, by solving it, not by its ohms.</summary>
    [Theory]
    [InlineData("orchard-zero-turn-7", 2)]
    [InlineData("sound-cruiser-2", 0)]
    [InlineData("hedgerow-mower-2", 1)]
    public void Every_kill_path_of_every_magneto_stops_it(string machine, int magnetos)
    {
        var circuit = Shipped.Circuit(machine);
        Assert.True(circuit.Kills.Count() >= magnetos);
        var paths = Proof.KillPaths(circuit);
        Assert.True(paths.AllTried);
        var stopped = paths
            .Settings.SelectMany(s =>
                Outcome
                    .Of(
                        new Case
                        {
                            Circuit = circuit,
                            Settings = [s],
                            Speeds = circuit.Engines.ToDictionary(e => e.Id, e => new Core.Units.Rpm(e.IdleRpm)),
                        }
                    )
                    .Sparks.Where(spark => spark.Level < 1)
                    .Select(spark => spark.Part)
            )
            .ToHashSet();
        Assert.All(circuit.Kills, k => Assert.Contains(k.Part.Id, stopped));
    }

    /// <summary>A lever of three positions that stays where it is put: each of the others must refuse, as both of two do.</summary>
    [Fact]
    public void A_lever_of_three_positions_is_proved_in_each_of_them()
    {
        var machine = Shipped.Read("orchard-tractor-4");
        var geared = machine with
        {
            Controls =
            [
                .. machine.Controls.Select(c =>
                    c.Id.Text == "brake"
                        ? c with
                        {
                            Positions = [.. c.Positions, new PositionId("parked")],
                            Says = null,
                        }
                        : c
                ),
            ],
        };
        var circuit = Simulation.Circuit.Compile(geared);
        var duty = geared.Duties[0];
        var refusals = Proof.Refusals(circuit, circuit.Setting(duty.Setting), duty.Load);
        Assert.Equal(
            ["parked", "up"],
            refusals.Select(r => r.Named(geared)[new ControlId("brake")].Text).Where(p => p != "down").Order()
        );
    }

    [Fact]
    public void Thirty_one_controls_are_too_many_to_go_through_and_that_is_said()
    {
        var machine = Shipped.Read("orchard-tractor-4");
        var many = machine with
        {
            Controls =
            [
                .. machine.Controls,
                .. Enumerable
                    .Range(0, 31 - machine.Controls.Count)
                    .Select(i => new Control(
                        new ControlId($"spare-{i}"),
                        $"Spare {i}",
                        [new PositionId("off"), new PositionId("on")],
                        new PositionId("off"),
                        []
                    )),
            ],
        };
        var paths = Proof.KillPaths(Simulation.Circuit.Compile(many));
        Assert.False(paths.AllTried);
        Assert.NotEmpty(paths.Settings);
        Assert.True(Proof.KillPaths(Simulation.Circuit.Compile(machine)).AllTried);
    }

    /// <summary>
    /// A reading that repeats in the proof passes on sound machines, and not where the load still draws nothing by a volt or more: the
    /// feed of a starter that does not turn stands at all the battery has.
    /// </summary>
    [Theory]
    [InlineData("orchard-tractor-4", "cranks")]
    [InlineData("harbour-launch-1", "cranks")]
    [InlineData("hill-quad-2", "cranks")]
    public void What_is_mended_reads_as_at_work(string machine, string duty)
    {
        var kit = Shipped.Few(machine, duty);
        var beliefs = Beliefs.Weigh(kit.Table, Shipped.Told(kit), Meter.Ordinary, []);
        var (sound, passed, idle) = (0, 0, 0);
        foreach (var at in kit.Plan.Allowed(new Situation()))
        {
            var condition = kit.Table.Conditions[at.Condition];
            if (condition is not { IsFree: true, Observable: DirectVolts })
            {
                continue;
            }

            double[] working = [.. Draws(kit, kit.Table.Healthy, at)];
            sound += working.Length;
            passed += working.Count(v => JobProof.Passes(beliefs, at, v));
            foreach (var v in Draws(kit, kit.Table.Idle, at).Where(v => working.All(w => Math.Abs(w - v) > 1)))
            {
                idle++;
                Assert.False(JobProof.Passes(beliefs, at, v), $"{condition.Words}: {v:0.00} V passes");
            }
        }

        Assert.True(passed >= 0.98 * sound, $"{passed} of {sound} sound readings pass");
        Assert.True(idle > 0, "no reading tells an idle load");
    }

    private static IEnumerable<double> Draws(DiagnosisKit kit, Hypothesis hypothesis, ProbePair at) =>
        Enumerable.Range(0, kit.Table.Particles).Select(p => hypothesis.Across(at)[p]);
}
