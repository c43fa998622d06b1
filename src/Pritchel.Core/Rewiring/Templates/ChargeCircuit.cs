namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Charge circuit.</summary>
internal sealed class ChargeCircuit : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "charge";

    /// <inheritdoc/>
    public override string Name => "Charge circuit";

    /// <inheritdoc/>
    public override string Says =>
        "A regulator for a single-phase winding, its body its return, with a fuse at the battery: two leads to the winding, one to battery +, metal to metal.";

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Engine()
            .Old("winding", "charge winding", "stator-1", "a", "b", "case")
            .OnEngine()
            .Bolted("winding.case", "block.shroud")
            .Fit("regulator", "regulator", "regulator-1", "a", "b", "dc", "case")
            .Fit("charge-fuse", "charge fuse", "fuse", "1", "2")
            .Figure("ratingAmps", 20)
            .Bolted("regulator.case", "frame.bolt 3")
            .Lead("winding.a", "regulator.a", "2.5 mm2", 0.6, "yellow")
            .Lead("winding.b", "regulator.b", "2.5 mm2", 0.6, "yellow")
            .Lead("regulator.dc", "charge-fuse.1", "2.5 mm2", 0.8, "red", "yellow")
            .Lead("charge-fuse.2", "battery.+", "2.5 mm2", 0.15, "red");
}
