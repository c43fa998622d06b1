namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Oil-pressure alarm.</summary>
internal sealed class OilAlarm : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "oil-alarm";

    /// <inheritdoc/>
    public override string Name => "Oil-pressure alarm";

    /// <inheritdoc/>
    public override string Says =>
        "A buzzer that sounds with the key on until there is pressure: its own small fuse, and a pressure switch in the block that grounds it. It proves itself at every key-on; a buzzer that is silent then is mended first.";

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Engine()
            .Fit("alarm-fuse", "alarm fuse", "fuse", "1", "2")
            .Figure("ratingAmps", 3)
            .Fit("alarm-buzzer", "alarm buzzer", "buzzer", "+", "-")
            .Fit("alarm-switch", "alarm pressure switch", "pressure-switch", "out", "case")
            .OnEngine()
            .Bolted("alarm-switch.case", "block.shroud")
            .Lead("key.I", "alarm-fuse.1", "1 mm2", 0.3, "violet")
            .Lead("alarm-fuse.2", "alarm-buzzer.+", "1 mm2", 0.3, "violet", "white")
            .Lead("alarm-buzzer.-", "alarm-switch.out", "1 mm2", 1.5, "light blue")
            .Does("alarm-buzzer", "Alarm sounds", ("key", "RUN"));
}
