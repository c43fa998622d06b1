using Pritchel.Core.Faults;
using Pritchel.Core.Handbook;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Simulation;

/// <summary>A wire or cable with the joints at its ends: three resistances in a row.</summary>
internal sealed class Conductor(Wire wire, Machine machine) : Device
{
    private readonly List<(ParameterId Ohms, BranchId Branch)> pieces = [];
    private readonly List<Fault> faults = [];

    public override void Declare(Declaration declaration)
    {
        var ohms = Conductors.Parse(wire.Gauge)!.Value.OhmsPerMetre * wire.LengthM;
        DeclareEnd(declaration, wire.From, "from");
        var whole = Piece(declaration, wire.Id, wire.Id + "@from", wire.Id + "@to", ohms, Spread.Conductor);
        DeclareEnd(declaration, wire.To, "to");
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

    private void DeclareEnd(Declaration declaration, WireEnd end, string which)
    {
        var kind = JointKinds.Named(end.Joint)!;
        var metal = $"{wire.Id}@{which}";
        if (!kind.HasResistance)
        {
            declaration.Tie(metal, end.At);
            return;
        }

        var address = $"{wire.Id}@{which}/joint";
        var ohms = Piece(declaration, address, end.At, metal, kind.Ohms.Value, Spread.Contact);
        var part = MachineWords.PartAt(machine, end.At);
        var words = $"{kind.Words} {MachineWords.AtTerminal(machine, end.At)}, {MachineWords.Colours(wire)}";
        var repair =
            end.RepairAlone == true
                ? new Repair(
                    $"joint:{wire.Id}@{which}",
                    words,
                    MachineWords.Short(machine, end.At) + " joint",
                    RepairKind.CleanJoint,
                    part.Place
                )
                : WireRepair();
        faults.AddRange(
            new SeriesFaults
            {
                Place = address,
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
                Place = wire.Id,
                Words = MachineWords.WireRun(machine, wire),
                Poor = "strands broken or green inside",
                Gone = "broken inside its insulation",
                Repair = WireRepair(),
                Ohms = ohms,
                Nodes = (declaration.Node(wire.Id + "@from"), declaration.Node(wire.Id + "@to")),
                PoorRate = heavy ? 0.6 : 0.3 + (0.2 * wire.LengthM),
                GoneRate = heavy ? 0.2 : 0.5 + (0.3 * wire.LengthM),
                Added = heavy ? new Severity(0.02, 1) : new Severity(0.05, 1000),
            }
                .Both()
                .Select(f => f with { Weakness = f.Weakness | Weakness.Rodents | Weakness.RecentWork })
        );
    }

    private Repair WireRepair() => MachineWords.RepairOf(machine, wire);

    private ParameterId Piece(Declaration d, string name, string from, string to, double ohms, Spread spread)
    {
        var parameter = d.Parameter(name + "/ohms", ohms, spread);
        pieces.Add((parameter, d.Branch(name, from, to)));
        return parameter;
    }
}
