using Microsoft.Data.Sqlite;

namespace Pritchel.Data;

/// <summary>Faults of the disk under the record, in words that say what is lost (nothing that was kept) and what to do.</summary>
public static class StorageFault
{
    // Primary result codes of SQLite (sqlite.org/rescode.html).
    private const int Busy = 5;
    private const int Locked = 6;
    private const int ReadOnly = 8;
    private const int ReadWrite = 10;
    private const int Corrupt = 11;
    private const int Full = 13;
    private const int CannotOpen = 14;
    private const int NotADatabase = 26;

    // ENOSPC and EROFS of POSIX, as .NET keeps them in the low word of an HResult.
    private const int NoSpace = 28;
    private const int ReadOnlyFiles = 30;

    /// <summary>What a fault is in words; null for what is no fault of the disk.</summary>
    public static string? Words(Exception? thrown) =>
        thrown switch
        {
            null => null,
            SqliteException e => Words(e.SqliteErrorCode) ?? Words(e.InnerException),
            UnauthorizedAccessException =>
                "The record's folder does not let this program write. Nothing was written; what was kept before is whole. Give the program's user the right to write there, then send it again.",
            IOException e when (e.HResult & 0xFFFF) == NoSpace => FullWords,
            IOException e when (e.HResult & 0xFFFF) == ReadOnlyFiles => ReadOnlyWords,
            _ => Words(thrown.InnerException),
        };

    /// <summary>Whether the record's own file is damaged.</summary>
    public static bool IsDamage(Exception? thrown) =>
        thrown is SqliteException { SqliteErrorCode: Corrupt or NotADatabase }
        || (thrown?.InnerException is { } inner && IsDamage(inner));

    private const string FullWords =
        "The disk is full. Nothing was written; what was kept before is whole. Free some room (tables can be deleted at any time), then send it again.";

    private const string ReadOnlyWords =
        "The disk or the record's file is read-only. Nothing was written; what was kept before is whole. Make it writable, or start with --data and another folder, then send it again.";

    private static string? Words(int code) =>
        code switch
        {
            Full => FullWords,
            ReadOnly => ReadOnlyWords,
            Busy or Locked =>
                "Another program holds the record: a copy being made, or a second program on the same folder. Nothing was written; send it again in a moment, or end the other.",
            ReadWrite =>
                "The disk did not read or write as it was asked: it may be full, loose or failing. Nothing was written; what was kept before is whole unless the disk is failing. Look at the disk, then send it again.",
            CannotOpen =>
                "The record cannot be opened: its folder is gone, not mounted, or not to be written in. Nothing was written. Bring the folder back, then send it again.",
            Corrupt or NotADatabase =>
                "The record's file is damaged. Nothing more is written to it. End the program and start it once with ./start --restore and the newest backup; keep the damaged file to look at.",
            _ => null,
        };
}
