using Pritchel.Core.Jobs;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Desk;

/// <summary>How bypasses and other alterations are said.</summary>
public static class AlterationWords
{
    /// <summary>"coupling P4 is apart".</summary>
    public static string Is(Alteration altered) =>
        altered.By switch
        {
            AlteredBy.Bridged => $"{altered.Name} is bridged",
            AlteredBy.Apart => $"{altered.Name} is apart",
            _ => $"{altered.Name} is off",
        };

    /// <summary>An entry of the register in words: "seat kill is bridged".</summary>
    public static string Is(Circuit circuit, string entry) =>
        Alteration.Find(circuit, entry) is { By: not AlteredBy.Bridged } altered
            ? Is(altered)
            : Plain(entry) + " is bridged";

    /// <summary>An entry of the register as the tag has it: "Bypassed: seat kill".</summary>
    public static string OnTag(string entry) =>
        entry.Split('/') is ["apart", var coupling] ? $"Left apart: {coupling}"
        : entry.Split('/') is ["off", var wire] ? $"Left off: wire {wire}"
        : "Bypassed: " + Plain(entry);

    /// <summary>What undoes an entry of the register.</summary>
    public static string Undone(Circuit circuit, string entry) =>
        Alteration.Find(circuit, entry) is { By: not AlteredBy.Bridged } ? "It is joined again" : "It is taken out";

    /// <summary>How an entry was found and what became of it, for the sheet.</summary>
    public static string Found(Circuit circuit, string entry, bool stillIn) =>
        Alteration.Find(circuit, entry) is { By: not AlteredBy.Bridged } altered
            ? $"Found {(altered.By == AlteredBy.Apart ? "apart" : "off")}: {altered.Name}{(stillIn ? ", STILL SO" : ", joined again")}"
            : $"Found bridged: {Plain(entry)}{(stillIn ? ", STILL IN" : ", taken out")}";

    private static string Plain(string entry) => entry.Replace('/', ' ');
}
