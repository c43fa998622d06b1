using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>Ways of finding something out that do not fail together.</summary>
public enum EvidenceKind
{
    /// <summary>Heard or felt as it was tried.</summary>
    Heard,

    /// <summary>Seen: a lamp, a spark, a place looked at.</summary>
    Seen,

    /// <summary>Something else of the machine tried, or its codes read.</summary>
    Tried,

    /// <summary>Read on the meter.</summary>
    Metered,

    /// <summary>Fed, joined or taken apart, and what that changed.</summary>
    Joined,

    /// <summary>Moved, warmed or wetted.</summary>
    Moved,
}

/// <summary>
/// How much may be stated of what is believed. Evidence of one kind fails together: a drawing that is wrong by one wire, a
/// probe one terminal off, a meter that lies; and what is left over when all else was cleared may be a second fault. So less than nineteen in
/// twenty is stated before two kinds agree and the suspect itself was read, while a reading stands against it, while all hangs on one
/// look or beep (yes and no are mistaken for each other more easily than figures), or on tenths of a volt read far from what they tell
/// apart (what a charger, a tired battery or a wet switch adds is as much, and is on no drawing); nor, where somebody worked on it just
/// before, while leads put on wrongly would give every reading as well and nobody looked. Common practice, no source.
/// </summary>
/// <param name="Kinds">Kinds of evidence gathered.</param>
/// <param name="Misfits">Readings that the first suspect does not show.</param>
/// <param name="IsConvicted">Whether the first suspect was read at its own ends, seen, moved, bridged or tested by itself.</param>
public sealed record Certainty(IReadOnlyList<EvidenceKind> Kinds, int Misfits, bool IsConvicted)
{
    /// <summary>Most that is stated otherwise.</summary>
    public const double MostUnproved = 0.94;

    // As much as a verdict asks for.
    private const double Clear = 0.9;

    /// <summary>Most that may be stated.</summary>
    public double Most =>
        Kinds.Count >= 2 && Misfits == 0 && IsConvicted && HangsOn is null && !HangsOnTenths && WiredOtherwise is null
            ? 1
            : MostUnproved;

    /// <summary>A look or a beep, answered once, without which the first suspect would not stand clear; null for none.</summary>
    public ProbePair? HangsOn { get; init; }

    /// <summary>
    /// Whether it would not stand clear without one reading that touches neither it nor what would lead instead, and is nearly the same
    /// for both.
    /// </summary>
    public bool HangsOnTenths { get; init; }

    /// <summary>
    /// What whoever worked on it may have done instead, under which every reading fits as well; null for none, and where nobody worked
    /// on it.
    /// </summary>
    public NotAsDrawn? WiredOtherwise { get; init; }

    /// <summary>How much of a share may be stated.</summary>
    public double Stated(double share) => Math.Min(share, Most);

    /// <summary>What acting on it risks: a wrong repair, as often as is stated.</summary>
    public Minutes Risk(double share) => new((1 - Stated(share)) * Verdict.WrongRepairMinutes);

    /// <summary>Whether less is stated than is believed.</summary>
    public bool Holds(double share) => share > Most;

    /// <summary>What is known of how the evidence was come by.</summary>
    public static Certainty Of(Beliefs beliefs)
    {
        var certainty = new Certainty(
            [.. KindsOf(beliefs).Distinct().Order()],
            Unexplained.Misfits(beliefs).Count,
            Conviction.Of(beliefs)
        );
        return certainty.Holds(beliefs.Suspects[0].Share) || beliefs.Suspects[0].Share <= MostUnproved
            ? certainty
            : certainty with
            {
                HangsOn = OneLook(beliefs),
                HangsOnTenths = beliefs.Readings.Any(r => IsOfTenthsAfar(beliefs, r)),
                WiredOtherwise = beliefs.WiredOtherwise,
            };
    }

    private static bool IsOfTenthsAfar(Beliefs beliefs, Reading reading)
    {
        var (first, at) = (beliefs.Suspects[0], reading.At);
        var observable = beliefs.Table.Conditions[at.Condition].Observable;
        if (!observable.SharesModelError || reading.Value is null || Touches(beliefs, first, at))
        {
            return false;
        }

        var without = beliefs.Without(reading);
        var rival = without.Suspects.First(s => s.Id != first.Id);
        if (
            without.Suspects.First(s => s.Id == first.Id).Share >= Clear
            || rival.Likeliest is not { } other
            || first.Likeliest is not { } held
            || Touches(beliefs, rival, at)
        )
        {
            return false;
        }

        var apart =
            observable.Figure(Staircase.Shown(without, held, at))
            - observable.Figure(Staircase.Shown(without, other, at));
        return Math.Abs(apart) < Conviction.PlainVolts;
    }

    /// <summary>Whether a probe is at an end of what a suspect may be.</summary>
    private static bool Touches(Beliefs beliefs, Suspect suspect, ProbePair at) =>
        beliefs.Table.Circuit.Faults.Any(f =>
            f.Repair.Id == suspect.Repair?.Id
            && (f.Nodes.From == at.Red || f.Nodes.From == at.Black || f.Nodes.To == at.Red || f.Nodes.To == at.Black)
        );

    private static ProbePair? OneLook(Beliefs beliefs)
    {
        var first = beliefs.Suspects[0].Id;
        return beliefs
            .Readings.Where(r => beliefs.Table.Conditions[r.At.Condition].Observable.IsSeen)
            .GroupBy(r => r.At)
            .Where(r => r.Count() == 1)
            .Select(r => r.Single())
            .Where(r => (beliefs.Without(r).Suspects.FirstOrDefault(s => s.Id == first)?.Share ?? 0) < Clear)
            .Select(r => (ProbePair?)r.At)
            .FirstOrDefault();
    }

    private static IEnumerable<EvidenceKind> KindsOf(Beliefs beliefs)
    {
        if (beliefs.Complaint.Heard is Heard.OneClick or Heard.Chatter or Heard.Slow)
        {
            yield return EvidenceKind.Heard;
        }

        if (beliefs.LampsSeen.Count > 0 || beliefs.SideEvidence.Looks.Any(l => l.Found != LookFound.Sound))
        {
            yield return EvidenceKind.Seen;
        }

        if (beliefs.Complaint is { Also.Count: > 0 } or { Codes.Count: > 0 } or { JumpStarted: not null })
        {
            yield return EvidenceKind.Tried;
        }

        if (beliefs.SideEvidence.HasTests)
        {
            yield return EvidenceKind.Joined;
        }

        if (beliefs.SideEvidence.WiggleEvidence.Tried.Any(w => w.Changed))
        {
            yield return EvidenceKind.Moved;
        }

        foreach (var reading in beliefs.Readings)
        {
            yield return KindOf(beliefs.Table.Conditions[reading.At.Condition]);
        }
    }

    private static EvidenceKind KindOf(Condition condition) =>
        !condition.Observable.IsProbed ? EvidenceKind.Seen
        : condition.Jump is not null || (condition.Off.Count > 0 && !condition.Observable.WantsDeadCircuit)
            ? EvidenceKind.Joined
        : EvidenceKind.Metered;
}
