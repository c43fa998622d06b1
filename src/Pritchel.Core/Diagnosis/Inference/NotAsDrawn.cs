using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Inference;

/// <summary>
/// One change of the drawing under which the sound machine would give the complaint and every reading: a wire's end on another
/// terminal of the part it goes to, what is on two terminals of one part the other way round, or a lead between two of them that the
/// drawing has not.
/// </summary>
/// <param name="Words">The change, in words.</param>
/// <param name="At">Where to look for it.</param>
public sealed record NotAsDrawn(string Words, TerminalAddress At)
{
    /// <summary>Wires that it moves or adds to.</summary>
    private IReadOnlyList<WireId> Wires { get; init; } = [];

    private const double LeadOhms = 0.005;

    // A board or a coupling of many terminals has hundreds of pairs; a mistake seldom lies further than this.
    private const int MostTerminals = 10;

    /// <summary>
    /// The first such change: moved ends, then leads that changed places, then added leads; null when there is none. A second or two.
    /// </summary>
    /// <param name="beliefs">What is believed.</param>
    public static NotAsDrawn? Of(Beliefs beliefs) => First(beliefs, _ => true);

    /// <summary>
    /// The first such change where somebody worked on it just before, null when nobody did: leads are compared with the drawing before
    /// anything is renewed. Once the first suspect's place was looked at, only those that are not there: none of its wires, not its part.
    /// </summary>
    /// <param name="beliefs">Beliefs that a fault leads.</param>
    public static NotAsDrawn? InsteadOfTheFirst(Beliefs beliefs)
    {
        if (
            beliefs.Complaint.Circumstances is { RecentWork: false, NewWiring: false }
            || beliefs.Suspects[0].Repair is not { } first
        )
        {
            return null;
        }

        if (beliefs.SideEvidence.Looks.All(l => l.Repair != first.Id))
        {
            return Of(beliefs);
        }

        var looked = beliefs
            .Table.Circuit.Faults.Where(f => f.Repair.Id == first.Id)
            .Select(f => f.Id.Of.Owner)
            .ToList();
        return First(beliefs, c => !looked.Any(o => o.Part == c.At.Part || c.Wires.Any(w => w == o.Wire)));
    }

