using Pritchel.Core.Faults;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>An ignition coil off its leads: primary, secondary through its tower, each to the other.</summary>
public sealed class IgnitionCoilSheet : PartSheet
{
    /// <inheritdoc/>
    public override string Key => "ignition-coil";

    /// <inheritdoc/>
    public override string Name => "Ignition coil";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.SequenceEqual(["+", "-"]) && kind.OptionalTerminals.Contains("ht");

    /// <inheritdoc/>
    public override string Before =>
        "Low-tension leads off, plug lead out of its tower where it comes out. Short the probes first: a primary may be a few tenths of an ohm.";

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms;

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A coil that measures right may still break down under its own volts, hot or damp: a tester at a set gap decides, with the engine made safe. Nothing here tests the plug, its cap or its lead.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("tower", "tower cracked or tracked"),
            new("epoxy", "epoxy burst", FaultKind.ShortedWinding),
            new("mount", "a mount that is its ground, rusty"),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Primary 0.02 to 1 ohm for capacitor discharge, 2.5 to 5 for a battery igniter; secondary 0.2 to 15 kilohm, a resistor cap 5 more: common practice, no source; the maker comes first.",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        var readings = new List<SheetReading>
        {
            new("primary", "Ohms of the primary, + to −", DeadOhms.Instance, At(tested, "+"), At(tested, "-"))
            {
                How = "lowest range, leads taken off",
            },
        };
        if (tested.Part.Terminals.Any(t => t.Text == "ht"))
        {
            readings.Add(
                new(
                    "secondary",
                    "Ohms of the secondary, tower to −",
                    DeadOhms.Instance,
                    At(tested, "ht"),
                    At(tested, "-")
                )
                {
                    How = "20 kilohm range; the cap off",
                }
            );
        }

        return readings;
    }
}
