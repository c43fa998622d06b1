using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>
/// Tests that isolate a part at its own terminals. What is dear to renew wrongly is condemned only after one: windings and
/// coils with the rest of the circuit off, electronics, batteries and starters at their terminals while they should work.
/// Common practice, no source.
/// </summary>
public sealed class Isolation
{
    /// <summary>Less is no verdict, whatever is left to test.</summary>
    public const double Least = 0.5;

    /// <summary>From here on a verdict is near, and the test that isolates comes before others that tell more.</summary>
    public const double Nearly = 0.8;

    private readonly PredictionTable table;
    private readonly Circuit circuit;
    private readonly PartId part;
    private readonly bool atWork;
    private readonly HashSet<int> own;
    private readonly HashSet<PartId> couplings;

    private Isolation(PredictionTable table, PartId part, DeviceKind kind)
    {
        (this.table, this.part, atWork) = (table, part, kind.IsJudgedAtWork);
        circuit = table.Circuit;
        var reached = circuit
            .Machine.Index.Part(part)!
            .Addresses.SelectMany(a => circuit.Reached(a))
            .Where(a => a.Part == part || circuit.Is(a.Part, PartTraits.ComesApart))
            .ToList();
        own = [.. reached.Concat(StandIns(kind)).Select(a => circuit.NodeOf(a)).Where(n => n != circuit.Reference)];
        couplings = [.. reached.Select(a => a.Part).Where(p => p != part)];
    }

    /// <summary>
    /// Where no hand may be while the engine may turn a starter is not read at its own post: what it draws, or does not, shows at the
    /// battery's. Common practice, no source.
    /// </summary>
    private IEnumerable<TerminalAddress> StandIns(DeviceKind kind)
    {
        var machine = circuit.Machine;
        var place = MachineWords.PlaceOf(machine, machine.Index.Part(part)!);
        return kind.IsJudgedAtWork && !place.EngineMayTurn
            ? machine.Parts.Where(p => circuit.Is(p.Id, PartTraits.StoresCharge)).SelectMany(p => p.Addresses)
            : [];
    }

    /// <summary>
    /// What the first suspect still wants before it is condemned; null where it is cheap, not yet likely, or isolated already.
    /// </summary>
    public static Isolation? Wanted(Beliefs beliefs)
    {
        var circuit = beliefs.Table.Circuit;
        if (
            beliefs.Suspects[0] is not { Share: >= Least, Repair: not null, Likeliest.Id.Of.Owner.Part: { } part } first
            || first.Repair.Id != RepairId.OfPart(part)
            || DeviceKinds.Named(circuit.Machine.Index.Part(part)!.Kind) is not { IsCostly: true } kind
        )
        {
            return null;
        }

        // One that reads as a sound part would convicts it of nothing: its primary's ohms do not see its secondary.
        var isolation = new Isolation(beliefs.Table, part, kind);
        var isConvicted = beliefs.Readings.Any(r =>
            isolation.Is(r.At)
            && r.Value is { } read
            && Staircase.Agrees(beliefs, r.At, read) == isolation.IsGoneWithout(r.At)
        );
        return isConvicted || beliefs.SideEvidence.Tested(part) ? null : isolation;
    }

    /// <summary>Whether a test isolates the part.</summary>
    public bool Is(ProbePair at)
    {
        var condition = table.Conditions[at.Condition];
        if (condition.Observable is SparkSeen)
        {
            // The spark is the duty's own coil's. A lead that lies bare on its side of the plug kills it with the plug apart too.
            return table.Duty.Load == part && condition.Off.Any(IsOwnEnd);
        }

        if (IsGoneWithout(at))
        {
            return true;
        }

        bool Here(int node) => own.Contains(node);
        bool Ground(int node) =>
            node == circuit.Reference || circuit.TerminalsAt(node).Any(t => circuit.Is(t.Part, PartTraits.IsMetal));
        var across = (Here(at.Red) && (Here(at.Black) || Ground(at.Black))) || (Here(at.Black) && Ground(at.Red));
        return across
            && (
                atWork
                    ? !condition.Observable.WantsDeadCircuit
                    : condition.Off.Any(o => IsOwnEnd(o) || (o.Coupling is { } c && couplings.Contains(c)))
            );
    }

    /// <summary>Whether a lead of it is off in a test of amps: what it draws is gone with it, and sound is what convicts it.</summary>
    public bool IsGoneWithout(ProbePair at) =>
        table.Conditions[at.Condition] is { Observable: DirectAmps } condition && condition.Off.Any(IsOwnEnd);

    /// <summary>Whether what is off is a wire at the part itself.</summary>
    private bool IsOwnEnd(Disconnection off) =>
        off.WireEnd is { } end && circuit.Machine.Index.TerminalOf(end) is { } at && at.Part == part;
}
