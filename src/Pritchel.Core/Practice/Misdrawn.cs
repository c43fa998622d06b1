using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Practice;

/// <summary>A machine that is not as drawn: one lead elsewhere, two that changed places, or built otherwise.</summary>
/// <param name="Circuit">As it is; nodes may be numbered otherwise than on the drawing.</param>
/// <param name="Wires">The leads.</param>
internal sealed record Misdrawn(Circuit Circuit, IReadOnlyList<WireId> Wires)
{
    private const int MostTried = 30;

    /// <summary>A part of the wrong kind; null for none.</summary>
    public PartId? Wrong { get; private init; }

    /// <summary>Whether it counts as found, whatever else is wrong: a lead that is not there.</summary>
    public bool IsFoundAlone { get; private init; }

    /// <summary>What holds whatever else is wrong.</summary>
    public IReadOnlyList<PlantedFault> Always { get; private init; } = [];

    /// <summary>The parts that leads were put on wrongly at.</summary>
    public IReadOnlyList<PartId> At { get; private init; } = [];

    /// <summary>What is not as drawn.</summary>
    public FaultId Id =>
        Wrong is { } part
            ? new(Owner.Of(part).Element(), "wrong-kind")
            : new(Owner.Of(Wires[0]).Element(), "misplaced");

    /// <summary>Whether a repair sends whoever makes it to what is not as drawn: to a lead, to where leads are joined, or to a part.</summary>
    /// <param name="drawn">The circuit as drawn.</param>
    /// <param name="repair">The repair.</param>
    public bool LeadsTo(Circuit drawn, RepairId? repair) =>
        drawn.Faults.Any(f =>
            f.Repair.Id == repair
            && (
                f.Id.Of.Owner.Part is { } part && part == Wrong
                || Wires.Any(w =>
                    f.Id.Of.Owner.Wire == w
                    || Circuit
                        .Machine.Index.Wire(w)!
                        .Ends.Any(e =>
                            f.Id.Of.Owner.Part == e.At.Part && e.At != drawn.Machine.Index.TerminalOf(e.Name)
                        )
                )
            )
        );

    /// <summary>
    /// One that does its duty all the same, so that nobody knows: cavities numbered otherwise, a ground on another bolt, the two leads of
    /// a contact the other way round. Null where so many tries found none.
    /// </summary>
    public static Misdrawn? Working(PredictionTable table, Random random) =>
        First(
            table,
            random,
            [.. Cavities(table.Circuit.Machine), .. Grounds(table.Circuit.Machine), .. Leads(table.Circuit.Machine)],
            Heard.Works
        );

    /// <summary>One that fails by it: two leads of one part, or of one side of a coupling, put on wrongly. Null as before.</summary>
    public static Misdrawn? Failing(PredictionTable table, Random random) =>
        First(table, random, [.. Leads(table.Circuit.Machine)], Heard.Nothing);

    /// <summary>One that is built otherwise; null where so many tries found none.</summary>
    /// <param name="table">Duty and conditions.</param>
    /// <param name="difference">In what it differs.</param>
    /// <param name="random">Source of chance.</param>
    /// <param name="works">Whether it does its duty all the same.</param>
    public static Misdrawn? Otherwise(PredictionTable table, Difference difference, Random random, bool works)
    {
        var ways = Differences.Of(table.Circuit, table.Duty, difference).ToArray();
        for (var tries = 0; tries < MostTried && ways.Length > 0; tries++)
        {
            var way = ways[random.Next(ways.Length)];
            var circuit = Circuit.Compile(way.Machine);
            var always = Differences.Always(circuit, way, difference);
            if (
                new CaseRunner(table, circuit.With(always.Select(p => p.Fault)), 1e-9).Begin(
                    always,
                    circuit.NominalParameters()
                )
                    is var heard
                && (heard == Heard.Works) == works
            )
            {
                return new Misdrawn(circuit, [.. way.Missing is { } missing ? new[] { missing } : []])
                {
                    Wrong = way.Wrong,
                    Always = always,
                    IsFoundAlone = way.Missing is not null,
                };
            }
        }

        return null;
    }

    private static Misdrawn? First(PredictionTable table, Random random, LeadExchange[] ways, Heard wanted)
    {
        for (var tries = 0; tries < MostTried && ways.Length > 0; tries++)
        {
            var way = ways[random.Next(ways.Length)];
            var machine = way.In(table.Circuit.Machine);
            var wires = machine.Wires.Except(table.Circuit.Machine.Wires).Select(w => w.Id).ToList();
            if (
                wires.Count > 0
                && Circuit.Compile(machine) is var circuit
                && IsNumberedAlike(circuit, table.Circuit)
                && new CaseRunner(table, circuit, 1e-9).Begin([], circuit.NominalParameters()) == wanted
            )
            {
                return new Misdrawn(circuit, wires) { At = [.. way.Pairs.Select(p => p.One.Part)] };
            }
        }

        return null;
    }

    private static bool IsNumberedAlike(Circuit one, Circuit other) =>
        one.Network.NodeCount == other.Network.NodeCount
        && one.Parameters.Count == other.Parameters.Count
        && one.Faults.Count == other.Faults.Count
        && one.BranchKeys.SequenceEqual(other.BranchKeys)
        && one.Machine.Parts.SelectMany(p => p.Addresses).All(a => one.NodeOf(a) == other.NodeOf(a));

    /// <summary>Two cavities of a coupling, on both its sides.</summary>
    private static IEnumerable<LeadExchange> Cavities(Machine machine) =>
        from part in machine.Parts
        let cavities = Cavity.Of(part).ToList()
        from i in Enumerable.Range(0, cavities.Count)
        from j in Enumerable.Range(i + 1, cavities.Count - i - 1)
        select new LeadExchange([(cavities[i].A, cavities[j].A), (cavities[i].B, cavities[j].B)]);

    /// <summary>What is on one bolt of a body, on another.</summary>
    private static IEnumerable<LeadExchange> Grounds(Machine machine)
    {
        var bolts = machine.Parts.Where(p => p.Kind == PartKinds.Body).SelectMany(p => p.Addresses).ToList();
        return from one in bolts
            from other in bolts
            where one != other
            select new LeadExchange([(one, other)], BothWays: false);
    }

    /// <summary>Two leads of one part, of one side where it is a coupling.</summary>
    private static IEnumerable<LeadExchange> Leads(Machine machine) =>
        from part in machine.Parts
        where part.Kind != PartKinds.Body
        let at = part.Terminals
        from i in Enumerable.Range(0, at.Count)
        from j in Enumerable.Range(i + 1, at.Count - i - 1)
        where part.Kind != PartKinds.Coupling || Cavity.SideOf(at[i]) == Cavity.SideOf(at[j])
        select new LeadExchange([(part.At(at[i]), part.At(at[j]))]);
}
