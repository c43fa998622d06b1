using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Reference;
using Pritchel.Core.Units;

namespace Pritchel.Core.Circuits.Devices;

/// <summary>A 12 V flooded battery: rest volts by charge, resistance by cold-cranking amps, temperature and charge.</summary>
internal sealed class Battery(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            PartKinds.Battery,
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("coldCrankingAmps", 50, 1500, 230)],
            (part, figures) => new Battery(part, figures)
        );

    private ParameterId charge;
    private ParameterId temperature;
    private ParameterId wear;
    private SourceId source;
    private (int, int) nodes;

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        charge = declaration.Parameter(part.Id + "/charge", 0.9, Spread.Uniform(0.55, 1));
        temperature = declaration.Parameter(part.Id + "/celsius", 20, Spread.Uniform(5, 32));
        wear = declaration.Parameter(part.Id + "/wear", 1.15, new Spread(0.15, 0, 0));
        source = declaration.Source(part.Id, part.Id + ".+", part.Id + ".-");
        nodes = (declaration.Node(part.Id + ".+"), declaration.Node(part.Id + ".-"));
    }

    public override void Stamp(CircuitState state) =>
        state.SetSource(
            source,
            BatteryTables.RestVolts(state[charge]).Value,
            BatteryTables
                .InternalOhms(new Amps(figures["coldCrankingAmps"]), new Celsius(state[temperature]), state[charge])
                .Value * state[wear]
        );

    public override IEnumerable<Fault> Faults()
    {
        var repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ServiceBattery, part.Place);
        yield return new Fault
        {
            Id = part.Id + "/flat",
            Kind = FaultKind.Flat,
            Words = part.Name + ": flat",
            Repair = repair,
            Rate = 12,
            Severity = new Severity(0.002, 0.25),
            Changes = [new(charge, ChangeRule.SetToSeverity)],
            Nodes = nodes,
        };
        yield return new Fault
        {
            Id = part.Id + "/weak",
            Kind = FaultKind.Weak,
            Words = part.Name + ": worn out or sulphated",
            Repair = repair,
            Rate = 10,
            Severity = new Severity(4, 200),
            Changes = [new(wear, ChangeRule.MultiplyBySeverity)],
            Nodes = nodes,
        };
        yield return new Fault
        {
            Id = part.Id + "/open",
            Kind = FaultKind.Open,
            Words = part.Name + ": open inside",
            Repair = repair,
            Rate = 0.5,
            Changes = [new(wear, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
    }
}
