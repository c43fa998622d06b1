using System.Reflection;

namespace Pritchel.Core.Simulation;

/// <summary>Device kinds that machine files can name. Found by themselves, so a new device is one new file.</summary>
public static class DeviceKinds
{
    /// <summary>All kinds, by name.</summary>
    public static IReadOnlyCollection<DeviceKind> All => ByName.Values;

    /// <summary>The kind of that name, or null.</summary>
    public static DeviceKind? Named(string name) => ByName.GetValueOrDefault(name);

    private static readonly Type[] Costly =
    [
        typeof(IChargeWinding),
        typeof(INeedsEngine),
        typeof(IStoresCharge),
        typeof(ICranks),
        typeof(IIgnition),
        typeof(IRegulator),
    ];

    private static readonly Type[] JudgedAtWork =
    [
        typeof(IHidesInside),
        typeof(IStoresCharge),
        typeof(ICranks),
        typeof(IFeedsItsField),
    ];

    private static readonly Dictionary<string, DeviceKind> ByName = Find();

    private static Dictionary<string, DeviceKind> Find() =>
        Extensions
            .TypesOf(typeof(INamedDevice))
            .Select(t =>
                (DeviceKind)t.GetProperty("Kind", BindingFlags.Public | BindingFlags.Static)!.GetValue(null)! with
                {
                    FollowsWave = t.IsAssignableTo(typeof(IChargeWinding)),
                    Regulates = t.IsAssignableTo(typeof(IRegulator)),
                    FeedsItsField = t.IsAssignableTo(typeof(IFeedsItsField)),
                    HidesInside = t.IsAssignableTo(typeof(IHidesInside)),
                    IsCostly = Costly.Any(t.IsAssignableTo),
                    IsJudgedAtWork = JudgedAtWork.Any(t.IsAssignableTo),
                    NeedsEngine = t.IsAssignableTo(typeof(IChargeWinding)) || t.IsAssignableTo(typeof(INeedsEngine)),
                }
            )
            .OrderBy(k => k.Name, StringComparer.Ordinal)
            .ToDictionary(k => k.Name, StringComparer.Ordinal);
}
