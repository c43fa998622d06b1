using Pritchel.Core.Diagnosis;
using Pritchel.Core.Faults;

namespace Pritchel.Web.Desk;

/// <summary>How looks are said.</summary>
public static class LookWords
{
    /// <summary>Every answer to a look, with its words.</summary>
    public static IReadOnlyList<(LookFound Found, string Words)> Answers { get; } =
    [
        (LookFound.Sound, "sound"),
        (LookFound.Loose, "loose"),
        (LookFound.Green, "green"),
        (LookFound.Chafed, "chafed"),
        (LookFound.Chewed, "chewed"),
        (LookFound.Burnt, "burnt"),
        (LookFound.Wet, "wet"),
        (LookFound.Missing, "missing or off"),
    ];

    /// <summary>An answer in words.</summary>
    public static string Of(LookFound found) => Answers.First(a => a.Found == found).Words;

    /// <summary>What to do with eye and finger at a sort of place.</summary>
    public static string How(RepairKind kind) =>
        kind switch
        {
            RepairKind.RenewWire => "along its whole length: edges, heat, tooth marks; tug both ends",
            RepairKind.RenewCable => "both ends: green, warm after a try, loose under the spanner",
            RepairKind.CleanJoint => "move it; look for green and brown",
            RepairKind.RenewCavity => "apart: spread socket, pin pushed back, green, wet; latched?",
            RepairKind.BrightenGround => "tight, bright, no paint under it",
            RepairKind.ReplaceSwitch => "does its plunger travel all the way; plug on, dry",
            RepairKind.ReplaceFuse => "out and held to the light; clips tight",
            RepairKind.ServiceBattery => "posts, level, swollen case",
            RepairKind.ServiceStarter => "post nut, brushes' dust, burnt smell",
            _ => "plug on, case whole, no smell, no swelling",
        };
}
