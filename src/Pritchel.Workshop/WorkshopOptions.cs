namespace Pritchel.Workshop;

/// <summary>How a workshop is run.</summary>
/// <param name="DataFolder">Folder of the record.</param>
public sealed record WorkshopOptions(string DataFolder)
{
    /// <summary>Whether an empty record is filled with demo data.</summary>
    public bool Demo { get; init; } = true;

    /// <summary>Whether tables of the shipped machines are worked out in the background, before anybody asks.</summary>
    public bool WorksAhead { get; init; } = true;

    /// <summary>Folder of the tables; beside the record unless said otherwise.</summary>
    public string TableFolder { get; init; } = Path.Combine(DataFolder, "tables");

    /// <summary>Folder of backups; beside the record unless said otherwise.</summary>
    public string BackupFolder { get; init; } = Path.Combine(DataFolder, "backups");

    /// <summary>Backup that takes the record's place at this start; null for none.</summary>
    public string? Restore { get; init; }

    /// <summary>Most megabytes that tables may take on disk; the least used are dropped beyond it.</summary>
    public int TableMegabytes { get; init; } = 1000;
}
