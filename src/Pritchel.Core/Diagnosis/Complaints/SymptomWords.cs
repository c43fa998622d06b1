using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Complaints;

/// <summary>How what a part does, or does not, is said of it.</summary>
internal static class SymptomWords
{
    public static string Said(Part part) => char.ToUpperInvariant(part.Name[0]) + part.Name[1..];

    public static string Verb(EffectKind kind) =>
        kind switch
        {
            EffectKind.Glows => "lights",
            EffectKind.Sounds => "sounds",
            _ => "works",
        };

    public static string Dead(EffectKind kind) =>
        kind switch
        {
            EffectKind.Glows => "does not light",
            EffectKind.Sounds => "never sounds",
            _ => "does not work",
        };

    public static string Stays(EffectKind kind) =>
        kind switch
        {
            EffectKind.Glows => "stays lit",
            EffectKind.Sounds => "sounds all the time",
            _ => "stays on",
        };

    public static string Quiet(EffectKind kind) =>
        kind switch
        {
            EffectKind.Glows => "stays dark",
            EffectKind.Sounds => "stays silent",
            _ => "stays off",
        };
}
