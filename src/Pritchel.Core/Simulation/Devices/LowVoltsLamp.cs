using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A lamp with a comparator behind it: it lights while its feed is there but under its volts, and goes out once the battery
/// is being charged. Under some 5 V it cannot light.
/// </summary>
internal sealed class LowVoltsLamp(Part part, PartFigures figures) : Device, INamedDevice
{
    // What a comparator needs to work at all, from memory.
    private const double LeastVolts = 5;

    public static DeviceKind Kind { get; } =
        new(
            "low-volts-lamp",
            ["+", "-"],
            "exactly \"+\" and \"-\"",
            [new ValueRule("lightsUnderVolts", 6, 30, 12.8), new ValueRule("ohms", 50, 10_000, 400)],
            (part, figures) => new LowVoltsLamp(part, figures)
        );

    private ParameterId works;
    private BranchId branch;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        works = declaration.Parameter(part.Element(), "works", 1, Spread.None);
        branch = declaration.Branch(part.Element(), part.At("+"), part.At("-"));
        nodes = (declaration.Node(part.At("+")), declaration.Node(part.At("-")));
    }

    public override void Stamp(CircuitState state) =>
        state.SetOhms(branch, state[works] > 0 ? figures["ohms"] : double.PositiveInfinity);

    public override Effect Effect(CircuitState state)
    {
        var volts = state.Across(branch);
        return new(
            EffectKind.Glows,
            state[works] > 0 && volts >= LeastVolts && volts < figures["lightsUnderVolts"] ? 1 : 0
        );
    }

    public override IEnumerable<Fault> Faults() =>
        [
            PartFault.Of(
                part,
                "dead",
                FaultKind.Open,
                "never lights",
                1.5,
                nodes,
                new ParameterChange(works, ChangeRule.Set, 0)
            ),
        ];
}
