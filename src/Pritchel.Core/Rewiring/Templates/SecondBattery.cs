namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Second battery.</summary>
internal sealed class SecondBattery : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "second-battery";

    /// <inheritdoc/>
    public override string Name => "Second battery";

    /// <inheritdoc/>
    public override string Says =>
        "A battery for what is used with the engine off, charged through a diode so that it never cranks and is never flattened by the start: a fuse at either end of the lead. The diode takes its half volt; where that matters a relay that closes above 13 V is the other school.";

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Fit("second-battery", "second battery", "battery", "+", "-")
            .Fit("split-fuse", "split fuse at the first battery", "fuse", "1", "2")
            .Figure("ratingAmps", 20)
            .Fit("split-diode", "split diode", "diode", "a", "k")
            .Figure("kneeVolts", 0.4)
            .Fit("second-fuse", "split fuse at the second battery", "fuse", "1", "2")
            .Figure("ratingAmps", 20)
            .Lead("battery.+", "split-fuse.1", "4 mm2", 0.15, "red")
            .Lead("split-fuse.2", "split-diode.a", "4 mm2", 1, "red")
            .Lead("split-diode.k", "second-fuse.1", "4 mm2", 1, "red", "white")
            .Lead("second-fuse.2", "second-battery.+", "4 mm2", 0.15, "red", "white")
            .Cable("second-battery.-", "frame.bolt 3");
}
