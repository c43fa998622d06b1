namespace Pritchel.Core.Rewiring.Templates;

/// <summary>Accessory by a relay.</summary>
internal sealed class AccessoryByRelay : CircuitTemplate
{
    /// <inheritdoc/>
    public override string Key => "accessory-relay";

    /// <inheritdoc/>
    public override string Name => "Accessory by a relay";

    /// <inheritdoc/>
    public override string Says =>
        "A load of up to 15 A that is on with the key and its own switch: fuse at the battery, a relay by the load, a dash switch that carries the coil alone. Its leads go to battery +, a feed that is live with the key, and metal.";

    /// <inheritdoc/>
    private protected override void Draw(TemplateDrawing drawing) =>
        drawing
            .Vehicle()
            .Control("accessory", "Accessory switch", ["off", "on"])
            .Fit("accessory-fuse", "accessory fuse", "fuse", "1", "2")
            .Figure("ratingAmps", 15)
            .Fit("accessory-relay", "accessory relay", "relay", "85", "86", "30", "87", "87a")
            .Fit("accessory-switch", "accessory switch", "switch", "1", "2")
            .Contact("on", "1", "2", "accessory", "on")
            .Fit("accessory", "accessory", "load", "+", "-")
            .Figure("ohms", 1.5)
            .Lead("battery.+", "accessory-fuse.1", "2.5 mm2", 0.15, "red")
            .Lead("accessory-fuse.2", "accessory-relay.30", "2.5 mm2", 1.5, "red", "white")
            .Lead("accessory-relay.87", "accessory.+", "2.5 mm2", 1, "orange")
            .Lead("accessory.-", "frame.bolt 2", "2.5 mm2", 0.6, "black")
            .Lead("key.I", "accessory-switch.1", "1 mm2", 0.5, "violet")
            .Lead("accessory-switch.2", "accessory-relay.86", "1 mm2", 0.8, "violet", "white")
            .Lead("accessory-relay.85", "frame.bolt 3", "1 mm2", 0.4, "black")
            .Does("accessory", "Accessory works", ("key", "RUN"), ("accessory", "on"));
}
