using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>What a complaint leaves alone.</summary>
public class LeftAloneTests
{
    /// <summary>By hand, from the drawings: what has nothing to do with a duty, and what has.</summary>
    [Theory]
    // The oil lamp's lead is grounded by its switch while there is no oil pressure: a short in its socket blows the one fuse before
    // anything cranks. The head lamps are off.
    [InlineData(
        "orchard-tractor-4",
        "cranks",
        "magneto fuel-cut winding rectifier oil-switch lamp-left lamp-right hours",
        "battery fuse key brake blade solenoid starter oil-lamp"
    )]
    // The solenoid is doubted too: welded, it cranks on, and the lamp is dim at the ten volts that are left; so is the other
    // lamp, which blows the fuse of both when its socket is a short.
    [InlineData("orchard-tractor-4", "does-lamp-left", "starter magneto", "lamp-left lamp-right key fuse battery")]
    [InlineData("hill-quad-2", "does-head-left", "starter coil", "head-left battery")]
    [InlineData("hedgerow-mower-2", "sparks-magneto", "", "magneto brake-switch")]
    public void A_complaint_leaves_alone_what_has_no_part_in_it(
        string machine,
        string duty,
        string alone,
        string doubted
    )
    {
        var circuit = Shipped.Circuit(machine);
        var left = LeftAlone
            .Of(PredictionTable.BuildCoarse(circuit, Symptoms.Duty(circuit, new DutyId(duty)), [], (_, _) => []))
            .Parts.Select(p => p.Id.Text)
            .ToList();
        Assert.All(alone.Split(' ', StringSplitOptions.RemoveEmptyEntries), p => Assert.Contains(p, left));
        Assert.All(doubted.Split(' '), p => Assert.DoesNotContain(p, left));
    }

    /// <summary>None of what is left alone is ever the fault that is hidden, at its worst or at its mildest.</summary>
    [Fact]
    public void No_fault_of_what_is_left_alone_gives_the_complaint()
    {
        var circuit = Shipped.Circuit("orchard-tractor-4");
        var duty = Symptoms.Duty(circuit, new DutyId("cranks"));
        var table = PredictionTable.Build(circuit, duty, []);
        var left = LeftAlone.Of(table);
        bool Alone(Owner owner) => left.Parts.Any(p => p.Id == owner.Part) || left.Wires.Any(w => w.Id == owner.Wire);
        foreach (var fault in circuit.Faults.Where(f => Alone(f.Id.Of.Owner)))
        {
            foreach (var severity in new[] { 0.02, 0.5, 0.98 })
            {
                var @case = new Case
                {
                    Circuit = circuit,
                    Settings = [circuit.Setting(null), circuit.Setting(duty.Setting)],
                    Faults = [new PlantedFault(fault, severity)],
                };
                Assert.InRange(Outcome.Of(@case).Cranks.Values.DefaultIfEmpty().Max(), 0.75, 1.5);
            }
        }
    }
}
