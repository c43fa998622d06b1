using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A spark plug by itself, dead: its resistor from top to centre electrode, and what soot, fuel or a crack lets through to the
/// shell. What it needs to spark under pressure is the coil's matter, by logic.
/// </summary>
internal sealed class SparkPlug(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "spark-plug",
            ["top", "tip", "shell"],
            "exactly \"top\", \"tip\" and \"shell\"",
            // A resistor plug about 5 kΩ, one without near none: common practice, no source.
            [new ValueRule("resistorOhms", 0.05, 20_000, 5000)],
            (part, figures) => new SparkPlug(part, figures)
        );

    private Resistance resistor = null!;
    private Resistance insulator = null!;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        var ohms = figures["resistorOhms"];
        resistor = new Resistance(declaration, part, "resistorOhms", "top", "tip", ohms, Spread.Winding);
        insulator = new Resistance(
            declaration,
            part,
            "insulationOhms",
            "tip",
            "shell",
            double.PositiveInfinity,
            Spread.None
        );
    }

    public override void Stamp(CircuitState state)
    {
        resistor.Stamp(state);
        insulator.Stamp(state);
    }

    public override IEnumerable<Fault> Faults() =>
        [
            resistor.Gone("resistor-open", "resistor open", 2),
            PartFault.Of(
                part,
                "resistor-high",
                FaultKind.HighResistance,
                "resistor risen",
                1,
                resistor.Nodes,
                new ParameterChange(resistor.Ohms, ChangeRule.MultiplyBySeverity)
            ) with
            {
                Severity = new Severity(4, 200),
            },
            PartFault.Of(
                part,
                "fouled",
                FaultKind.StuckClosed,
                "fouled or cracked: leaks to its shell",
                4,
                insulator.Nodes,
                new ParameterChange(insulator.Ohms, ChangeRule.SetToSeverity)
            ) with
            {
                Severity = new Severity(2e6, 2000),
                Weakness = Weakness.Damp,
            },
        ];
}
