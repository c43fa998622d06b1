using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A blade fuse in its holder. It blows, and stays blown, when the current stays over twice its rating.</summary>
/// <remarks>A blade fuse opens within seconds at 200 % of its rating: ISO 8820-3, from memory.</remarks>
internal sealed class Fuse(Part part, PartFigures figures) : Device, INamedDevice
{
    private const double BlowsAtTimesRating = 2;
    private const double BlowMilliseconds = 500;

    public static DeviceKind Kind { get; } =
        new(
            "fuse",
            ["1", "2"],
            "exactly \"1\" and \"2\"",
            [new ValueRule("ratingAmps", 1, 500, 15), new ValueRule("ohms", 0.0001, 0.1, 0.006)],
            (part, figures) => new Fuse(part, figures)
        )
        {
            Traits = PartTraits.PullsOut,
        };

    private ParameterId ohms;
    private BranchId branch;
    private StateId blown;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        ohms = declaration.Parameter(part.Element(), "ohms", figures["ohms"], Spread.Contact);
        branch = declaration.Branch(part.Element(), part.At("1"), part.At("2"));
        blown = declaration.State(part.Element());
        nodes = (declaration.Node(part.At("1")), declaration.Node(part.At("2")));
    }

    public override void Stamp(CircuitState state) =>
        state.SetOhms(branch, state[blown] == 1 ? double.PositiveInfinity : state[ohms]);

    public override Change Step(CircuitState state) =>
        state[blown] == 0 && Math.Abs(state.Through(branch)) > BlowsAtTimesRating * figures["ratingAmps"]
            ? Change.Switch(blown, 1, BlowMilliseconds)
            : Change.None;

    public override IEnumerable<Fault> Faults()
    {
        var repair = part.Repaired(RepairKind.ReplaceFuse);
        yield return new Fault
        {
            Id = part.Fault("blown"),
            Kind = FaultKind.Blown,
            Words = part.Name + ": blown of itself",
            Repair = repair,
            Rate = 4,
            Changes = [new(ohms, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
        yield return new Fault
        {
            Id = part.Fault("resistive"),
            Kind = FaultKind.HighResistance,
            Words = part.Name + ": holder corroded",
            Repair = repair,
            Rate = 2.5,
            Severity = new Severity(0.05, 10_000),
            Changes = [new(ohms, ChangeRule.AddSeverity)],
            Nodes = nodes,
            ComesAndGoes = true,
        };
    }
}
