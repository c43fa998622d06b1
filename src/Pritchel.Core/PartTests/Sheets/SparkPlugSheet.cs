using Pritchel.Core.Faults;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A spark plug in the hand: what eye and feeler tell, its resistor, its insulator.</summary>
public sealed class SparkPlugSheet : PartSheet
{
    /// <inheritdoc/>
    public override string Key => "spark-plug";

    /// <inheritdoc/>
    public override string Name => "Spark plug";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Terminals.SequenceEqual(["top", "tip", "shell"]);

    /// <inheritdoc/>
    public override string Before =>
        "Engine cold and stopped. Brush the seat clean before it is unscrewed: what falls in stays in. Wipe the insulator dry.";

    /// <inheritdoc/>
    public override string Caution =>
        "A plug out of its hole sprays fuel where the next one sparks: never spark it there. Tester clipped to the block away from the hole, cylinder vented first.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A plug that sparks in the open may fail under pressure: a tester at a set gap judges the coil, a new plug judges the old one. They cost less than the hour.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("wide", "gap wider than its maker's figure, electrode rounded"),
            new("soot", "black and dry, or wet with fuel", FaultKind.StuckClosed),
            new("crack", "insulator cracked, or a brown track down it", FaultKind.StuckClosed),
            new("other", "another reach or heat range than the maker's"),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Resistor plug 3 to 7.5 kilohm, plain one under an ohm; gap 0.6 to 0.8 mm on most small engines: common practice, no source; the maker comes first.",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new("resistor", "Ohms, top to centre electrode", DeadOhms.Instance, At(tested, "top"), At(tested, "tip"))
            {
                How = "20 kilohm range; a plain plug beeps",
            },
            new(
                "insulator",
                "Ohms, centre electrode to shell",
                DeadOhms.Instance,
                At(tested, "tip"),
                At(tested, "shell")
            )
            {
                How = "highest range, fingers off both: a dry one reads OL",
            },
        ];
}
