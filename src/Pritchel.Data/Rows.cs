namespace Pritchel.Data;

/// <summary>One version of a machine file. Versions are added, never changed, so an old job keeps the one it was opened on.</summary>
public sealed class MachineRow : IAuthored
{
    /// <summary>Machine id as its file gives it.</summary>
    public required string MachineId { get; init; }

    /// <summary>1 for the first.</summary>
    public required int Version { get; init; }

    /// <summary>Name, for lists.</summary>
    public required string Name { get; init; }

    /// <summary>Family, for lists.</summary>
    public required string Kind { get; init; }

    /// <summary>Canonical JSON.</summary>
    public required string Json { get; init; }

    /// <summary>When it was added, UTC.</summary>
    public required DateTime AddedUtc { get; init; }

    /// <inheritdoc/>
    public string? By { get; set; }
}

/// <summary>A job. What it stands at is in its events.</summary>
public sealed class JobRow
{
    /// <summary>Database key.</summary>
    public int Id { get; init; }

    /// <summary>Tag number, as written on the paper tag.</summary>
    public required int Number { get; init; }

    /// <summary>Machine.</summary>
    public required string MachineId { get; init; }

    /// <summary>Version of the machine the job was opened on.</summary>
    public required int MachineVersion { get; init; }

    /// <summary>When it was opened, UTC.</summary>
    public required DateTime OpenedUtc { get; init; }

    /// <summary>
    /// Whether its history ends closed, so that the bench need not read it to know; null where nobody has looked yet. The
    /// history is what counts.
    /// </summary>
    public bool? IsClosed { get; set; }

    /// <summary>Its history.</summary>
    public ICollection<JobEventRow> Events { get; } = new List<JobEventRow>();
}

/// <summary>One event of a job. Rows are added, never removed, and changed only to bring them to a newer format.</summary>
public sealed class JobEventRow : IAuthored
{
    /// <summary>Database key.</summary>
    public long Id { get; init; }

    /// <summary>Job.</summary>
    public int JobId { get; init; }

    /// <summary>1 for the job's first; unique within the job, so two tabs cannot both write the same place.</summary>
    public required int Sequence { get; init; }

    /// <summary>When, UTC.</summary>
    public required DateTime AtUtc { get; init; }

    /// <summary>The event as JSON, in the record's own format.</summary>
    public required string Body { get; set; }

    /// <inheritdoc/>
    public string? By { get; set; }
}

/// <summary>A setting of the installation.</summary>
public sealed class SettingRow
{
    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Value as JSON.</summary>
    public required string Value { get; set; }
}

/// <summary>A machine being drawn or changed, not yet saved as a version.</summary>
public sealed class DraftRow
{
    /// <summary>Database key.</summary>
    public int Id { get; init; }

    /// <summary>Id the machine will be saved under.</summary>
    public required string MachineId { get; init; }

    /// <summary>The step it stands at; later steps were undone.</summary>
    public required int At { get; set; }

    /// <summary>Its steps.</summary>
    public ICollection<DraftStepRow> Steps { get; } = new List<DraftStepRow>();
}

/// <summary>One step of a draft: the whole machine as it was after a change.</summary>
public sealed class DraftStepRow : IAuthored
{
    /// <summary>Draft.</summary>
    public int DraftId { get; init; }

    /// <summary>0 for what the draft began from.</summary>
    public required int Sequence { get; init; }

    /// <summary>What was changed, in words.</summary>
    public required string Words { get; init; }

    /// <summary>The machine after it, canonical JSON.</summary>
    public required string Json { get; init; }

    /// <summary>When, UTC.</summary>
    public required DateTime AtUtc { get; init; }

    /// <inheritdoc/>
    public string? By { get; set; }
}

/// <summary>A picture of a machine; the picture itself is a file beside the record.</summary>
public sealed class PictureRow : IAuthored
{
    /// <summary>Database key; the file is pictures/ID.jpg.</summary>
    public int Id { get; init; }

    /// <summary>Machine.</summary>
    public required string MachineId { get; init; }

    /// <summary>Part it shows, by id, or null.</summary>
    public string? PartId { get; init; }

    /// <summary>What it shows.</summary>
    public required string Words { get; init; }

    /// <summary>Width in pixels.</summary>
    public required int Width { get; init; }

    /// <summary>Height in pixels.</summary>
    public required int Height { get; init; }

    /// <summary>When it was added, UTC.</summary>
    public required DateTime AddedUtc { get; init; }

    /// <summary>When it was put away, UTC; a picture put away is kept but not shown.</summary>
    public DateTime? PutAwayUtc { get; set; }

    /// <inheritdoc/>
    public string? By { get; set; }
}
