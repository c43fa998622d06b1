using System.Text.Json.Serialization;

namespace Pritchel.Core.Identity;

/// <summary>What may be decided on: a repair, or that there is none to do.</summary>
public enum SuspectKind
{
    /// <summary>Something that a repair would cure.</summary>
    Repair,

    /// <summary>Nothing is wrong in this circuit.</summary>
    Sound,

    /// <summary>The machine works as it was designed, or as it was altered.</summary>
    AsDesigned,

    /// <summary>None of the faults of the drawing.</summary>
    None,
}

/// <summary>What is suspected, or decided on; kept with jobs.</summary>
[JsonConverter(typeof(IdentityConverter<SuspectId>))]
public readonly record struct SuspectId : IIdentity<SuspectId>
{
    private const string SoundMark = "sound";
    private const string AsDesignedMark = "as-designed";
    private const string NoneMark = "none";

    private SuspectId(SuspectKind kind, RepairId? repair = null) => (Kind, Repair) = (kind, repair);

    /// <summary>Nothing is wrong in this circuit.</summary>
    public static SuspectId Sound { get; } = new(SuspectKind.Sound);

    /// <summary>It works as designed.</summary>
    public static SuspectId AsDesigned { get; } = new(SuspectKind.AsDesigned);

    /// <summary>None of the faults of the drawing.</summary>
    public static SuspectId None { get; } = new(SuspectKind.None);

    /// <summary>What it is.</summary>
    public SuspectKind Kind { get; }

    /// <summary>The repair; null when there is none to do.</summary>
    public RepairId? Repair { get; }

    /// <inheritdoc/>
    public string Text =>
        Kind switch
        {
            SuspectKind.Sound => SoundMark,
            SuspectKind.AsDesigned => AsDesignedMark,
            SuspectKind.None => NoneMark,
            _ => Repair?.Text ?? "",
        };

    /// <summary>A repair as what is suspected.</summary>
    public static implicit operator SuspectId(RepairId repair) => new(SuspectKind.Repair, repair);

    /// <inheritdoc/>
    public static SuspectId Of(string text) =>
        text switch
        {
            SoundMark => Sound,
            AsDesignedMark => AsDesigned,
            NoneMark => None,
            _ => RepairId.Of(text),
        };

    /// <inheritdoc/>
    public override string ToString() => Text;
}
