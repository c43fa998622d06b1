using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// One change of the drawing under which the sound machine would give the complaint and every reading: a wire's end on another
/// terminal of the part it goes to, or a lead between two terminals of one part that the drawing has not.
/// </summary>
/// <param name="Words">The change, in words.</param>
/// <param name="At">Where to look for it.</param>
public sealed record NotAsDrawn(string Words, TerminalAddress At)
{
    private const double LeadOhms = 0.005;

    // A board or a coupling of many terminals has hundreds of pairs; a mistake seldom lies further than this.
    private const int MostTerminals = 10;

    /// <summary>The first such change, moved ends before added leads; null when there is none. A second or two.</summary>
    /// <param name="beliefs">Beliefs that no single fault leads.</param>
    public static NotAsDrawn? Of(Beliefs beliefs)
    {
        var circuit = beliefs.Table.Circuit;
        var near = Near(beliefs);
        return Moved(circuit, near)
            .Concat(Added(circuit, near))
            .Where(c => GivesTheComplaint(beliefs, c.Change) && Unexplained.Shows(beliefs, [new(c.Change, 1)]))
            .Select(c => c.Said)
            .FirstOrDefault();
    }

    /// <summary>Parts on metal that was read, or that the duty's current passes.</summary>
    private static List<Part> Near(Beliefs beliefs)
    {
        var (table, circuit) = (beliefs.Table, beliefs.Table.Circuit);
        var own = table.Conditions[0].Setting;
        var nodes = new[] { table.Duty.Control, table.Duty.Load }
            .Where(p => p is not null)
            .SelectMany(p => LinePath.Through(circuit, own, p!.Value).Nodes)
            .Concat(beliefs.Readings.SelectMany(r => new[] { r.At.Red, r.At.Black }))
            .Where(n => n != circuit.Reference)
            .ToHashSet();
        return
        [
            .. circuit.Machine.Parts.Where(p =>
                !circuit.Is(p.Id, PartTraits.IsMetal | PartTraits.IsSplice)
                && p.Terminals.Count is > 1 and <= MostTerminals
                && p.Terminals.Any(t => nodes.Contains(circuit.NodeOf(p.At(t))))
            ),
        ];
    }

    private static IEnumerable<(Fault Change, NotAsDrawn Said)> Moved(Circuit circuit, List<Part> near)
    {
        var machine = circuit.Machine;
        foreach (var wire in machine.Wires)
        {
            foreach (var (end, at) in wire.Ends)
            {
                if (near.Find(p => p.Id == at.Part) is not { } part)
                {
                    continue;
                }

                foreach (
                    var there in part.Addresses.Where(a => a != at && Fits(circuit, at.Terminal, a.Terminal, part))
                )
                {
                    yield return (
                        Change(
                            circuit,
                            $"{end}>{there}",
                            [
                                .. circuit
                                    .Opening.Of(end)
                                    .Select(p => new ParameterChange(p, ChangeRule.Set, double.PositiveInfinity)),
                            ],
                            new LaidPath(end, there, LeadOhms)
                        ),
                        new NotAsDrawn(
                            $"the {MachineWords.WireRun(machine, wire)}, sits on {MachineWords.Terminal(machine, there)}",
                            there
                        )
                    );
                }
            }
        }
    }

    private static IEnumerable<(Fault Change, NotAsDrawn Said)> Added(Circuit circuit, List<Part> near)
    {
        var machine = circuit.Machine;
        foreach (var part in near)
        {
            for (var i = 0; i < part.Terminals.Count; i++)
            {
                for (var j = i + 1; j < part.Terminals.Count; j++)
                {
                    var (one, two) = (part.At(part.Terminals[i]), part.At(part.Terminals[j]));
                    if (
                        circuit.NodeOf(one) != circuit.NodeOf(two)
                        && Fits(circuit, part.Terminals[i], part.Terminals[j], part)
                    )
                    {
                        yield return (
                            Change(circuit, $"{one}+{two}", [], new LaidPath(one, two, LeadOhms)),
                            new NotAsDrawn(
                                $"a lead that is not drawn joins {MachineWords.Terminal(machine, one)} and {MachineWords.Letter(part.Terminals[j])}",
                                two
                            )
                        );
                    }
                }
            }
        }
    }

    /// <summary>Whether one may be taken for the other: in a coupling, on the same side of it.</summary>
    private static bool Fits(Circuit circuit, TerminalId one, TerminalId other, Part part) =>
        !circuit.Is(part.Id, PartTraits.ComesApart) || Cavity.SideOf(one) == Cavity.SideOf(other);

    private static Fault Change(Circuit circuit, string words, IReadOnlyList<ParameterChange> changes, LaidPath path) =>
        new()
        {
            Id = new FaultId(circuit.Machine.Parts[0].Element(words), "not-as-drawn"),
            Kind = FaultKind.Swapped,
            Words = words,
            Repair = new Repair(
                new RepairId(RepairTarget.NotAsDrawn, ""),
                words,
                words,
                RepairKind.RenewWire,
                circuit.Machine.Places[0].Id
            ),
            Rate = 0,
            Changes = changes,
            Paths = [path],
        };

    private static bool GivesTheComplaint(Beliefs beliefs, Fault change)
    {
        var table = beliefs.Table;
        var runner = new CaseRunner(table, table.Circuit.With([change]), DutyWaves.BeliefTolerance);
        var heard = runner.Begin(change, table.Circuit.NominalParameters(), 1);
        return beliefs.Complaint.Heard is var said
            && (said is Heard.NotSaid or Heard.WillNotStart ? heard != Heard.Works : heard == said);
    }
}
