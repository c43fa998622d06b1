using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>A wire or cable with the joints at its ends: three resistances in a row.</summary>
internal sealed class Conductor(Wire wire, Machine machine) : Device
{
    private readonly List<(ParameterId Ohms, BranchId Branch)> pieces = [];
    private readonly List<(WireEndId End, ParameterId Ohms)> joints = [];
    private readonly List<Fault> faults = [];

    // A cable's lug has a broad face under a large bolt: a third of a small ring's, from memory.
    private const double CableShare = 1.0 / 3;

    /// <summary>The wire.</summary>
    public Wire Wire => wire;

    /// <summary>Resistances of its joints, those that are apart from what they join to.</summary>
    public IReadOnlyList<(WireEndId End, ParameterId Ohms)> Joints => joints;

    public override void Declare(Declaration declaration)
    {
        var ohms = Conductors.Parse(wire.Gauge)!.Value.OhmsPerMetre * wire.LengthM;
        DeclareEnd(declaration, wire.Id.From);
        var whole = Piece(
            declaration,
            Owner.Of(wire.Id).Element(),
            (wire.Id.From, wire.Id.To),
            ohms,
            Spread.Conductor,
            BranchRole.Conductor
        );
        DeclareEnd(declaration, wire.Id.To);
        DeclareWireFaults(declaration, whole);
    }

    public override void Stamp(CircuitState state)
    {
        foreach (var (ohms, branch) in pieces)
        {
            state.SetOhms(branch, state[ohms]);
        }
    }

    public override IEnumerable<Fault> Faults() => faults;

    private void DeclareEnd(Declaration declaration, WireEndId metal)
    {
        var end = wire.End(metal.Side);
        var kind = JointKinds.Named(end.Joint)!;
        if (!kind.HasResistance)
        {
            declaration.Tie(metal, end.At);
            return;
        }

        var joint = Owner.Of(metal).Element();
        var healthy = wire.Cable == true ? kind.Ohms.Value * CableShare : kind.Ohms.Value;
        var ohms = Piece(declaration, joint, (end.At, metal), healthy, Spread.Contact, BranchRole.Joint);
        joints.Add((metal, ohms));
        var part = MachineWords.PartAt(machine, end.At);
        var words = $"{kind.Words} {MachineWords.AtTerminal(machine, end.At)}, {MachineWords.Colours(wire)}";
        var repair =
            end.RepairAlone == true
                ? new Repair(
                    new RepairId(RepairTarget.Joint, metal.Text),
                    words,
                    MachineWords.Short(machine, end.At) + " joint",
                    RepairKind.CleanJoint,
                    part.Place
                )
                : WireRepair.Of(machine, wire);
        faults.AddRange(
            new SeriesFaults
            {
                Place = joint,
                Words = words,
                Poor = "loose or corroded",
                Gone = "off or burnt away",
                Repair = repair,
                Ohms = ohms,
                Nodes = (declaration.Node(end.At), declaration.Node(metal)),
                PoorRate = kind.ResistiveRate,
                GoneRate = kind.OpenRate,
                Added = wire.Cable == true ? new Severity(0.02, 10) : new Severity(0.05, 10_000),
            }.Both()
        );
    }

    private void DeclareWireFaults(Declaration declaration, ParameterId ohms)
    {
        var heavy = wire.Cable == true;
        faults.AddRange(
            new SeriesFaults
            {
                Place = Owner.Of(wire.Id).Element(),
                Words = MachineWords.WireRun(machine, wire),
                Poor = "strands broken or green inside",
                Gone = "broken inside its insulation",
                Repair = WireRepair.Of(machine, wire),
                Ohms = ohms,
                Nodes = (declaration.Node(wire.Id.From), declaration.Node(wire.Id.To)),
                PoorRate = heavy ? 0.6 : 0.3 + (0.2 * wire.LengthM),
                GoneRate = heavy ? 0.2 : 0.5 + (0.3 * wire.LengthM),
                Added = heavy ? new Severity(0.02, 1) : new Severity(0.05, 1000),
            }
                .Both()
                .Select(f => f with { Weakness = f.Weakness | Weakness.Rodents | Weakness.RecentWork })
        );
    }

    private ParameterId Piece(
        Declaration declaration,
        Element of,
        (PointId From, PointId To) ends,
        double ohms,
        Spread spread,
        BranchRole role
    )
    {
        var parameter = declaration.Parameter(of, "ohms", ohms, spread);
        pieces.Add((parameter, declaration.Branch(of, ends.From, ends.To, role)));
        return parameter;
    }
}
