using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>
/// How much it tells that something fails hot, wet or shaken. Faults that come and go answer each to its own treatment, as when
/// a place is stirred (<see cref="WiggleEvidence.Answers"/>), but this is hearsay. Chances are judgement: common practice, no
/// source.
/// </summary>
internal static class WorseEvidence
{
    // That a fault which is always there, or one of another kind, is told so all the same.
    private const double OfItself = 0.1;

    /// <summary>Chance of what was told with a cause that is not among the faults.</summary>
    public static double OfUnknown(Complaint complaint) => Math.Pow(2 * OfItself, complaint.WorseWhen.Count);

    /// <summary>Chance of what was told with a fault; null for the sound machine.</summary>
    public static double Of(Complaint complaint, Fault? fault) =>
        complaint.WorseWhen.Aggregate(
            1.0,
            (chance, when) =>
                chance
                * (
                    fault is { ComesAndGoes: true }
                        ? Math.Max(OfItself, WiggleEvidence.Answers(fault, By(when)))
                        : OfItself
                )
        );

    private static WiggledBy By(WorseWhen when) =>
        when switch
        {
            WorseWhen.Hot => WiggledBy.Warming,
            WorseWhen.Wet => WiggledBy.Wetting,
            _ => WiggledBy.Moving,
        };
}
