using Pritchel.Core.Faults;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>An alternator with a field, running: its lamp circuit standing, then volts by speed and load.</summary>
public sealed class AlternatorRunning : Charging
{
    /// <inheritdoc/>
    public override string Key => "alternator";

    /// <inheritdoc/>
    public override string Name => "Alternator, running";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name == "alternator";

    /// <inheritdoc/>
    protected override BenchMachine Running(TestedPart tested) =>
        new BenchMachine(tested)
            .Battery()
            .Join(tested.Part.At("B+").Text, BenchMachine.SupplyPlus)
            .Join(tested.Part.At("case").Text, "bench.bolt")
            .Add("charge-lamp", "lamp", null, "+", "-")
            .Join(BenchMachine.SupplyPlus, "charge-lamp.+")
            .Join("charge-lamp.-", tested.Part.At("D+").Text);

    /// <inheritdoc/>
    protected override IEnumerable<SheetReading> Standing(TestedPart tested) =>
        [
            new(
                "field-volts",
                "Volts, D+ to its body, key on, engine standing",
                DirectVolts.Instance,
                At(tested, "D+"),
                At(tested, "case")
            )
            {
                How =
                    "a volt or two with the lamp lit: field sound; battery volts and a dark lamp: field open; nothing and a dark lamp: lamp or its feed",
            },
            new(
                "field-ohms",
                "Ohms, D+ to its body, its lead off",
                DeadOhms.Instance,
                At(tested, "D+"),
                At(tested, "case")
            )
            {
                How = "turn it by hand, keep the worst: brushes on their rings",
            },
        ];

    /// <inheritdoc/>
    protected override IEnumerable<PartState> Beside(Circuit circuit) =>
        circuit
            .Faults.Where(f => f.Id.Of.Owner.Part?.Text == "charge-lamp" && f.Kind == FaultKind.Open)
            .Take(1)
            .Select(f => new PartState([f], LampRate) { Said = "charge lamp or its feed open" });

    private const double LampRate = 2;
}
