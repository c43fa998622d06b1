using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>A part's own metal bolted to a ground body.</summary>
internal sealed class MountedMetal(Mount mount, Machine machine) : Device
{
    // A clean bolted face: 40 mV at a starter's 200 A, a fifth of what a whole ground side may lose. From memory.
    private const double HealthyOhms = 0.0002;
    private ParameterId ohms;
    private BranchId branch;
    private (int, int) nodes;

    public override void Declare(Declaration declaration)
    {
        ohms = declaration.Parameter(Owner.Of(mount.Id).Element(), "ohms", HealthyOhms, Spread.Contact);
        branch = declaration.Branch(Owner.Of(mount.Id).Element(), mount.Terminal, mount.On);
        nodes = (declaration.Node(mount.Terminal), declaration.Node(mount.On));
    }

    public override void Stamp(CircuitState state) => state.SetOhms(branch, state[ohms]);

    public override IEnumerable<Fault> Faults() =>
        new SeriesFaults
        {
            Place = Owner.Of(mount.Id).Element(),
            Words = mount.Name,
            Poor = "rust or paint under it",
            Gone = "not grounded",
            Repair = new Repair(
                new RepairId(RepairTarget.Mount, mount.Id.Text),
                mount.Name,
                mount.Name,
                RepairKind.BrightenGround,
                MachineWords.PartAt(machine, mount.Terminal).Place
            ),
            Ohms = ohms,
            Nodes = nodes,
            PoorRate = 2.5,
            GoneRate = 1,
            Added = new Severity(0.02, 1000),
        }.Both();
}
