using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Practice;

/// <summary>
/// Classes under which a mechanic counts causes, so that the order in which the program doubts them can be held against the
/// order in which mechanics meet them.
/// </summary>
public static class CauseClass
{
    // By the part's kind; what is not here is called by its kind itself.
    private static readonly Dictionary<string, string> ByKind = new(StringComparer.Ordinal)
    {
        [PartKinds.Battery] = "battery",
        [PartKinds.AgmBattery] = "battery",
        [PartKinds.LithiumBattery] = "battery",
        ["start-solenoid"] = "solenoid",
        ["starter-solenoid"] = "solenoid",
        ["bolted-fuse"] = "fuse",
        ["breaker"] = "fuse",
        ["magneto"] = "coil",
        ["ignition-coil"] = "coil",
        ["stator-1"] = "stator",
        ["stator-3"] = "stator",
        ["charge-winding"] = "stator",
        ["tapped-winding"] = "stator",
        ["generator-regulator"] = "regulator",
        ["regulator-1-series"] = "regulator",
        ["regulator-1"] = "regulator",
        ["regulator-3"] = "regulator",
        ["regulator-3-series"] = "regulator",
        ["regulator-half-wave"] = "regulator",
        ["regulator-tapped"] = "regulator",
    };

    /// <summary>Class of a fault; null for no fault at all.</summary>
    /// <param name="circuit">The machine.</param>
    /// <param name="fault">The fault.</param>
    public static string Of(Circuit circuit, Fault? fault)
    {
        if (fault is null)
        {
            return "nothing in this circuit";
        }

        if (fault.Id.Of.Owner.Part is { } id && circuit.Machine.Index.Part(id) is { } part)
        {
            return ByRole.GetValueOrDefault((part.Kind, fault.Id.Role))
                ?? ByKind.GetValueOrDefault(part.Kind)
                ?? part.Kind;
        }

        return fault.Repair.Kind switch
        {
            RepairKind.RenewCable => "cable",
            RepairKind.CleanJoint => "joint",
            RepairKind.RenewCavity => "coupling",
            RepairKind.BrightenGround => "ground",
            _ => "wire",
        };
    }

    /// <summary>Shares by class, largest first.</summary>
    /// <param name="beliefs">What is believed.</param>
    public static IReadOnlyList<(string Class, double Share)> Shares(Beliefs beliefs) =>
        [
            .. beliefs
                .Table.Hypotheses.Select((h, i) => (Class: Of(beliefs.Table.Circuit, h.Fault), Share: beliefs.Share(i)))
                .GroupBy(h => h.Class, StringComparer.Ordinal)
                .Select(g => (g.Key, g.Sum(h => h.Share)))
                .OrderByDescending(g => g.Item2),
        ];

    // What a mechanic counts apart from the part that it comes with, by kind and role of the fault.
    private static readonly Dictionary<(string Kind, string Role), string> ByRole = new()
    {
        [("generator", "brush-worn")] = "brushes",
        [("magneto", "plug")] = "plug",
        [("magneto", "lead")] = "plug lead",
        [("magneto", "weak")] = "air gap or turns",
        [("ignition-coil", "plug")] = "plug",
        [("ignition-coil", "lead")] = "plug lead",
    };
}
