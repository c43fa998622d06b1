using Pritchel.Core.Diagnosis.Complaints;

namespace Pritchel.Web.Desk;

/// <summary>How what a cure did is said.</summary>
public static class CureWords
{
    /// <summary>Every answer, with its words.</summary>
    public static IReadOnlyList<(CureEffect Effect, string Words)> All { get; } =
    [
        (CureEffect.None, "did nothing"),
        (CureEffect.Partly, "helped partly"),
        (CureEffect.ForAWhile, "cured it for a while"),
    ];

    /// <summary>An answer in words.</summary>
    public static string Of(CureEffect effect) => All.First(a => a.Effect == effect).Words;
}
