using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.PartTests.Sheets;

/// <summary>A switch against its own chart: every contact in every position of what works it.</summary>
public sealed class SwitchChart : PartSheet
{
    /// <inheritdoc/>
    public override string Key => "switch";

    /// <inheritdoc/>
    public override string Name => "Switch, by its chart";

    /// <inheritdoc/>
    public override bool Fits(DeviceKind kind) => kind.Traits.HasFlag(PartTraits.IsSwitched);

    /// <inheritdoc/>
    public override string Before => "Its plug or blades off: what it is joined to is measured with it.";

    /// <inheritdoc/>
    public override string DoesNotProve =>
        "A contact that reads well at a milliamp may lose volts at its own current, and a plunger that closes by hand may be reached too little on the machine.";

    /// <inheritdoc/>
    public override IReadOnlyList<SheetLook> Looks =>
        [
            new("travel", "plunger or arm that no longer comes all the way", FaultKind.Open, FaultKind.StuckClosed),
            new("water", "water or salt inside", FaultKind.HighResistance, FaultKind.Open),
            new("browned", "a blade browned by heat", FaultKind.HighResistance),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SheetReading> Readings(TestedPart tested) =>
        [
            .. from contact in tested.Part.Contacts ?? []
            let control = tested.Controls.First(c => c.Id == contact.Control)
            from position in control.Positions
            select Reading(tested, contact, control, position, again: false),
            // What a sensor feels it is given back at the end: one that stays as it was is told by that.
            .. from contact in tested.Part.Contacts ?? []
            let control = tested.Controls.First(c => c.Id == contact.Control)
            where control.Sensed == true
            select Reading(tested, contact, control, control.Rest, again: true),
        ];

    private static SheetReading Reading(
        TestedPart tested,
        Contact contact,
        Control control,
        PositionId position,
        bool again
    ) =>
        new(
            $"{contact.Id}-{position}{(again ? "-again" : "")}",
            $"Ohms, {contact.Between[0]} to {contact.Between[1]}, {control.Said(position)}{(again ? " again" : "")}",
            DeadOhms.Instance,
            At(tested, contact.Between[0].Text),
            At(tested, contact.Between[1].Text)
        )
        {
            How = How(contact.ClosedIn.Contains(position), control, position, again),
            Setting = new Dictionary<ControlId, PositionId> { [control.Id] = position },
            From = again ? new Dictionary<ControlId, PositionId> { [control.Id] = Other(control) } : null,
            Wait = control.Sensed == true ? Watched : TimeSpan.Zero,
            Caution = control.Sensed == true && position != control.Rest ? SensorCaution : null,
        };

    // An alarm that is delayed answers within this: common practice, no source.
    private static readonly TimeSpan Watched = TimeSpan.FromMinutes(2);

    private const string SensorCaution =
        "In what it lives in and no other: water for a water sensor, warmed water for a heat switch, never a flame; a fuel sender only out of its tank, away from it. Engine stopped.";

    private static PositionId Other(Control control) => control.Positions.First(p => p != control.Rest);

    private static string How(bool closed, Control control, PositionId position, bool again) =>
        (closed ? "should join" : "should be open: OL")
        + (
            control.Sensed != true ? (closed ? "; move it three times, keep the worst" : "")
            : position == control.Rest
                ? $"; {(again ? "wiped dry or cooled, " : "")}watched two minutes; note whether it is steady"
            : "; in what it feels, watched two minutes: at once or after a while, steady or flickering, note it; its lead off, or the lead is read with it"
        );
}
