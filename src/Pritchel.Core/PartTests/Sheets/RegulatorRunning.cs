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
    public override bool Fits(DeviceKind kind) => Stator(kind) is not null;

    /// <inheritdoc/>
    public override IReadOnlyList<string> WhichKind =>
        [
            "One stator lead and one to the battery, engine metal the return: half wave. The battery gains with speed and stops short of 14 V on many.",
            "Two or three alike stator leads that read OL to metal: full wave. One lead to metal or to nothing is not alike: look for the tap.",
            "Two stator leads of one winding whose other end is metal, lamps on one of them: the tapped kind for lamps and battery. Its lamp lead is held at about 13 V AC.",
            "Charging a full battery at 3000 rpm, AC between two stator leads back-probed: falls to a fraction of what the same winding makes unplugged: shunt, it shorts the winding; it runs hot by design.",
            "The same reading stays near what the winding makes unplugged: series, it opens the winding; dozens of volts there are no fault.",
            "A wound rotor with brushes, a lamp lead and no magnets: field-regulated; that is an alternator's sheet.",
            "Common practice, no source; the maker's diagram decides.",
        ];

    /// <inheritdoc/>
    protected override BenchMachine Running(TestedPart tested)
    {
        var (stator, ends) = Stator(tested.Kind)!.Value;
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
        var legs = Stator(tested.Kind)!.Value.Ends.Select(e => e.Item2).ToList();
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

    /// <summary>Winding that a kind of regulator stands behind, and which of its ends goes to which leg.</summary>
    private static (string Kind, (string, string)[] Ends)? Stator(DeviceKind kind) =>
        kind.Name switch
        {
            "regulator-3" or "series-regulator-3" => ("stator-3", [("a", "a"), ("b", "b"), ("c", "c")]),
            "regulator-1" => ("stator-1", [("a", "a"), ("b", "b")]),
            "regulator-half-wave" => ("charge-winding", [("out", "ac")]),
            "regulator-tapped" => ("tapped-winding", [("out", "ac"), ("tap", "lamp")]),
            _ => null,
        };
}
