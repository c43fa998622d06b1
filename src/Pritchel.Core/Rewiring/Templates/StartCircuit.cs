namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Start circuit.</summary>
internal sealed class StartCircuit : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "start";

    /// <inheritdoc/>
    public override string Name => "Start circuit";

    /// <inheritdoc/>
    public override string Says =>
        "A start relay with its own button behind the key, its body its ground: cables from battery + to the relay and on to the starter, the button’s feed from what is live with the key. An interlock goes between button and relay, never bridged.";

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Engine()
            .Old("starter", "starter", "starter", "post", "case")
            .OnEngine()
            .Bolted("starter.case", "block.boss")
            .Control("button", "Start button", ["released", "pressed"], "pressed")
            .Fit("start-relay", "start relay", "start-solenoid", "B", "M", "S", "case")
            .Fit("start-button", "start button", "switch", "1", "2")
            .Contact("start", "1", "2", "button", "pressed")
            .Bolted("start-relay.case", "frame.bolt 3")
            .Cable("battery.+", "start-relay.B")
            .Cable("start-relay.M", "starter.post")
            .Lead("key.I", "start-button.1", "1.5 mm2", 0.5, "violet")
            .Lead("start-button.2", "start-relay.S", "1.5 mm2", 1.2, "yellow")
            .Does("starter", "Cranks", ("key", "RUN"), ("button", "pressed"));
}
