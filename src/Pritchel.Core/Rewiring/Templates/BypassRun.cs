namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Bypass run.</summary>
internal sealed class BypassRun : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "bypass";

    /// <inheritdoc/>
    public override string Name => "Bypass run";

    /// <inheritdoc/>
    public override string Says =>
        "A new fused lead beside one whose middle is dead: one end where the old lead is still fed, the other where it is still sound. The old lead is cut off at both ends and capped, so that nothing is fed from two sides.";

    /// <inheritdoc/>
    public override bool TakesAnyFeed => true;

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Old("lamp", "lamp", "lamp", "+", "-")
            .Figure("watts", 21)
            .Lead("lamp.-", "frame.bolt 2", "1.5 mm2", 0.3, "black")
            .Fit("bypass-fuse", "fuse of the bypass", "fuse", "1", "2")
            .Figure("ratingAmps", 10)
            .Lead("key.I", "bypass-fuse.1", "2.5 mm2", 0.3, "red")
            .Lead("bypass-fuse.2", "lamp.+", "2.5 mm2", 3, "red", "white")
            .Does("lamp", "Lamp lights", ("key", "RUN"));
}
