using Pritchel.Core.Faults;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Simulation;

/// <summary>
/// Faults of a machine by the text they are known by in addresses and over the API: "key/B-S/open". Where a wire and a
/// part of one name would give two faults one text, the one that comes later has what it sits in written before it:
/// "wire 5/open".
/// </summary>
public sealed class FaultTexts
{
    private readonly Dictionary<string, Fault> faults = new(StringComparer.Ordinal);
    private readonly Dictionary<FaultId, string> texts = [];

    internal FaultTexts(IReadOnlyList<Fault> all)
    {
        foreach (var fault in all)
        {
            var text = fault.Id.Text;
            if (!faults.TryAdd(text, fault))
            {
                text = $"{fault.Id.Of.Owner.Kind.ToString().ToLowerInvariant()} {text}";
                faults.TryAdd(text, fault);
            }

            texts.TryAdd(fault.Id, text);
        }
    }

    /// <summary>Text of a fault of the machine.</summary>
    public string this[FaultId fault] => texts[fault];

    /// <summary>The fault of a text, or null.</summary>
    public Fault? Find(string? text) => text is null ? null : faults.GetValueOrDefault(text);
}
