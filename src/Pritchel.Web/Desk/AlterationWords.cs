using Pritchel.Core.Identity;
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

    /// <summary>An entry of the register in words: "seat switch is bridged".</summary>
    public static string Is(Circuit circuit, BypassId entry) =>
        entry.Found is not { } found ? $"A lead from {entry.From} to {entry.To} is on"
        : Alteration.Find(circuit, found) is { } altered ? Is(altered)
        : $"{found} is altered";

    /// <summary>An entry of the register as the tag has it: "Bypassed: seat kill".</summary>
    public static string OnTag(BypassId entry) =>
        entry.Found switch
        {
            null => $"Lead on: {entry.From} to {entry.To}",
            { By: AlteredBy.Apart } apart => $"Left apart: {apart.Part}",
            { By: AlteredBy.Off } off => $"Left off: wire {off.Wire}",
            { } bridged => $"Bypassed: {bridged.Part} {bridged.Contact}",
        };

    /// <summary>What undoes an entry of the register.</summary>
    public static string Undone(BypassId entry) =>
        entry.Found is { By: AlteredBy.Apart or AlteredBy.Off } ? "It is joined again" : "It is taken out";

    /// <summary>How an entry was found and what became of it, for the sheet.</summary>
    public static string Found(Circuit circuit, AlterationId entry, bool stillIn)
    {
        var name = Alteration.Find(circuit, entry)?.Name ?? entry.Text;
        return entry.By switch
        {
            AlteredBy.Bridged => $"Found bridged: {name}{(stillIn ? ", STILL IN" : ", taken out")}",
            AlteredBy.Apart => $"Found apart: {name}{(stillIn ? ", STILL SO" : ", joined again")}",
            _ => $"Found off: {name}{(stillIn ? ", STILL SO" : ", joined again")}",
        };
    }
}
