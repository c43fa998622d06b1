using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation.Devices;

/// <summary>A multi-pin coupling: per cavity, a pin and a socket that must touch.</summary>
internal sealed class Coupling(Part part, PartFigures figures) : Device, INamedDevice, IComesApart
{
    public static DeviceKind Kind { get; } =
        new(
            PartKinds.Coupling,
            [],
            "\"1a\", \"1b\", \"2a\", \"2b\"… one pair per cavity",
            [new ValueRule("contactOhms", 0.0005, 0.1, 0.004) { Differs = 0.6 }],
            (part, figures) => new Coupling(part, figures)
        )
        {
            Traits = PartTraits.ComesApart,
        };

    private readonly List<(string Cavity, ParameterId Ohms, BranchId Branch, (int, int) Nodes)> cavities = [];

    public override PartId? PartId => part.Id;

    public IEnumerable<(string Cavity, ParameterId Ohms)> Cavities => cavities.Select(c => (c.Cavity, c.Ohms));

    public override void Declare(Declaration declaration)
    {
        foreach (var cavity in Cavity.Of(part))
        {
            var of = part.Element(cavity.Name);
            cavities.Add(
                (
                    cavity.Name,
                    declaration.Parameter(of, "ohms", figures["contactOhms"], Spread.Contact),
                    declaration.Branch(of, cavity.A, cavity.B, BranchRole.Cavity),
                    (declaration.Node(cavity.A), declaration.Node(cavity.B))
                )
            );
        }
    }

    public override void Stamp(CircuitState state)
    {
        foreach (var (_, ohms, branch, _) in cavities)
        {
            state.SetOhms(branch, state[ohms]);
        }
    }

    public override IEnumerable<Fault> Faults() => cavities.SelectMany(c => CavityFaults(c.Cavity, c.Ohms, c.Nodes));

    private IEnumerable<Fault> CavityFaults(string cavity, ParameterId ohms, (int, int) nodes)
    {
        var words = $"{part.Name}, cavity {cavity}";
        return new SeriesFaults
        {
            Place = part.Element(cavity),
            Words = words,
            Poor = "corroded",
            Gone = "pin backed out or spread",
            Repair = new Repair(
                new RepairId(RepairTarget.Cavity, part.Element(cavity).Text),
                words,
                words,
                RepairKind.RenewCavity,
                part.Place
            ),
            Ohms = ohms,
            Nodes = nodes,
            PoorRate = 2,
            GoneRate = 1.5,
        }.Both();
    }
}
