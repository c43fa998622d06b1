using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A magneto coil on its engine, the kill lead off at the coil: its windings, its pulse, its spark at a set gap.</summary>
public sealed class MagnetoCoil : PartSheet
{
    /// <inheritdoc/>
    public override string Key => "magneto";

    /// <inheritdoc/>
    public override string Name => "Magneto coil";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.SequenceEqual(["kill", "case"]) && kind.OptionalTerminals.Contains("ht");

    /// <inheritdoc/>
    public override string Before =>
        "Kill lead off at the coil itself: with it on, its primary beeps to ground with the switch in either position, and a lead bare anywhere stops the spark. Air gap to the magnet set by its maker's figure, a postcard's thickness on most.";

    /// <inheritdoc/>
    public override string Caution => SparkSeen.SparkCaution;

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms;

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A coil with electronics inside reads many ways sound: its spark counts, not its ohms. One that sparks cold may fail hot: try it again at once when it has died. A flywheel whose key is sheared sparks at the wrong time and reads well here.";

    /// <summary>A sound one sparks well over the tester's gap as it is pulled over, whatever its make.</summary>
    public override bool CouldBeSound(IReadOnlyDictionary<string, double> figures) => figures["spark"] >= Well;

    // Of 2 for the kilovolts that the gap wants.
    private const double Well = 1.9;

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("gap", "air gap too wide, or legs that rub"),
            new("rust", "rust on its legs or on the magnet"),
            new("epoxy", "epoxy burst, or the plug lead cracked where it comes out", FaultKind.ShortedWinding),
            new("lead", "kill lead pinched under the shroud", FaultKind.Chafed),
        ];

    /// <inheritdoc/>
    public override string? WhileOpen =>
        "While the flywheel is off: every lead to the core, each joint moved, magnets and key looked at. Leads pulled through and tied, read them again before it goes back on.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Primary 0.2 to 1.5 ohm, secondary 2 to 10 kilohm, gap 0.25 to 0.35 mm: common practice, no source; the maker comes first.",
            "Spark over a tester of 4 to 6 mm as the engine is pulled over: common practice, no source.",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            new("spark", "Spark on a tester of a set gap, pulled over", SparkSeen.Instance, Kill(tested), Case(tested))
            {
                How =
                    "kill lead off at the coil, tester on the plug lead and clipped to the block; briskly, five times",
                Speed = DutySpeed.Crank,
                Caution = SparkSeen.SparkCaution,
            },
            new("primary", "Ohms of the primary, kill tab to its legs", DeadOhms.Instance, Kill(tested), Case(tested))
            {
                How = "lowest range, leads taken off; one with electronics inside tells nothing here",
            },
            .. tested.Part.Terminals.Any(t => t.Text == "ht")
                ?
                [
                    new SheetReading(
                        "secondary",
                        "Ohms of the secondary, plug lead to its legs",
                        DeadOhms.Instance,
                        At(tested, "ht"),
                        Case(tested)
                    )
                    {
                        How = "20 kilohm range; the cap off, its own resistor is read by itself",
                    },
                ]
                : Array.Empty<SheetReading>(),
            new("peak", "Peak volts at the kill tab, pulled over", PeakVolts.Instance, Kill(tested), Case(tested))
            {
                How = "through a peak adapter; leave it out without one",
                Speed = DutySpeed.Crank,
                Caution = PeakVolts.Instance.Caution(null),
            },
        ];

    private static Identity.TerminalAddress Kill(TestedPart tested) => At(tested, "kill");

    private static Identity.TerminalAddress Case(TestedPart tested) => At(tested, "case");
}
