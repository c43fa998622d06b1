using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>An exciter or a pickup that magnets pass for the ignition's sake: its ohms, and its peak as the engine is pulled over.</summary>
public sealed class FlywheelWinding : PartSheet
{
    // Pulses far apart on a range made for sines: from memory.
    private const double PulsesDoubtShare = 0.3;

    /// <inheritdoc/>
    public override string Key => "flywheel-winding";

    /// <inheritdoc/>
    public override string Name => "Exciter or pickup";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) =>
        kind.Terminals.Count == 2 && !kind.FollowsWave && kind.Values.Any(v => v.Name == "peakVoltsPer1000Rpm");

    /// <inheritdoc/>
    public override string Before =>
        "Its plug apart at its own leads, plug leads off and grounded, the kill lead where it is. Short the probes first and note what they add.";

    /// <inheritdoc/>
    public override string Caution => PeakVolts.Instance.Caution(null);

    /// <inheritdoc/>
    public override bool IsCopper(SheetReading reading) => reading.Observable is DeadOhms;

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A winding that reads well cold may open hot, and a pickup whose leads are swapped reads the same: its pulse comes at the wrong time. A gap too wide lowers its peak as turns lost do.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("gap", "air gap not the maker's, or a face with filings on it"),
            new("rub", "rubbed by the magnet", FaultKind.Chafed, FaultKind.ShortedWinding),
            new("lead", "a lead pinched or hard where it leaves the plate", FaultKind.Open, FaultKind.Chafed),
        ];

    /// <inheritdoc/>
    public override string? WhileOpen =>
        "While the flywheel is off: every lead to the core, each joint moved, magnets and key looked at. Leads pulled through and tied, read them again before it goes back on.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        [
            "Exciter 100 ohm to several kilohm, hundreds of volts peak pulled over; pickup 15 to 1500 ohm, half a volt to some volts: common practice, no source.",
            "Copper gains 0.393 % a kelvin (IEC 60028).",
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested)
    {
        var (one, other) = (tested.Part.Terminals[0].Text, tested.Part.Terminals[1].Text);
        return
        [
            new("ohms", $"Ohms, {one} to {other}", DeadOhms.Instance, At(tested, one), At(tested, other))
            {
                How = "2 kilohm range first",
            },
            new(
                "peak",
                $"Peak volts pulled over, {one} to {other}",
                PeakVolts.Instance,
                At(tested, one),
                At(tested, other)
            )
            {
                How = "through a peak adapter, its plug apart; five brisk pulls, keep the highest",
                Speed = DutySpeed.Crank,
                Caution = PeakVolts.Instance.Caution(null),
            },
            new(
                "ac",
                $"AC volts pulled over, {one} to {other}",
                AlternatingVolts.Instance,
                At(tested, one),
                At(tested, other)
            )
            {
                How =
                    "without an adapter; an ordinary meter shows about seven tenths of the peak, and less where pulses are far apart",
                Speed = DutySpeed.Crank,
                Caution = PeakVolts.Instance.Caution(null),
                DoubtShare = PulsesDoubtShare,
            },
        ];
    }
}
