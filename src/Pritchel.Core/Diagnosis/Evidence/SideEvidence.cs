using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>
/// What was seen and tried besides the readings, as one factor for each fault: looks at places, places moved, warmed or
/// wetted, how other duties of the machine went, codes that its controller stored. Taken by fault and not by particle: none says much about how bad a
/// fault is.
/// </summary>
public sealed class SideEvidence
{
    private readonly IReadOnlyList<Look> looks;
    private readonly IReadOnlyList<OtherDuty> also;
    private readonly (IReadOnlyList<string> Read, StoredCodes Stored)? codes;
    private readonly HashSet<RepairId> mended;
    private readonly IReadOnlyList<TestedAlone> tested;
    private readonly CureEvidence? cures;

    /// <summary>
    /// A sheet judges the part in hand and not what it is joined to: a fault of its own that it did not show, or showed and was not the cause,
    /// once in so many. Judgement, common practice, no source.
    /// </summary>
    internal const double SheetMisses = 0.07;

    private const double BadByTheWay = 0.07;

    // What was just mended is seldom what still fails; its new joints may be: judgement, common practice, no source.
    private const double FailsAgainShare = 0.05;

    /// <summary>Gathers what was seen and tried.</summary>
    /// <param name="looks">Looks at places, the last at each counting.</param>
    /// <param name="also">Whether other duties are done, with how each fault lets them go.</param>
    /// <param name="codes">Codes read, with those that each fault stores; null when none were read out.</param>
    /// <param name="wiggles">Places stirred; null for none.</param>
    /// <param name="cures">What was renewed or mended before the job began; null for nothing.</param>
    /// <param name="tested">Parts tested by themselves, and whether each was found good; null for none.</param>
    /// <param name="mended">Repairs done since, after which it failed still; null for none.</param>
    public SideEvidence(
        IEnumerable<Look> looks,
        IReadOnlyList<OtherDuty> also,
        (IReadOnlyList<string> Read, StoredCodes Stored)? codes = null,
        WiggleEvidence? wiggles = null,
        IEnumerable<RepairId>? mended = null,
        IEnumerable<TestedAlone>? tested = null,
        CureEvidence? cures = null
    )
    {
        this.cures = cures;
        this.tested = [.. tested ?? []];
        this.mended = [.. mended ?? []];
        this.codes = codes;
        WiggleEvidence = wiggles ?? new WiggleEvidence([], new Complaint { Duty = new DutyId("") });
        this.looks = [.. looks.GroupBy(l => l.Repair).Select(g => g.Last())];
        this.also = also;
        OfUnknown =
            this.looks.Aggregate(1.0, (chance, look) => chance * LookChances.NotThere(look.Found))
            * also.Aggregate(1.0, (chance, other) => chance * other.OfUnknown)
            * (codes is { } told ? told.Stored.OfUnknown(told.Read) : 1)
            * WiggleEvidence.OfUnknown
            * OfTests(null)
            * (cures?.OfUnknown ?? 1);
    }

    /// <summary>Nothing seen or tried.</summary>
    public static SideEvidence None { get; } = new([], []);

    /// <summary>Places stirred.</summary>
    public WiggleEvidence WiggleEvidence { get; }

    /// <summary>Whether some part was tested by itself.</summary>
    public bool HasTests => tested.Count > 0;

    /// <summary>Whether a part was tested by itself.</summary>
    public bool Tested(PartId part) => tested.Any(t => t.Part == part);

    /// <summary>Whether a part was tested by itself and found bad.</summary>
    public bool FoundBad(PartId part) => tested.Any(t => t.Part == part && !t.Good);

    /// <summary>Looks that count.</summary>
    public IReadOnlyList<Look> Looks => looks;

    /// <summary>Chance of all that was seen and tried with a cause that is not among the faults.</summary>
    public double OfUnknown { get; }

    /// <summary>Chance of all that was seen and tried with a fault; null for the sound machine.</summary>
    public double Of(Fault? fault)
    {
        var chance =
            WiggleEvidence.Of(fault) * (fault is not null && mended.Contains(fault.Repair.Id) ? FailsAgainShare : 1);
        chance *= OfTests(fault) * (cures?.Of(fault) ?? 1);
        foreach (var look in looks)
        {
            chance *=
                look.Repair == fault?.Repair.Id
                    ? LookChances.There(look.Found, fault!.Kind)
                    : LookChances.NotThere(look.Found);
        }

        foreach (var other in also)
        {
            chance *= other.Of(fault);
        }

        return codes is { } told ? chance * told.Stored.Of(told.Read, fault) : chance;
    }

    /// <summary>Chance of what sheets found of single parts, with a fault; null for none of them.</summary>
    private double OfTests(Fault? fault) => tested.Aggregate(1.0, (chance, test) => chance * OfTest(test, fault));

    private static double OfTest(TestedAlone test, Fault? fault)
    {
        if (fault?.Id.Of.Owner.Part != test.Part)
        {
            return test.Good ? 1 - BadByTheWay : BadByTheWay;
        }

        var shown = !test.Unseen.Contains(fault.Id);
        return test.Good ? (shown ? SheetMisses : 1 - SheetMisses) : (shown ? 1 - SheetMisses : BadByTheWay);
    }
}

/// <summary>How another duty of the machine went.</summary>
/// <param name="Works">Whether it was done.</param>
/// <param name="Tries">How each fault lets it go.</param>
/// <param name="Sure">How surely it was done so with the fault there; less than 1 where nobody said so.</param>
public sealed record OtherDuty(bool Works, DutyTries Tries, double Sure = 1)
{
    // A joint that shakes apart at speed holds at rest and at idle, once in so many; a fault that failed in all tries is seldom
    // away. Judgement, common practice, no source.
    private const double HoldsWhenSlow = 0.3;

    /// <summary>How often a fault that comes and goes is not there, as when this was tried.</summary>
    public double Away { get; init; }

    /// <summary>How often a fault that comes and goes is away, by how a complaint of a duty is told.</summary>
    public static double AwayShare(Complaint complaint, Duty duty) =>
        Math.Max(
            1 - ((double)complaint.Failed / Math.Max(1, complaint.Tried)),
            duty.Speed == DutySpeed.Work && duty.OnTheWay.Count > 0 ? HoldsWhenSlow : 0
        );

    // Jump leads that bite badly, or are thin, do nothing for a sound starter; what they did do, they did.
    private const double SureOfNothing = 0.8;

    /// <summary>What was told of jump leads.</summary>
    /// <param name="works">Whether it turned as it should on them.</param>
    /// <param name="tries">How it does on them with each fault.</param>
    public static OtherDuty OnJumpLeads(bool works, DutyTries tries) => new(works, tries, works ? 1 : SureOfNothing);

    /// <summary>Chance of that with a fault; null for the sound machine.</summary>
    public double Of(Fault? fault)
    {
        var away = fault is { ComesAndGoes: true } ? Away : 0;
        var found = ((1 - away) * Tries.Of(Works, fault)) + (away * Tries.Of(Works, null));
        return 1 - Sure + (Sure * found);
    }

    /// <summary>Chance of it with a cause that is not among the faults: of what nobody said, that speaks neither way.</summary>
    public double OfUnknown => Sure < 1 ? 1 : DutyTries.OfUnknown;
}

/// <summary>A part tested by itself.</summary>
/// <param name="Part">The part.</param>
/// <param name="Good">Whether its sheet found it good.</param>
/// <param name="Unseen">Faults of it that its sheet cannot show.</param>
public sealed record TestedAlone(PartId Part, bool Good, IReadOnlySet<FaultId> Unseen);
