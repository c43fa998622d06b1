using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Web.Desk;

/// <summary>How it is said that a machine works as designed.</summary>
public static class DesignWords
{
    /// <summary>What it is called: as designed, or as altered.</summary>
    public static string Title(DesignCheck check) =>
        check.Altered.Count > 0 ? "What was altered gives it by itself"
        : check.MayBeTrue ? "It may be telling the truth"
        : "Working as designed";

    /// <summary>The verdict's first words.</summary>
    public static string Verdict(DesignCheck check) =>
        check.Altered.Count > 0 ? "Altered."
        : check.MayBeTrue ? "It tells the truth."
        : "Works as designed.";

    /// <summary>Why a sound machine does the same, and what would let it go on.</summary>
    public static string Of(DesignCheck check)
    {
        if (check.Altered is { Count: > 0 } altered)
        {
            return $"A machine with nothing else wrong does the same while {string.Join(" and ", altered.Select(AlterationWords.Is))}. Undo that and try again; if it still fails, measure.";
        }

        var (any, all) = (check.AnyOf, check.AllOf);
        var stood = any.Concat(all).DistinctBy(w => w.Control.Id).Select(w => Said(w.Control, w.Stood));
        var wanted =
            any.Count > 0
                ? string.Join(", or ", any.Select(w => Said(w.Control, w.Wanted)))
                : string.Join(" and ", all.Select(w => Said(w.Control, w.Wanted)));
        if (check.MayBeTrue)
        {
            return $"A sound machine does the same: {string.Join(" and ", stood)}. {WarningWords.First}";
        }

        return $"A sound machine does the same: {string.Join(" and ", stood)}. Given {wanted}, it would not.";
    }

    private static string Said(Control control, PositionId position) => control.Said(position);
}
