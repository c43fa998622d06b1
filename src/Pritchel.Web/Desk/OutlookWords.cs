using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Faults;

namespace Pritchel.Web.Desk;

/// <summary>What the two answers of a test's card point to, so that they never say the same.</summary>
public static class OutlookWords
{
    /// <summary>Where it reads as sound wiring would.</summary>
    public static string Sound(Outlook outlook) =>
        outlook.IfHealthy.Count == 0 ? "as sound: then little is left here"
        : Same(outlook) ? $"as sound: then {Names(outlook.IfHealthy)} still, and not here"
        : $"as sound: then {Names(outlook.IfHealthy)}";

    /// <summary>Where it reads otherwise.</summary>
    public static string Otherwise(Outlook outlook) =>
        outlook.IfNot.Count == 0 ? "otherwise: a slip, or none of these; take it again"
        : Same(outlook) ? $"points to {Names(outlook.IfNot)}, here"
        : $"points to {Names(outlook.IfNot)}";

    private static bool Same(Outlook outlook) =>
        outlook.IfHealthy.Select(r => r.Id).SequenceEqual(outlook.IfNot.Select(r => r.Id));

    private static string Names(IReadOnlyList<Repair> repairs) => string.Join(" or ", repairs.Select(r => r.Short));
}
