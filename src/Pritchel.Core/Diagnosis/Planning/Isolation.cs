using Pritchel.Core.Diagnosis.Evidence;
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
    private readonly bool atWork;
    private readonly HashSet<int> terminals;
    private readonly HashSet<int> own;
    private readonly HashSet<PartId> couplings;

    private Isolation(PredictionTable table, PartId part, DeviceKind kind)
    {
        (this.table, Part, atWork) = (table, part, kind.IsJudgedAtWork);
        circuit = table.Circuit;
        var addresses = circuit.Machine.Index.Part(part)!.Addresses;
        terminals = [.. addresses.Select(a => circuit.NodeOf(a))];
        var reached = addresses
            .SelectMany(a => circuit.Reached(a))
            .Where(a => a.Part == part || circuit.Is(a.Part, PartTraits.ComesApart))
            .ToList();
        own = [.. reached.Concat(StandIns(kind)).Select(a => circuit.NodeOf(a)).Where(n => n != circuit.Reference)];
        couplings = [.. reached.Select(a => a.Part).Where(p => p != part)];
    }

    /// <summary>The part.</summary>
    public PartId Part { get; }

    /// <summary>
    /// Where no hand may be while the engine may turn a starter is not read at its own post: what it draws, or does not, shows at the
    /// battery's. Common practice, no source.
    /// </summary>
    private IEnumerable<TerminalAddress> StandIns(DeviceKind kind)
    {
        var machine = circuit.Machine;
        var place = MachineWords.PlaceOf(machine, machine.Index.Part(Part)!);
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

        var isolation = new Isolation(beliefs.Table, part, kind);
        return
            isolation.IsFoundBad(beliefs.SideEvidence)
            || beliefs.Readings.Any(r => r.Value is { } read && isolation.Convicts(beliefs, r.At, read))
            ? null
            : isolation;
    }

    /// <summary>Whether an eye found it, or its own sheet did.</summary>
    private bool IsFoundBad(SideEvidence seen) =>
        seen.FoundBad(Part) || seen.Looks.Any(l => l.Repair == RepairId.OfPart(Part) && l.Found != LookFound.Sound);

    /// <summary>
    /// Whether a reading convicts the part. One that reads as a sound part would convicts it of nothing, since its primary's ohms do not see
    /// its secondary; but full volts across what does nothing do, and so does a drain that is gone without it.
    /// </summary>
    private bool Convicts(Beliefs beliefs, ProbePair at, double read)
    {
        var sound = Staircase.Sound(beliefs, at);
        return Is(at)
            ? sound.Agrees(read) == IsGoneWithout(at) || IsFullVolts(beliefs, at, read)
            : IsOhmsOfItself(at) && sound.IsBelow(read);
    }

    /// <summary>Whether a test would plainly convict the part by what the first suspect shows in it.</summary>
    public bool WouldConvict(Beliefs beliefs, ProbePair at)
    {
        var isolates = Is(at);
        if (!isolates && !IsOhmsOfItself(at))
        {
            return false;
        }

        var (sound, shown) = (Staircase.Sound(beliefs, at), Staircase.Suspected(beliefs, at));
        var isPlain = Conviction.IsPlainlyOdd(sound, shown);
        return isolates
            ? isPlain || IsGoneWithout(at) || IsFullVolts(beliefs, at, shown)
            : isPlain && sound.IsBelow(shown);
    }

    private bool IsFullVolts(Beliefs beliefs, ProbePair at, double read) =>
        atWork && IsAcrossItself(at) && Conviction.Tells(beliefs, at, read);

    /// <summary>
    /// Whether it is ohms from terminal to terminal of the part. More of them than a sound one has are its own, leads on or off: what else
    /// lies across it can only take ohms away (Rayleigh's law of monotonicity: a conductor added to a network raises no resistance between two
    /// points of it).
    /// </summary>
    private bool IsOhmsOfItself(ProbePair at) =>
        table.Conditions[at.Condition].Observable is DeadOhms && IsAcrossItself(at);

    /// <summary>Whether both probes are on the part's own terminals.</summary>
    private bool IsAcrossItself(ProbePair at) => terminals.Contains(at.Red) && terminals.Contains(at.Black);

    /// <summary>Whether a test isolates the part.</summary>
    public bool Is(ProbePair at)
    {
        var condition = table.Conditions[at.Condition];
        if (condition.Observable is SparkSeen)
        {
            // The spark is the duty's own coil's. A lead that lies bare on its side of the plug kills it with the plug apart too.
            return table.Duty.Load == Part && condition.Off.Any(IsOwnEnd);
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
        off.WireEnd is { } end && circuit.Machine.Index.TerminalOf(end) is { } at && at.Part == Part;
}
