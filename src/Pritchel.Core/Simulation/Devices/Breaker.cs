using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A thermal breaker on two studs, by its opening times. It stays tripped until the case begins anew; its studs corrode.
/// </summary>
internal sealed class Breaker(Part part, PartFigures figures) : Device, INamedDevice, IProtects
{
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
    private Overload overload = null!;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        contact = new Resistance(declaration, part, "ohms", "1", "2", figures["ohms"], Spread.Contact);
        tripped = declaration.State(part.Element());
        Rating = declaration.Parameter(part.Element(), "ratingAmps", figures["ratingAmps"], Spread.None);
        overload = new Overload(tripped, contact.Branch, OpeningCurve.ThermalBreaker, Rating);
    }

    public override void Stamp(CircuitState state) => contact.Stamp(state, state[tripped] == 0);

    public override Change Step(CircuitState state) => overload.Step(state);

    public override Effect Effect(CircuitState state) => new(EffectKind.Holds, HasOpened(state) ? 0 : 1);

    /// <inheritdoc/>
    public bool HasOpened(CircuitState state) => state[tripped] != 0;

    /// <inheritdoc/>
    public ParameterId Rating { get; private set; }

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
