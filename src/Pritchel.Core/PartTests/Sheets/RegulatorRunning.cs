using Pritchel.Core.Faults;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A permanent-magnet stator's regulator, running.</summary>
public sealed class RegulatorRunning : Charging
{
    // Chopped by the regulator, read by a meter that averages, at about that speed: many volts or few is all it tells.
    private const double LegsDoubtVolts = 5;

    // One leg or the whole winding, for a part of the regulator's own faults together: common practice, no source.
    private const double StatorRate = 3;

    /// <inheritdoc/>
    public override string Key => "regulator";

    /// <inheritdoc/>
    public override string Name => "Regulator, running";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind is { Regulates: true, Winding: not null };

    /// <inheritdoc/>
    protected override BenchMachine Running(TestedPart tested)
    {
        var (stator, ends) = tested.Kind.Winding!;
        var bench = new BenchMachine(tested)
            .Battery()
            .Add("stator", stator, null, [.. DeviceKinds.Named(stator)!.Terminals])
            .Join(tested.Part.At("dc").Text, BenchMachine.SupplyPlus)
            .Join(tested.Part.At("case").Text, "bench.bolt");
        if (tested.Part.Terminals.Any(t => t.Text == "sense"))
        {
            bench.Join(tested.Part.At("sense").Text, BenchMachine.SupplyPlus);
        }

        if (DeviceKinds.Named(stator)!.Terminals.Contains("case"))
        {
            bench.Join("stator.case", "bench.bolt");
        }

        foreach (var (winding, leg) in ends)
        {
            bench.Join($"stator.{winding}", tested.Part.At(leg).Text);
        }

        return bench;
    }

    /// <inheritdoc/>
    protected override IEnumerable<SheetReading> AtSpeed(TestedPart tested)
    {
        var legs = tested.Kind.Winding!.Ends.Select(e => e.Leg).ToList();
        var (red, black) = (legs[0], legs.Count > 1 && legs[1] != "lamp" ? legs[1] : "case");
        yield return new(
            "legs",
            $"AC volts at its plug, back-probed, {red} to {black}, at 3000 rpm",
            AlternatingVolts.Instance,
            At(tested, red),
            At(tested, black)
        )
        {
            How =
                "plugged; many volts here and none at the battery is the regulator, none here the winding or its plug",
        };
    }

    /// <inheritdoc/>
    protected override IEnumerable<PartState> Beside(Circuit circuit)
    {
        var faults = circuit
            .Faults.Where(f => f.Id.Of.Owner.Part?.Text == "stator" && f.Kind == FaultKind.Open)
            .ToList();
        return faults
            .Take(1)
            .Select(f => new PartState([f], StatorRate) { Said = "a leg of its winding, or a plug on the way, open" });
    }
}
