using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>
/// A fuse in its holder, by the opening times of its class. It blows, and stays blown until the case begins anew.
/// </summary>
internal abstract class FuseLink(Part part, PartFigures figures, OpeningCurve curve) : Device, IProtects
{
    private ParameterId ohms;
    private BranchId branch;
    private StateId blown;
    private Overload overload = null!;
    private (int, int) nodes;

    public override bool IsActive => true;

    public override PartId? PartId => part.Id;

    public override void Declare(Declaration declaration)
    {
        ohms = declaration.Parameter(part.Element(), "ohms", figures["ohms"], Spread.Contact);
        branch = declaration.Branch(part.Element(), part.At("1"), part.At("2"));
        blown = declaration.State(part.Element());
        Rating = declaration.Parameter(part.Element(), "ratingAmps", figures["ratingAmps"], Spread.None);
        overload = new Overload(blown, branch, curve, Rating);
        nodes = (declaration.Node(part.At("1")), declaration.Node(part.At("2")));
    }

    public override void Stamp(CircuitState state) =>
        state.SetOhms(branch, state[blown] == 1 ? double.PositiveInfinity : state[ohms]);

    public override Change Step(CircuitState state) => overload.Step(state);

    public override Effect Effect(CircuitState state) => new(EffectKind.Holds, HasOpened(state) ? 0 : 1);

    /// <inheritdoc/>
    public bool HasOpened(CircuitState state) => state[blown] == 1;

    /// <inheritdoc/>
    public ParameterId Rating { get; private set; }

    private protected static DeviceKind Named(string name, double usualAmps, Func<Part, PartFigures, Device> make) =>
        new(
            name,
            ["1", "2"],
            "exactly \"1\" and \"2\"",
            [new ValueRule("ratingAmps", 1, 500, usualAmps), new ValueRule("ohms", 0.0001, 0.1, 0.006)],
            make
        )
        {
            Traits = PartTraits.PullsOut,
        };

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
        yield return PartFault.Of(
            part,
            "too-small",
            FaultKind.WrongPart,
            "one of too small a rating fitted",
            0.2,
            nodes,
            new ParameterChange(Rating, ChangeRule.MultiplyBySeverity)
        ) with
        {
            Repair = repair,
            Severity = new Severity(0.5, 0.2),
            Weakness = Weakness.RecentWork,
        };
    }
}

/// <summary>A blade fuse.</summary>
internal sealed class Fuse(Part part, PartFigures figures) : FuseLink(part, figures, OpeningCurve.Blade), INamedDevice
{
    public static DeviceKind Kind { get; } = Named("fuse", 15, (part, figures) => new Fuse(part, figures));
}

/// <summary>A strip fuse bolted to two studs, slower than a blade: mains and charge leads.</summary>
internal sealed class BoltedFuse(Part part, PartFigures figures)
    : FuseLink(part, figures, OpeningCurve.Bolted),
        INamedDevice
{
    public static DeviceKind Kind { get; } = Named("bolted-fuse", 60, (part, figures) => new BoltedFuse(part, figures));
}
