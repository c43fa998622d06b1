using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
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
            [new ValueRule("watts", 0.2, 200, 2), new ValueRule("volts", 1.5, 48, 12)],
            (part, figures) => new Lamp(part, figures)
        );

    private ParameterId hotOhms;
    private MemoryId present;
    private BranchId branch;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override string PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        var hot = figures["volts"] * figures["volts"] / figures["watts"];
        hotOhms = declaration.Parameter(part.Id + "/hotOhms", hot, Spread.Winding);
        present = declaration.Memory(hot);
        branch = declaration.Branch(part.Id, part.Id + ".+", part.Id + ".-");
        nodes = (declaration.Node(part.Id + ".+"), declaration.Node(part.Id + ".-"));
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
        new(EffectKind.Glows, double.IsInfinity(state[hotOhms]) ? 0 : state.Heating(branch) / figures["volts"]);

    public override IEnumerable<Fault> Faults()
    {
        yield return new Fault
        {
            Id = part.Id + "/open",
            Kind = FaultKind.Open,
            Words = part.Name + ": bulb gone",
            Repair = new Repair("part:" + part.Id, part.Name, part.Name, RepairKind.ReplacePart, part.Place),
            Rate = 3,
            Changes = [new(hotOhms, ChangeRule.Set, double.PositiveInfinity)],
            Nodes = nodes,
        };
    }
}
