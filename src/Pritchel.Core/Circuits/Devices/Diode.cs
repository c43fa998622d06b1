using Pritchel.Core.Faults;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Circuits.Devices;

/// <summary>
/// A silicon diode as two straight lines: nothing below its knee, knee volts behind a small resistance above it. Volts
/// across it decide which; since current never falls as volts rise, the states always come to rest.
/// </summary>
internal sealed class Diode(Part part, PartFigures figures) : Device, INamedDevice
{
    private const int Conducting = 1;

    // What a blocking diode leaks, about 12 nA at 12 V: from memory. Without it a diode in series with another would see
    // no volts at all, and neither would ever begin to conduct.
    private const double BlockingOhms = 1e9;

    public static DeviceKind Kind { get; } =
        new(
            "diode",
            ["a", "k"],
            "exactly \"a\" (anode) and \"k\" (cathode)",
            [
                // 0.4–0.7 V one way on a meter's diode range: common practice, no source.
                new ValueRule("kneeVolts", 0.1, 2, 0.55),
                new ValueRule("onOhms", 0.001, 10, 0.05),
            ],
            (part, figures) => new Diode(part, figures)
        );

    private ParameterId onOhms;
    private ParameterId shortOhms;
    private SourceId knee;
    private BranchId across;
    private StateId state;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        var (anode, cathode) = (part.Id + ".a", part.Id + ".k");
        onOhms = declaration.Parameter(part.Id + "/onOhms", figures["onOhms"], Spread.Winding);
        shortOhms = declaration.Parameter(part.Id + "/shortOhms", BlockingOhms, Spread.None);
        knee = declaration.Source(part.Id, anode, cathode);
        across = declaration.Branch(part.Id + "/short", anode, cathode);
        state = declaration.State(part.Id);
        nodes = (declaration.Node(anode), declaration.Node(cathode));
    }

    public override void Stamp(CircuitState circuit)
    {
        var conducts = circuit[state] == Conducting;
        circuit.SetSource(
            knee,
            conducts ? figures["kneeVolts"] : 0,
            conducts ? circuit[onOhms] : double.PositiveInfinity
        );
        circuit.SetOhms(across, circuit[shortOhms]);
    }

    public override Change Step(CircuitState circuit)
    {
        var conducts = !double.IsInfinity(circuit[onOhms]) && circuit.Across(across) > figures["kneeVolts"];
        return conducts == (circuit[state] == Conducting)
            ? Change.None
            : Change.Switch(state, conducts ? Conducting : 0, 0);
    }

    public override IEnumerable<Fault> Faults()
    {
        var repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ReplacePart, part.Place);
        yield return new Fault
        {
            Id = part.Id + "/open",
            Kind = FaultKind.Open,
            Words = part.Name + ": open",
            Repair = repair,
            Rate = 1,
            Changes = [new(onOhms, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
        yield return new Fault
        {
            Id = part.Id + "/shorted",
            Kind = FaultKind.StuckClosed,
            Words = part.Name + ": shorted",
            Repair = repair,
            Rate = 1.5,
            Severity = new Severity(0.02, 1),
            Changes = [new(shortOhms, ChangeRule.SetToSeverity)],
            Nodes = nodes,
        };
    }
}
