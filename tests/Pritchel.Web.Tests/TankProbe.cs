using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Tests;

/// <summary>A device that only these tests know: a heated probe in a tank, which works until it is crusted over.</summary>
public sealed class TankProbe(Part part, PartFigures figures) : Device, INamedDevice
{
    private Resistance heater = null!;

    public static DeviceKind Kind { get; } =
        new(
            "tank-probe",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("ohms", 1, 1000, 24)],
            (part, figures) => new TankProbe(part, figures)
        );

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration) =>
        heater = new Resistance(declaration, part, "ohms", "+", "-", figures["ohms"], Spread.Winding);

    public override void Stamp(CircuitState state) => heater.Stamp(state);

    public override Effect Effect(CircuitState state) => new(EffectKind.Works, heater.Drive(state) / 9);

    public override IEnumerable<Fault> Faults() =>
        [heater.Gone("burnt", "heater burnt out", 2), heater.Poor("crusted", "crusted over", 3, new Severity(20, 400))];
}
