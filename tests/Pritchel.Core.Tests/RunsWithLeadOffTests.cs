using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>
/// An engine that dies while it runs, started once more with its kill wire off; by hand off the run stand's diagram: its kill goes from
/// the coil through both plugs to the kill switch, and the feed of its fuel cut through the same plugs.
/// </summary>
public class RunsWithLeadOffTests
{
    private static DiagnosisKit Kit => Shipped.Kit("run-stand-1", "sparks-magneto-fast");

    private static IEnumerable<Condition> Running => Kit.Table.Conditions.Where(c => c.Observable is EngineRuns);

    [Fact]
    public void Off_at_the_coil_and_off_at_the_switch_are_tried_and_no_plug_that_feeds_the_fuel()
    {
        Assert.Equal(["14@from", "16@to"], Running.Select(c => c.Off.Single().Text).Order(StringComparer.Ordinal));
        Assert.All(Running, c => Assert.True(c.MayTurnEngine));
    }

    [Fact]
    public void What_runs_on_with_it_off_was_killed_by_it_and_what_dies_all_the_same_was_not()
    {
        double CoilOrPlug(double seen)
        {
            var condition = Kit
                .Table.Conditions.ToList()
                .FindIndex(c => c.Observable is EngineRuns && c.Off[0].Text == "16@to");
            var (red, black) = Kit.Table.Conditions[condition].Pairs!.Single();
            var beliefs = Beliefs.Weigh(
                Kit.Table,
                Shipped.Told(Kit, Heard.Slow),
                Meter.Ordinary,
                [
                    new Reading(
                        new ProbePair(condition, red, black),
                        EngineRuns.Instance.Scaled(seen),
                        SymptomNow.Present
                    ),
                ]
            );
            return beliefs.Suspects.Where(s => s.Repair?.Id.Text is "part:magneto" or "plug:magneto").Sum(s => s.Share);
        }

        Assert.InRange(CoilOrPlug(2), 0, 0.3);
        Assert.InRange(CoilOrPlug(0), 0.75, 1);
    }

    [Fact]
    public void Without_fuel_it_cuts_out_however_well_it_sparks()
    {
        var circuit = Kit.Circuit;
        var setting = circuit.Setting(Kit.Table.Duty.Setting);
        Outcome With(params Disconnection[] off) =>
            Outcome.Of(
                new Case
                {
                    Circuit = circuit,
                    Settings = [setting],
                    Speeds = circuit.Engines.ToDictionary(e => e.Id, e => e.At(Machines.DutySpeed.Work)),
                    Off = off,
                }
            );
        Assert.True(With().FuelOn);
        Assert.False(With(new PartId("P1")).FuelOn);
        Assert.True(With(new PartId("P1")).AllSpark);
    }
}
