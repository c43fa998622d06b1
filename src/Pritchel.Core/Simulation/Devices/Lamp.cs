using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A filament lamp, see <see cref="Filament"/>; brightness falls far faster than volts.
/// </summary>
internal sealed class Lamp(Part part, PartFigures figures) : Device, INamedDevice
{
    public static DeviceKind Kind { get; } =
        new(
            "lamp",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("watts", 0.2, 200, 2), new ValueRule("volts", 1.5, 48, 12) { Differs = 0 }],
            (part, figures) => new Lamp(part, figures)
        );

    private ParameterId hotOhms;
    private MemoryId present;
    private BranchId branch;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        hotOhms = declaration.Parameter(part.Element(), "hotOhms", Hot, Spread.Winding);
        present = declaration.Memory(Hot);
        branch = declaration.Branch(part.Element(), part.At("+"), part.At("-"));
        nodes = (declaration.Node(part.At("+")), declaration.Node(part.At("-")));
    }

    public override void Stamp(CircuitState state) =>
        state.SetOhms(branch, double.IsInfinity(state[hotOhms]) ? double.PositiveInfinity : state[present]);

    public override Change Step(CircuitState state)
    {
        if (double.IsInfinity(state[hotOhms]))
        {
            return Change.None;
        }

        var share = state.Heating(branch) / figures["volts"];
        var ohms = state[hotOhms] * Filament.OhmsShare(share);
        ref var now = ref state[present];
        if (Math.Abs(ohms - now) <= state.Closeness * now)
        {
            return Change.None;
        }

        now = ohms;
        return Change.Refine;
    }

    public override Effect Effect(CircuitState state) =>
        new(
            EffectKind.Glows,
            double.IsInfinity(state[hotOhms]) || IsShorted(state) ? 0 : state.Heating(branch) / figures["volts"]
        );

    private bool IsShorted(CircuitState state) => state[hotOhms] < PartFault.ShortedShare * Hot;

    private double Hot => figures["volts"] * figures["volts"] / figures["watts"];

    public override IEnumerable<Fault> Faults()
    {
        yield return new Fault
        {
            Id = part.Fault("open"),
            Kind = FaultKind.Open,
            Words = part.Name + ": bulb gone",
            Repair = part.Repaired(RepairKind.ReplacePart),
            Rate = 3,
            Changes = [new(hotOhms, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
        yield return PartFault.Shorted(part, "socket or bulb shorted", 0.7, nodes, hotOhms, PartFault.DeadShort);
    }
}
