using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A thermal breaker on two studs. It trips when the current stays over its rating by a third, and stays tripped until the
/// case begins anew; its studs corrode.
/// </summary>
internal sealed class Breaker(Part part, PartFigures figures) : Device, INamedDevice
{
    // Trips within a minute or so at a third over: from memory.
    private const double TripsAtTimesRating = 1.35;
    private const double TripMilliseconds = 2000;

    public static DeviceKind Kind { get; } =
        new(
            "breaker",
            ["1", "2"],
            "exactly \"1\" and \"2\"",
            [new ValueRule("ratingAmps", 1, 500, 30), new ValueRule("ohms", 0.0001, 0.1, 0.003)],
            (part, figures) => new Breaker(part, figures)
        )
        {
            Traits = PartTraits.Trips,
        };

    private Resistance contact = null!;
    private StateId tripped;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        contact = new Resistance(declaration, part, "ohms", "1", "2", figures["ohms"], Spread.Contact);
        tripped = declaration.State(part.Element());
    }

    public override void Stamp(CircuitState state) => contact.Stamp(state, state[tripped] == 0);

    public override Change Step(CircuitState state) =>
        state[tripped] == 0 && Math.Abs(state.Through(contact.Branch)) > TripsAtTimesRating * figures["ratingAmps"]
            ? Change.Switch(tripped, 1, TripMilliseconds)
            : Change.None;

    public override IEnumerable<Fault> Faults() =>
        [
            contact.Gone("open", "does not close", 2),
            contact.Poor("stud-corroded", "stud corroded", 2, new Severity(0.02, 100)) with
            {
                Repair = new Repair(
                    new RepairId(RepairTarget.Studs, part.Id.Text),
                    part.Name + ", studs",
                    part.Name + " studs",
                    RepairKind.CleanJoint,
                    part.Place
                ),
            },
        ];
}