    private static NotAsDrawn? First(Beliefs beliefs, Func<NotAsDrawn, bool> wanted)
    {
        var circuit = beliefs.Table.Circuit;
        var near = Near(beliefs);
        return Moved(circuit, near)
            .Concat(Exchanged(circuit, near))
            .Concat(Added(circuit, near))
            .Where(c =>
                wanted(c.Said)
                && GivesTheComplaint(beliefs, c.Change)
                && GoesWithTheRest(beliefs, c.Change)
                && Unexplained.Shows(beliefs, [new(c.Change, 1)])
            )
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
                // A pin goes nowhere but into another's cavity: that is two changing places.
                if (near.Find(p => p.Id == at.Part) is not { } part || circuit.Opening.Of(end).Count == 0)
                {
                    continue;
                }

                foreach (
                    var there in part.Addresses.Where(a =>
                        a != at && TakesLeads(machine, a) && Fits(circuit, at.Terminal, a.Terminal, part)
                    )
                )
                {
                    yield return (
                        Change(
                            circuit,
                            $"{end}>{there}",
                            [.. TakenOff(circuit, end)],
                            new LaidPath(end, there, LeadOhms)
                        ),
                        new NotAsDrawn(
                            $"the {MachineWords.WireRun(machine, wire)}, sits on {MachineWords.Terminal(machine, there)}",
                            there
                        )
                        {
                            Wires = [wire.Id],
                        }
                    );
                }
            }
        }
    }

    private static IEnumerable<(Fault Change, NotAsDrawn Said)> Exchanged(Circuit circuit, List<Part> near)
    {
        var machine = circuit.Machine;
        var ends = machine.Wires.SelectMany(w => w.Ends).ToLookup(e => e.At, e => e.Name);
        foreach (var part in near)
        {
            var cavities = Cavity.Of(part).ToDictionary(c => c.A);
            foreach (var (one, other) in Pairs(circuit, part))
            {
                if (cavities.TryGetValue(one, out var first))
                {
                    yield return (
                        MachineFaults.Crossed(circuit, Change(circuit, $"{one}<>{other}", []), first, cavities[other]),
                        new NotAsDrawn(
                            $"the pins in {part.Name}, cavities {first.Name} and {cavities[other].Name}, have changed places",
                            one
                        )
                        {
                            Wires = [.. ends[one].Concat(ends[other]).Select(e => e.Wire)],
                        }
                    );
                }
                else if (
                    ends.Contains(one)
                    && ends.Contains(other)
                    && ends[one].Concat(ends[other]).All(e => circuit.Opening.Of(e).Count > 0)
                )
                {
                    yield return (
                        Change(
                            circuit,
                            $"{one}<>{other}",
                            [.. ends[one].Concat(ends[other]).SelectMany(e => TakenOff(circuit, e))],
                            [
                                .. ends[one].Select(e => new LaidPath(e, other, LeadOhms)),
                                .. ends[other].Select(e => new LaidPath(e, one, LeadOhms)),
                            ]
                        ),
                        new NotAsDrawn(
                            $"the leads on {MachineWords.Terminal(machine, one)} and on {MachineWords.Letter(other.Terminal)} have changed places",
                            one
                        )
                        {
                            Wires = [.. ends[one].Concat(ends[other]).Select(e => e.Wire)],
                        }
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
            foreach (
                var (one, two) in Pairs(circuit, part).Where(p => circuit.NodeOf(p.One) != circuit.NodeOf(p.Other))
            )
            {
                yield return (
                    Change(circuit, $"{one}+{two}", [], new LaidPath(one, two, LeadOhms)),
                    new NotAsDrawn(
                        $"a lead that is not drawn joins {MachineWords.Terminal(machine, one)} and {MachineWords.Letter(two.Terminal)}",
                        two
                    )
                );
            }
        }
    }

    /// <summary>Each two terminals of a part that may be taken for one another.</summary>
    private static IEnumerable<(TerminalAddress One, TerminalAddress Other)> Pairs(Circuit circuit, Part part) =>
        from i in Enumerable.Range(0, part.Terminals.Count)
        from j in Enumerable.Range(i + 1, part.Terminals.Count - i - 1)
        where Fits(circuit, part.Terminals[i], part.Terminals[j], part)
        select (part.At(part.Terminals[i]), part.At(part.Terminals[j]));

    /// <summary>Whether a lead can be put there: a part's own mounting is no terminal.</summary>
    private static bool TakesLeads(Machine machine, TerminalAddress at) => machine.Mounts.All(m => m.Terminal != at);

    private static IEnumerable<ParameterChange> TakenOff(Circuit circuit, WireEndId end) =>
        circuit.Opening.Of(end).Select(Opened);

    private static ParameterChange Opened(ParameterId ohms) => new(ohms, ChangeRule.Set, double.PositiveInfinity);

    /// <summary>Whether one may be taken for the other: in a coupling, on the same side of it.</summary>
    private static bool Fits(Circuit circuit, TerminalId one, TerminalId other, Part part) =>
        !circuit.Is(part.Id, PartTraits.ComesApart) || Cavity.SideOf(one) == Cavity.SideOf(other);

    private static Fault Change(
        Circuit circuit,
        string words,
        IReadOnlyList<ParameterChange> changes,
        params IReadOnlyList<LaidPath> paths
    ) =>
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
            Paths = paths,
        };

    private static bool GivesTheComplaint(Beliefs beliefs, Fault change)
    {
        var table = beliefs.Table;
        var runner = new CaseRunner(table, table.Circuit.With([change]), DutyWaves.BeliefTolerance);
        var heard = runner.Begin(change, table.Circuit.NominalParameters(), 1);
        return beliefs.Complaint.Heard is var said
            && (said is Heard.NotSaid or Heard.WillNotStart ? heard != Heard.Works : heard == said);
    }

    /// <summary>Whether what else was told goes as it was told; no battery cures leads that are put on wrongly.</summary>
    private static bool GoesWithTheRest(Beliefs beliefs, Fault change)
    {
        var (circuit, told) = (beliefs.Table.Circuit, beliefs.Complaint);
        return told.JumpStarted != true
            && told.Also.All(also =>
            {
                var table = PredictionTable.Bare(circuit, Symptoms.Duty(circuit, also.Duty), told.Bridged);
                var runner = new CaseRunner(table, circuit.With([change]), DutyWaves.BeliefTolerance);
                return runner.Begin(change, circuit.NominalParameters(), 1) == Heard.Works == also.Works;
            });
    }
}
