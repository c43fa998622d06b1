using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>
/// Whether the first suspect was read at its own ends, seen, moved, bridged or tested by itself. What is left over when
/// everything else was cleared is likely and no more: a second fault, or a lead that is not as drawn, leaves the same over. Common
/// practice, no source.
/// </summary>
internal static class Conviction
{
    /// <summary>Whether something speaks of the suspect itself.</summary>
    public static bool Of(Beliefs beliefs)
    {
        var first = beliefs.Suspects[0];
        if (first.IsSound)
        {
            return true;
        }

        if (first.Repair is not { } repair)
        {
            return false;
        }

        var faults = beliefs.Table.Circuit.Faults.Where(f => f.Repair.Id == repair.Id).ToList();
        return IsFound(beliefs, repair, faults) || IsRead(beliefs, faults);
    }

    private static bool IsFound(Beliefs beliefs, Repair repair, List<Fault> faults) =>
        beliefs.SideEvidence.Looks.Any(l => l.Repair == repair.Id && l.Found != LookFound.Sound)
        || beliefs.SideEvidence.WiggleEvidence.Tried.Any(w => w.Changed && w.Reach.Alone?.Id == repair.Id)
        || faults.Exists(f => f.Id.Of.Owner.Part is { } part && beliefs.SideEvidence.FoundBad(part));

    private static bool IsRead(Beliefs beliefs, List<Fault> faults)
    {
        var (own, owners) = (
            faults.SelectMany(f => new[] { f.Nodes.From, f.Nodes.To }).ToHashSet(),
            faults.Select(f => f.Id.Of.Owner).ToHashSet()
        );
        var there = beliefs.Readings.Where(r => r.Symptom != SymptomNow.Absent).ToList();
        bool IsOdd(Reading r) => r.Value is not { } read || !Staircase.Agrees(beliefs, r.At, read);
        return there.Exists(r => IsAcross(beliefs, own, owners, r.At) && (IsOdd(r) || Tells(beliefs, faults[0], r)))
            || there.Exists(r => IsOdd(r) && IsBorder(beliefs, own, r.At));
    }

    /// <summary>
    /// Whether a figure that sound wiring shows as well speaks for it: most other causes would show something else there. Full volts across
    /// a coil that does nothing convict the coil.
    /// </summary>
    private static bool Tells(Beliefs beliefs, Fault suspect, Reading reading)
    {
        const double Most = 0.5;
        return reading.Value is { } read && Slip.Elsewhere(beliefs, reading.At, read, suspect.Repair.Id) > Most;
    }

    /// <summary>Whether it was read across it, with a lead of it off, or with it bridged.</summary>
    private static bool IsAcross(Beliefs beliefs, HashSet<int> own, HashSet<Owner> owners, ProbePair at)
    {
        var condition = beliefs.Table.Conditions[at.Condition];
        return (own.Contains(at.Red) && own.Contains(at.Black))
            || condition.Off.Any(o => Owns(beliefs.Table.Circuit, owners, o))
            || (condition.Jump is { } jump && own.Contains(jump.From) && own.Contains(jump.To));
    }

    /// <summary>Whether it was read at one of its ends, and in the same setting at another, which is not.</summary>
    private static bool IsBorder(Beliefs beliefs, HashSet<int> own, ProbePair at)
    {
        bool Touches(ProbePair pair) => own.Contains(pair.Red) || own.Contains(pair.Black);
        return Touches(at)
            && beliefs.Readings.Any(r =>
                r.At.Condition == at.Condition
                && r.At != at
                && Touches(r.At)
                && r.Value is { } read
                && Staircase.Agrees(beliefs, r.At, read)
            );
    }

    private static bool Owns(Circuit circuit, HashSet<Owner> owners, Disconnection off) =>
        (off.Coupling is { } coupling && owners.Contains(Owner.Of(coupling)))
        || (
            off.WireEnd is { } end
            && (
                owners.Contains(Owner.Of(end.Wire))
                || owners.Contains(Owner.Of(end))
                || (circuit.Machine.Index.TerminalOf(end) is { } at && owners.Contains(Owner.Of(at.Part)))
            )
        );
}
