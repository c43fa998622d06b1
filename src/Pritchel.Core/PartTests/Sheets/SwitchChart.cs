using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
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
            let closed = contact.ClosedIn.Contains(position)
            select new SheetReading(
                $"{contact.Id}-{position}",
                $"Ohms, {contact.Between[0]} to {contact.Between[1]}, {control.Said(position)}",
                DeadOhms.Instance,
                At(tested, contact.Between[0].Text),
                At(tested, contact.Between[1].Text)
            )
            {
                How = closed ? "should join; move it three times, keep the worst" : "should be open: OL",
                Setting = new Dictionary<ControlId, PositionId> { [control.Id] = position },
            },
        ];
}
