using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>An oil-pressure switch, its lead off: to its metal with the engine standing and at idle.</summary>
public sealed class PressureSwitchSheet : PartSheet
{
    /// <inheritdoc/>
    public override string Key => "pressure-switch";

    /// <inheritdoc/>
    public override string Name => "Oil pressure switch";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Name == "pressure-switch";

    /// <inheritdoc/>
    public override string Before =>
        "Level first, and the lamp believed: a lamp that tells the truth wears an engine out in a minute. Pull its lead: it must touch nothing.";

    /// <inheritdoc/>
    public override string Caution =>
        "At idle for seconds only, hands and leads clear of what turns, the hand stop ready. Where oil pressure itself is in doubt the engine stays stopped until a gauge of known truth is in the switch's place.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A switch that works as it should says nothing of the pressure that it answers to. Its lead, chafed to the block, lights the lamp as the switch does: read it by itself.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("oil", "oil at its blade or thread", FaultKind.Open, FaultKind.StuckClosed),
            new("lead", "its lead lies on metal or is rubbed through"),
            new("new", "it was renewed by something that only looks alike", FaultKind.WrongPart),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Sources =>
        ["Closed at rest, open from some hundreds of revolutions up: common practice, no source."];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            Ohms(tested, "standing", "engine standing") with
            {
                How = "joined: a few tenths of an ohm",
            },
            Ohms(tested, "idle", "engine at idle") with
            {
                How = "open: OL; a figure that is neither is a gauge's sender",
                Speed = DutySpeed.Idle,
                Caution = Caution,
            },
        ];

    private static SheetReading Ohms(TestedPart tested, string id, string when) =>
        new(id, $"Ohms, its blade to its metal, {when}", DeadOhms.Instance, At(tested, "out"), At(tested, "case"));
}
