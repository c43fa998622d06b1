using Pritchel.Core.Diagnosis.Planning;

namespace Pritchel.Web.Desk;

/// <summary>Why less is stated than is believed, and what would let more be.</summary>
public static class CertaintyWords
{
    /// <summary>In a sentence or two.</summary>
    /// <param name="certainty">What is known of how the evidence was come by.</param>
    /// <param name="below">Whether the next test mends that.</param>
    public static string Of(Certainty certainty, bool below) =>
        certainty.Misfits > 0 ? "No more is stated while a reading stands against it: take that one again first."
        : !certainty.IsConvicted
            ? $"No more is stated before it was read itself: across it, or good on one side of it and not on the other. What is left over when all else is cleared may be a second fault.{(below ? " The test below reads it." : "")}"
        : certainty.HangsOn is not null
            ? "No more is stated while all hangs on one look or beep: yes and no are mistaken for each other more easily than figures. Have it answered once more, as below."
        : certainty.HangsOnTenths
            ? "No more is stated while all hangs on tenths of a volt read away from both that are left: a charger, a tired battery or a wet switch makes as much. Look at the place before it is renewed."
        : certainty.WiredOtherwise is not null
            ? "No more is stated before somebody looked at the place: leads put on wrongly would read the same."
        : $"No more is stated on what was {(certainty.Kinds.Count == 0 ? "told" : Said(certainty.Kinds[0]))} alone: look at the place, feed it with a clip lead or move it, and see it answer.";

    private static string Said(EvidenceKind kind) =>
        kind switch
        {
            EvidenceKind.Heard => "heard",
            EvidenceKind.Seen => "seen",
            EvidenceKind.Tried => "tried",
            EvidenceKind.Joined => "fed and joined",
            EvidenceKind.Moved => "moved",
            _ => "metered",
        };
}
