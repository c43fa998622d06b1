using System.Text.Json.Serialization;

namespace Pritchel.Core.Identity;

/// <summary>What a repair renews or puts right.</summary>
public enum RepairTarget
{
    /// <summary>A part.</summary>
    Part,

    /// <summary>A wire with its ends.</summary>
    Wire,

    /// <summary>One joint.</summary>
    Joint,

    /// <summary>One cavity of a coupling.</summary>
    Cavity,

    /// <summary>Two neighbouring cavities of a coupling.</summary>
    Pair,

    /// <summary>A plug: a coupling pushed home, or the spark plug of a coil.</summary>
    Plug,

    /// <summary>The plug lead of a coil.</summary>
    Lead,

    /// <summary>The studs of a breaker.</summary>
    Studs,

    /// <summary>The brushes of a generator.</summary>
    Brushes,

    /// <summary>The magnetism of a generator's iron.</summary>
    Residue,

    /// <summary>Wires that meet in splices, their loom opened.</summary>
    Loom,

    /// <summary>A part's metal on its body.</summary>
    Mount,

    /// <summary>Wiring that is not as the drawing has it.</summary>
    NotAsDrawn,
}

/// <summary>What one repair would renew; written "part:key", "cavity:P1/3". Kept with jobs.</summary>
/// <param name="Target">What sort of thing.</param>
/// <param name="Name">Which of them.</param>
[JsonConverter(typeof(IdentityConverter<RepairId>))]
public readonly record struct RepairId(RepairTarget Target, string Name) : IIdentity<RepairId>
{
    private static readonly Dictionary<RepairTarget, string> Marks = new()
    {
        [RepairTarget.Part] = "part",
        [RepairTarget.Wire] = "wire",
        [RepairTarget.Joint] = "joint",
        [RepairTarget.Cavity] = "cavity",
        [RepairTarget.Pair] = "pair",
        [RepairTarget.Plug] = "plug",
        [RepairTarget.Lead] = "lead",
        [RepairTarget.Studs] = "studs",
        [RepairTarget.Brushes] = "brushes",
        [RepairTarget.Residue] = "residue",
        [RepairTarget.Loom] = "loom",
        [RepairTarget.Mount] = "mount",
        [RepairTarget.NotAsDrawn] = "not-as-drawn",
    };

    /// <inheritdoc/>
    public string Text => Name is { Length: > 0 } ? $"{Marks[Target]}:{Name}" : Marks[Target];

    /// <summary>The repair of a part.</summary>
    public static RepairId OfPart(PartId part) => new(RepairTarget.Part, part.Text);

    /// <inheritdoc/>
    public static RepairId Of(string text)
    {
        var colon = text.IndexOf(':', StringComparison.Ordinal);
        var mark = colon < 0 ? text : text[..colon];
        foreach (var (target, its) in Marks)
        {
            if (its == mark)
            {
                return new RepairId(target, colon < 0 ? "" : text[(colon + 1)..]);
            }
        }

        // A repair that nobody knows is one that nobody finds.
        return new RepairId(RepairTarget.NotAsDrawn, text);
    }

    /// <inheritdoc/>
    public override string ToString() => Text;
}
