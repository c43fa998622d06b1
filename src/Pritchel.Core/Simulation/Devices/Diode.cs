using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A silicon diode, see <see cref="DiodeArm"/>.</summary>
internal sealed class Diode(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "diode",
            ["a", "k"],
            "exactly \"a\" (anode) and \"k\" (cathode)",
            [
                // 0.4–0.7 V one way on a meter's diode range: common practice, no source.
                new ValueRule("kneeVolts", 0.1, 2, DiodeArm.SiliconVolts) { Differs = 0.05 },
                new ValueRule("onOhms", 0.001, 10, 0.05) { Differs = 0.3 },
            ],
            (part, figures) => new Diode(part, figures)
        )
        {
            Traits = PartTraits.IsOneWay,
        };

    private DiodeArm arm = null!;

    public override bool IsActive => true;

    public override bool IsFast => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration) =>
        arm = new DiodeArm(declaration, part, "", "a", "k", figures["kneeVolts"], figures["onOhms"]);

    public override void Stamp(CircuitState state) => arm.Stamp(state);

    public override Change Step(CircuitState state) => arm.Step(state);

    // One that parts two signals hardly ever fails; one that each spark's primary volts stand on does.
    public override IEnumerable<Fault> Faults() =>
        ((Fault[])[arm.Open("open", 0.2), arm.Shorted("shorted", 0.3)]).Select(f => f with { TimesAtIgnition = 5 });
}
