using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Faults;
using Pritchel.Core.Simulation;

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

    /// <summary>
    /// What a complaint is split from before any wire is doubted: common practice, no source. Null where the complaint says
    /// it already.
    /// </summary>
    public static string? Split(PredictionTable table) =>
        (table.Effect, table.Duty.Refuses) switch
        {
            (EffectKind.Turns, false) =>
                "Starting alone. Spark, fuel and compression are no part of it until the engine turns. One that will not turn by hand either is seized, not dead.",
            (EffectKind.Sparks, false) when table.Duty.GoesOn =>
                "Interlocks and kill wiring alone: it starts and runs otherwise, so coil, plug and fuel are hardly in doubt.",
            (EffectKind.Sparks, false) =>
                "Ignition and kill alone. If it turns and sparks, look to fuel, air and compression before any wire.",
            (EffectKind.LetsRun, false) when table.Duty.LetsGo =>
                "Stop circuit alone. If it has let go and its lever stands at run, look to the fuel and the air in it before any wire.",
            (EffectKind.LetsRun, false) =>
                "Fuel cut and stop alone. If it pulls in and stays in, look to the fuel itself, then spark, then compression.",
            (EffectKind.Charges, false) =>
                "Charging alone: what starts and runs it is not in doubt while it starts and runs.",
            (EffectKind.Reads, _) =>
                "A gauge may be telling the truth: see to what it measures first, by hand or by one known good. Sender lead off and held clear, then to ground: a needle that goes from rest to its stop clears gauge and lead.",
            (EffectKind.Holds, _) =>
                "A short alone, or a load too big. No bigger one and no foil: it guards the wire, which burns instead. A new one only once the short is found; until then a bulb in its place.",
            _ => null,
        };

    /// <summary>Names of what need not be looked at.</summary>
    public static string Of(LeftAlone left)
    {
        const int MostNamed = 14;
        var names = left.Parts.Take(MostNamed).Select(p => p.Name).ToList();
        if (left.Parts.Count > MostNamed)
        {
            names.Add($"{left.Parts.Count - MostNamed} parts more");
        }

        if (left.Wires.Count > 0)
        {
            names.Add(left.Wires.Count == 1 ? "1 wire" : $"{left.Wires.Count} wires");
        }

        return names.Count < 2 ? string.Concat(names) : $"{string.Join(", ", names.SkipLast(1))} and {names[^1]}";
    }

    /// <summary>What to do with eye and finger at a sort of place.</summary>
    public static string How(RepairKind kind) =>
        kind switch
        {
            RepairKind.RenewWire => "along its whole length: edges, heat, tooth marks; tug both ends",
            RepairKind.RenewCable => "both ends: green, warm after a try, loose under the spanner",
            RepairKind.CleanJoint => "move it; look for green and brown",
            RepairKind.RenewCavity => "apart: spread socket, pin pushed back, green, wet; latched?",
            RepairKind.BrightenGround => "tight, bright, no paint under it",
            RepairKind.ReplaceSwitch => "does it move all the way and come back; its plug on, dry inside",
            RepairKind.ReplaceFuse => "out and held to the light; clips tight",
            RepairKind.ServiceBattery => "posts, level, swollen case",
            RepairKind.FlashField => "nothing to see: ask how long it stood, and whether it was stopped under load",
            RepairKind.ServiceStarter => "post nut, brushes' dust, burnt smell",
            _ => "plug on, case whole, no smell, no swelling",
        };
}
