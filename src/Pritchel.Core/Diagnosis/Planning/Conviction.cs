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
    /// <summary>Volts that nobody takes for a drop along a lead, a tired battery or a charger: common practice, no source.</summary>
    public const double PlainVolts = 1;

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

        var faults = FaultsOf(beliefs);
        return IsFound(beliefs, repair, faults) || IsRead(beliefs, faults);
    }

    private static bool IsFound(Beliefs beliefs, Repair repair, List<Fault> faults) =>
        beliefs.SideEvidence.Looks.Any(l => l.Repair == repair.Id && l.Found != LookFound.Sound)
        || beliefs.SideEvidence.WiggleEvidence.Tried.Any(w => w.Changed && w.Reach.Alone?.Id == repair.Id)
        || faults.Exists(f => f.Id.Of.Owner.Part is { } part && beliefs.SideEvidence.FoundBad(part));

    /// <summary>Of tests, those that read the first suspect itself: across it, with a lead of it off, or with it bridged.</summary>
    public static IEnumerable<ProbePair> Reading(Beliefs beliefs, IEnumerable<ProbePair> tests) =>
        FaultsOf(beliefs) is { Count: > 0 } faults && Itself.Of(faults) is var itself
            ? tests.Where(t => itself.IsAcross(beliefs, t))
            : [];

    /// <summary>
    /// Share of what is believed of the first suspect that would show something there which sound wiring would not, or all of it where
    /// what it would show speaks for it all the same.
    /// </summary>
    public static double Speaks(Beliefs beliefs, ProbePair at)
    {
        var (there, all, sound) = (0.0, 0.0, Staircase.Sound(beliefs, at));
        for (var h = 0; h < beliefs.Table.Hypotheses.Count; h++)
        {
            var shown = beliefs.Hypothesis(h);
            if (!shown.HasPredictions || shown.Fault?.Repair.Id != beliefs.Suspects[0].Repair?.Id)
            {
                continue;
            }

            var weights = beliefs.Weights(h);
            var figures = shown.Across(at);
            for (var p = 0; p < weights.Length; p++)
            {
                all += weights[p];
                there += IsPlainlyOdd(sound, figures[p]) ? weights[p] : 0;
            }
        }

        return all > 0 && there > 0 ? there / all
            : Tells(beliefs, at, Staircase.Suspected(beliefs, at)) ? 1
            : 0;
    }

    /// <summary>Whether a figure is none of sound wiring's, nor within a volt of it.</summary>
    public static bool IsPlainlyOdd(SoundBands sound, double figure)
    {
        return !sound.Agrees(figure - PlainVolts) && !sound.Agrees(figure) && !sound.Agrees(figure + PlainVolts);
    }

    /// <summary>Whether a figure read there would speak for the first suspect although sound wiring shows it too.</summary>
    public static bool Tells(Beliefs beliefs, ProbePair at, double read)
    {
        const double Most = 0.5;
        return beliefs.Suspects[0].Repair is { } repair && Slip.Elsewhere(beliefs, at, read, repair.Id) > Most;
    }

    private static List<Fault> FaultsOf(Beliefs beliefs) =>
        [.. beliefs.Table.Circuit.Faults.Where(f => f.Repair.Id == beliefs.Suspects[0].Repair?.Id)];

    // Full volts across a coil that does nothing are what sound wiring shows as well, and convict the coil.
    private static bool IsRead(Beliefs beliefs, List<Fault> faults)
    {
        var itself = Itself.Of(faults);
        var there = beliefs.Readings.Where(r => r.Symptom != SymptomNow.Absent).ToList();
        bool IsOdd(Reading r) => r.Value is not { } read || !Staircase.Agrees(beliefs, r.At, read);
        return there.Exists(r => itself.IsAcross(beliefs, r.At) && (IsOdd(r) || Tells(beliefs, r.At, r.Value!.Value)))
            || there.Exists(r => IsOdd(r) && itself.IsBorder(beliefs, r));
    }

    /// <summary>The suspect's own metal.</summary>
    /// <param name="Nodes">Nodes that its faults lie between.</param>
    /// <param name="Owners">What they sit in.</param>
    private sealed record Itself(HashSet<int> Nodes, HashSet<Owner> Owners)
    {
        public static Itself Of(List<Fault> faults) =>
            new(
                faults.SelectMany(f => new[] { f.Nodes.From, f.Nodes.To }).ToHashSet(),
                faults.Select(f => f.Id.Of.Owner).ToHashSet()
            );

        /// <summary>Whether it was read across it, with a lead of it off, or with it bridged.</summary>
        public bool IsAcross(Beliefs beliefs, ProbePair at)
        {
            var condition = beliefs.Table.Conditions[at.Condition];
            return (Nodes.Contains(at.Red) && Nodes.Contains(at.Black))
                || condition.Off.Any(o => Owns(beliefs.Table.Circuit, o))
                || (condition.Jump is { } jump && Nodes.Contains(jump.From) && Nodes.Contains(jump.To));
        }

        /// <summary>
        /// Whether it was read at one of its ends, and in the same setting at another, which is not odd. One of the two must be more than
        /// a lead in the air would show.
        /// </summary>
        public bool IsBorder(Beliefs beliefs, Reading odd) =>
            EndOf(odd.At) is { } end
            && beliefs.Readings.Any(r =>
                r.At.Condition == odd.At.Condition
                && EndOf(r.At) is { } other
                && other != end
                && r.Value is { } read
                && Staircase.Agrees(beliefs, r.At, read)
                && (IsTouched(beliefs, r) || IsTouched(beliefs, odd))
            );

        private static bool IsTouched(Beliefs beliefs, Reading reading) =>
            reading.Value is not { } read
            || beliefs.Table.Conditions[reading.At.Condition].Observable.Untouched is not { } untouched
            || Slip.AreApart(beliefs, reading.At, Math.Min(read, untouched), Math.Max(read, untouched));

        // Both probes on it see no end of it against anything else.
        private int? EndOf(ProbePair pair) =>
            (Nodes.Contains(pair.Red), Nodes.Contains(pair.Black)) switch
            {
                (true, false) => pair.Red,
                (false, true) => pair.Black,
                _ => null,
            };

        private bool Owns(Circuit circuit, Disconnection off) =>
            (off.Coupling is { } coupling && Owners.Contains(Owner.Of(coupling)))
            || (
                off.WireEnd is { } end
                && (
                    Owners.Contains(Owner.Of(end.Wire))
                    || Owners.Contains(Owner.Of(end))
                    || (circuit.Machine.Index.TerminalOf(end) is { } at && Owners.Contains(Owner.Of(at.Part)))
                )
            );
    }
}
