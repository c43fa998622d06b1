namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Kill switch and tether.</summary>
internal sealed class KillCircuit : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "kill";

    /// <inheritdoc/>
    public override string Name => "Kill switch and tether";

    /// <inheritdoc/>
    public override string Says =>
        "Two ways to stop an ignition that is stopped by ground, side by side: a switch, and a tether whose clip pulled out stops it. One lead to the ignition’s kill lead, one to metal that the ignition stands on.";

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Engine()
            .Control("stop", "Stop switch", ["RUN", "STOP"])
            .Control("clip", "Tether", ["in", "out"])
            .Fit("stop-switch", "stop switch", "switch", "k", "g")
            .Contact("stop", "k", "g", "stop", "STOP")
            .Fit("tether-switch", "tether switch", "switch", "k", "g")
            .Contact("out", "k", "g", "clip", "out")
            .Lead("magneto.kill", "stop-switch.k", "1 mm2", 1, "brown")
            .Lead("stop-switch.k", "tether-switch.k", "1 mm2", 0.3, "brown")
            .Lead("stop-switch.g", "tether-switch.g", "1 mm2", 0.3, "black")
            .Lead("tether-switch.g", "block.shroud", "1 mm2", 0.8, "black");
}
