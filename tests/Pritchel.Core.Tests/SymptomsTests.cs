using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Metering;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What machines can be complained of, and hunts of complaints other than starting.</summary>
public class SymptomsTests
{
    public static TheoryData<string> Machines => [.. Shipped.Ids];

    public static TheoryData<string> MachinesAndVariants => [.. Shipped.Ids, .. Shipped.Variants];

    [Theory]
    [InlineData("hedgerow-mower-2", "sparks-magneto", "stops-magneto-lever-0")]
    [InlineData(
        "orchard-tractor-4",
        "cranks",
        "stops-magneto-key-0",
        "stops-magneto-brake-0",
        "stops-magneto-brake-0-blades-1-seat-1-gear-1",
        "runs-fuel-cut",
        "charges-battery",
        "holds-battery",
        "does-lamp-left"
    )]
    [InlineData("orchard-zero-turn-7", "blades", "sparks-magneto1", "sparks-magneto2", "charges-battery")]
    [InlineData("hill-quad-2", "stops-coil-key-0", "stops-coil-bar-0", "stops-coil-tether-0", "does-fan")]
    [InlineData(
        "packhouse-generator-1",
        "stops-magneto-switch-0",
        "stops-magneto-oil-1",
        "does-outlet1",
        "does-outlet2"
    )]
    [InlineData("harbour-launch-1", "stops-stop", "charges-start", "holds-start")]
    [InlineData("terrace-dumper-1", "runs-stop", "charges-battery", "does-work-lamp")]
    public void A_machine_can_be_complained_of_in_every_circuit_it_has(string machine, params string[] expected)
    {
        // Expected by hand: what an owner of that machine could say is wrong.
        var ids = Symptoms.Of(Shipped.Circuit(machine)).Select(s => s.Duty.Id.Text).ToHashSet();
        Assert.All(expected, e => Assert.Contains(e, ids));
    }

    /// <summary>To see that a lamp, a pump or a horn is on where it should be off, nobody holds a key at START or a button in.</summary>
    [Theory]
    [MemberData(nameof(MachinesAndVariants))]
    public void Nothing_is_held_to_see_what_should_be_off(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        var off = Symptoms
            .Of(circuit)
            .Select(s => s.Duty)
            .Where(d => d.Id.Text.StartsWith("not-", StringComparison.Ordinal))
            .ToList();
        Assert.All(off, d => Assert.Empty(circuit.Setting(d.Setting).Held(circuit.Machine)));
    }

    /// <summary>
    /// By hand off the diagrams: the carrier's pump relay is fed with the key at ON and primes no longer than seconds, so welded it pumps on;
    /// the launch's start relay is fed behind the battery switch, its second bank starts it through that, and what leaks behind it flattens the
    /// bank that was left on.
    /// </summary>
    [Theory]
    [InlineData("ridge-carrier-4", "not-pump", "pump-relay/welded")]
    [InlineData("harbour-launch-1", "not-starter", "start-relay/welded")]
    [InlineData("harbour-launch-1", "cranks-switch-2", "house/flat")]
    [InlineData("harbour-launch-1", "holds-start-switch-1", "alternator/drains")]
    public void What_is_fed_behind_a_switch_is_complained_of_with_that_on(string machine, string duty, string fault)
    {
        var kit = Shipped.Sketch(machine, duty);
        var planted = kit.Circuit.Faults.First(f => f.Id.Text == fault);
        Assert.NotNull(HiddenFault.Hide(kit.Table, planted, Meter.Ordinary, new Random(1)));
    }

    /// <summary>By hand: fed to stop, it holds the engine where it should let go; a fuel-cut solenoid is fed to run.</summary>
    [Theory]
    [InlineData("terrace-dumper-1", "runs-stop", true)]
    [InlineData("harbour-launch-1", "runs-stop", true)]
    [InlineData("orchard-tractor-4", "runs-fuel-cut", false)]
    public void What_is_fed_to_stop_must_let_go_to_run(string machine, string duty, bool letsGo) =>
        Assert.Equal(letsGo, Symptoms.Duty(Shipped.Circuit(machine), new DutyId(duty)).LetsGo);

