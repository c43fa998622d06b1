using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Faults;

namespace Pritchel.Web.Desk;

/// <summary>What the two answers of a test's card point to, so that they never say the same.</summary>
public static class OutlookWords
{
    /// <summary>What the first answer leaves: as sound wiring reads, or the lower figures.</summary>
    public static string First(Outlook outlook) =>
        !outlook.BySoundness ? SpeaksFor(outlook.First)
        : outlook.First.PointsTo.Count == 0 ? "as sound: then little is left here"
        : outlook.PointsAlike ? $"as sound: then {Names(outlook.First.PointsTo)} still, and not here"
        : $"as sound: then {Names(outlook.First.PointsTo)}";

    /// <summary>What the second answer leaves: as sound wiring would not read, or the higher figures.</summary>
    public static string Second(Outlook outlook) =>
        !outlook.BySoundness ? SpeaksFor(outlook.Second)
        : outlook.Second.PointsTo.Count == 0 ? "otherwise: a slip, or none of these; take it again"
        : outlook.PointsAlike ? $"points to {Names(outlook.Second.PointsTo)}, here"
        : $"points to {Names(outlook.Second.PointsTo)}";

    private static string SpeaksFor(OutlookAnswer answer) =>
        $"{(answer.IsSound ? "as sound: " : "")}speaks for {Names(answer.PointsTo)}";

    private static string Names(IReadOnlyList<Repair> repairs) => string.Join(" or ", repairs.Select(r => r.Short));
}
