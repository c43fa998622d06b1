using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Faults;

namespace Pritchel.Web.Desk;

/// <summary>A verdict in words: what is to be done first, then where in it the fault most likely is.</summary>
public static class VerdictWords
{
    /// <summary>The repair: "Renew wire 20, brown"; of no repair what is believed instead.</summary>
    public static string Repair(Suspect suspect) =>
        suspect.Repair is { } repair ? $"{Does(repair.Kind)}: {repair.Name}" : suspect.Words;

    /// <summary>Where in the repair it most likely is; null where the repair has said it.</summary>
    public static string? Likeliest(Suspect suspect) =>
        suspect is { Repair: not null, Likeliest: { } fault } ? fault.Words : null;

    /// <summary>Both, on one line, as the record keeps them.</summary>
    public static string Of(Suspect suspect) =>
        Likeliest(suspect) is { } likeliest ? $"{Repair(suspect)}; likeliest there: {likeliest}" : Repair(suspect);

    private static string Does(RepairKind kind) =>
        kind switch
        {
            RepairKind.RenewWire => "Mend or renew",
            RepairKind.RenewCable => "Clean the ends, or renew",
            RepairKind.CleanJoint => "Clean and tighten, or crimp anew",
            RepairKind.RenewCavity => "Clean or renew both contacts",
            RepairKind.BrightenGround => "Bring to bright metal and tighten",
            RepairKind.ReplaceSwitch => "Adjust, clean or replace",
            RepairKind.ServiceBattery => "Charge and load-test",
            RepairKind.ReplaceFuse => "Find what blew it, then renew",
            RepairKind.ServiceStarter => "Turn the engine by hand, then overhaul or replace",
            RepairKind.FlashField => "Give its magnetism back",
            _ => "Replace",
        };
}