    /// <summary>What is read or seen at idle or at work is so in a setting that keeps the engine running.</summary>
    [Theory]
    [MemberData(nameof(MachinesAndVariants))]
    public void Nothing_supposes_an_engine_running_where_it_would_not(string machine)
    {
        var circuit = Shipped.Circuit(machine);
        foreach (var duty in Symptoms.Of(circuit).Select(s => s.Duty).Where(d => !d.Refuses))
        {
            var tested = new TestedDuty(circuit, duty);
            var asked = ProcedureCatalogue
                .Conditions(tested)
                .Select(c => (c.Setting, c.Speed))
                .Append((tested.Own, duty.Speed));
            Assert.All(
                asked.Where(a => a.Item2 is DutySpeed.Idle or DutySpeed.Work).Distinct(),
                a =>
                {
                    var state = new CircuitState(circuit) { FollowsWaves = false };
                    state.Begin(circuit.NominalParameters());
                    state.SetSpeeds(a.Item2);
                    var settlement = state.Move(a.Item1);
                    Assert.True(
                        Outcome.Of(state, settlement).Runs,
                        $"{duty.Id} in {a.Item1.AllWords(circuit.Machine)}"
                    );
                }
            );
        }
    }

    /// <summary>
    /// By hand from the drawings: the tractor's start line runs through brake and blade switch, the outboard's through its
    /// lever's switch, the scooter's through either brake lever. Nothing on a stand refuses but its button.
    /// </summary>
    [Theory]
    [InlineData("orchard-tractor-4", "turns by itself|though brake up|though blades engaged|though key at OFF")]
    [InlineData("tide-outboard-3", "turns by itself|though lever ahead|though key at OFF")]
    [InlineData("quay-scooter-3", "turns by itself|though front lever free|though start let go|though key at OFF")]
    [InlineData("run-stand-1", "turns by itself|though start let go")]
    [InlineData("hedgerow-mower-2", "")]
    public void A_starter_that_turns_when_it_must_not_can_be_told(string machine, string expected)
    {
        var told = Symptoms
            .Of(Shipped.Circuit(machine))
            .Where(s => s is { Group: CircuitGroup.Starting, Duty.Refuses: true })
            .Select(s => s.Duty.Complaint!)
            .ToList();
        var wanted = expected.Split('|', StringSplitOptions.RemoveEmptyEntries);
        Assert.All(wanted, w => Assert.Contains(told, t => t.Contains(w, StringComparison.OrdinalIgnoreCase)));
        Assert.All(told, t => Assert.Contains(wanted, w => t.Contains(w, StringComparison.OrdinalIgnoreCase)));
    }

    /// <summary>
    /// Cranking with the brake up wants the brake's contact stuck, or the solenoid's welded; a short past the switch besides.
    /// </summary>
    [Fact]
    public void Cranking_past_an_interlock_is_put_down_to_what_can_give_it()
    {
        var kit = Shipped.Kit("orchard-tractor-4", "refuses-starter-brake-0");
        var beliefs = Diagnosis.Inference.Beliefs.Weigh(
            kit.Table,
            new Complaint
            {
                Duty = new DutyId("refuses-starter-brake-0"),
                Heard = Heard.Nothing,
                Failed = 3,
                Tried = 3,
            },
            Meter.Ordinary,
            []
        );
        // Whatever is tried, the engine may turn, and its caution stands first.
        Assert.All(kit.Table.Conditions.Where(c => !c.Observable.WantsDeadCircuit), c => Assert.True(c.MayTurnEngine));
        Assert.Equal([Heard.Nothing, Heard.Works], Symptoms.MayBeHeard(Simulation.EffectKind.Turns, kit.Table.Duty));
        var leading = beliefs.Suspects.Where(s => s.Share > 0.05).Select(s => s.Repair?.Id.Text).ToList();
        Assert.Equal(["part:brake", "part:solenoid"], leading.Order());
    }

    /// <summary>Without its pump an engine comes to no speed but that of its starter: by hand.</summary>
    [Fact]
    public void A_fuel_pump_is_looked_for_while_the_engine_is_cranked()
    {
        var duty = Symptoms.Duty(Shipped.Circuit("ridge-carrier-4"), new DutyId("does-pump"));
        Assert.Equal(DutySpeed.Crank, duty.Speed);
    }

    [Theory]
    [MemberData(nameof(Machines))]
    public void Ids_of_complaints_differ_and_every_one_is_said_in_words(string machine)
    {
        var symptoms = Symptoms.Of(Shipped.Circuit(machine));
        Assert.Equal(symptoms.Count, symptoms.Select(s => s.Duty.Id).Distinct().Count());
        Assert.All(symptoms, s => Assert.False(string.IsNullOrWhiteSpace(s.Duty.Complaint ?? s.Duty.Name)));
    }

    [Theory]
    [InlineData(Quantity.Ohms, 0.0)]
    [InlineData(Quantity.Ohms, 0.35)]
    [InlineData(Quantity.Ohms, 4200.0)]
    [InlineData(Quantity.Ohms, double.PositiveInfinity)]
    [InlineData(Quantity.Amps, 0.05)]
    [InlineData(Quantity.Diode, 0.56)]
    [InlineData(Quantity.Diode, double.PositiveInfinity)]
    [InlineData(Quantity.Spark, 1.0)]
    [InlineData(Quantity.Volts, -0.4)]
    public void A_figure_goes_onto_the_scale_and_comes_back(string quantity, double figure)
    {
        var scaled = Texts.Reads(quantity).Scaled(figure);
        Assert.InRange(scaled, -3, 16);
        Assert.Equal(
            figure,
            Texts.Reads(quantity).Figure(scaled),
            1e-9 * Math.Max(1, double.IsFinite(figure) ? figure : 1)
        );
        Assert.True(Texts.Reads(quantity).Noise(Meter.Ordinary, scaled) > 0);
    }

    [Fact]
    public void A_mower_that_runs_on_and_one_without_spark_are_found_right_in_nine_of_ten()
    {
        // Drawn one from each fault that gives the complaint; a seed of this test's own.
        var circuit = Shipped.Circuit("hedgerow-mower-2");
        var hunts = new List<Hunt>();
        foreach (var duty in new[] { "stops-magneto-lever-0", "sparks-magneto" })
        {
            var kit = Shipped.Kit("hedgerow-mower-2", duty);
            var random = new Random(314);
            foreach (
                var fault in kit
                    .Table.Hypotheses.Where(h => h is { Fault: not null, HasPredictions: true })
                    .Select(h => h.Fault!)
            )
            {
                if (HiddenFault.Hide(kit.Table, fault, Meter.Ordinary, new Random(random.Next())) is { } hidden)
                {
                    hunts.Add(Rehearsal.Play(kit, hidden, Meter.Ordinary, new ByInformation()));
                }
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine(
            $"{hunts.Count} hunts, right {hunts.Average(h => h.Right ? 1.0 : 0):P1}, readings {hunts.Average(h => h.Readings):0.0}, minutes {hunts.Average(h => h.Minutes.Value):0.0}; "
                + string.Join(
                    "; ",
                    hunts
                        .Where(h => !h.Right)
                        .Select(h => $"{h.FaultId} → {h.Verdict?.Text ?? "none"} at {h.Share:0.00}")
                )
        );
        Assert.True(hunts.Count >= 30);
        Assert.True(hunts.Average(h => h.Right ? 1.0 : 0) >= 0.85);
    }

    [Fact]
    public void Wires_that_meet_in_a_splice_are_one_repair_when_one_of_them_is_chafed()
    {
        // In the tractor 24, 25 and 28 meet in SP1, in the main loom; 23 ends in coupling P3.
        var faults = Shipped.Tractor.Faults;
        string Repair(string id) => faults.Single(f => f.Id.Text == id).Repair.Id.Text;
        Assert.Equal(Repair("24/chafed"), Repair("25/chafed"));
        Assert.Equal(Repair("24/chafed"), Repair("28/chafed"));
        Assert.NotEqual(Repair("24/chafed"), Repair("23/chafed"));
        Assert.Equal("wire:23", Repair("23/chafed"));
    }
}
