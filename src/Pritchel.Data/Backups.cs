using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;
using Pritchel.Core.Units;

namespace Pritchel.Data;

/// <summary>A backup of the record.</summary>
/// <param name="File">Its file.</param>
/// <param name="TakenUtc">When it was taken, UTC.</param>
/// <param name="Bytes">How large it is.</param>
public sealed record BackupEntry(string File, DateTime TakenUtc, long Bytes)
{
    /// <summary>Its file's own name.</summary>
    public string Name => Path.GetFileName(File);
}

/// <summary>
/// Backups of the record in a folder of their own, which may be another disk: taken while it is in use, opened and checked
/// before they count, and kept by age.
/// </summary>
/// <param name="record">Folder of the record.</param>
/// <param name="folder">Folder of the backups.</param>
/// <param name="clock">What time it is.</param>
public sealed partial class Backups(string record, string folder, TimeProvider clock)
{
    private const string Stamp = "yyyyMMdd'T'HHmmss'Z'";
    private const int Days = 7;
    private const int Weeks = 5;
    private const int Months = 12;

    /// <summary>Folder of the backups.</summary>
    public string Folder => folder;

    /// <summary>Backups there are, newest first. What is not named as one is left alone.</summary>
    public IReadOnlyList<BackupEntry> List() =>
        !Directory.Exists(folder)
            ? []
            :
            [
                .. Directory
                    .EnumerateFiles(folder)
                    .Select(f => (File: f, Match: Named().Match(Path.GetFileName(f))))
                    .Where(f => f.Match.Success)
                    .Select(f => new BackupEntry(
                        f.File,
                        DateTime.ParseExact(
                            f.Match.Groups["at"].Value,
                            Stamp,
                            CultureInfo.InvariantCulture,
                            DateTimeStyles.AdjustToUniversal | DateTimeStyles.AssumeUniversal
                        ),
                        new FileInfo(f.File).Length
                    ))
                    .OrderByDescending(b => b.TakenUtc),
            ];

    /// <summary>Takes one, checks it, and lets go of those that age has made needless.</summary>
    /// <exception cref="IOException">The folder cannot be written, or the disk is full.</exception>
    /// <exception cref="RecordRefusedException">What was copied is damaged: the record is too.</exception>
    public async Task<BackupEntry> MakeAsync(CancellationToken cancel = default)
    {
        RecordFile.OwnersOnly(folder);
        var now = clock.GetUtcNow().UtcDateTime;
        var file = Path.Combine(folder, $"pritchel-{now.ToString(Stamp, CultureInfo.InvariantCulture)}.db");
        await CopyAsync(record, file, cancel);
        Age(now);
        return new BackupEntry(file, now, new FileInfo(file).Length);
    }

    /// <summary>Copies the record of a folder while it is in use, and opens the copy to check it before it takes its name.</summary>
    /// <exception cref="RecordRefusedException">The copy is damaged: the record is too.</exception>
    internal static async Task CopyAsync(string record, string file, CancellationToken cancel)
    {
        var unfinished = file + ".new";
        File.Delete(unfinished);
        await using (var source = new SqliteConnection(Alone(RecordFile.FileIn(record))))
        await using (var target = new SqliteConnection(Alone(unfinished)))
        {
            await source.OpenAsync(cancel);
            await target.OpenAsync(cancel);
            source.BackupDatabase(target);
        }

        if (await DamageAsync(unfinished, cancel) is { } damage)
        {
            throw new RecordRefusedException(
                $"The backup {unfinished} does not open whole ({damage}): the record may be damaged. It is kept to look at; older backups are left as they are."
            );
        }

        File.Move(unfinished, file, overwrite: true);
    }

    /// <summary>
    /// Which backups are let go at a moment: all but the newest of each of the last seven days, five weeks and twelve months,
    /// and the newest of all.
    /// </summary>
    public static IEnumerable<BackupEntry> Needless(IReadOnlyList<BackupEntry> all, DateTime nowUtc)
    {
        IEnumerable<BackupEntry> Newest(Func<BackupEntry, (int, int)> of, DateTime since) =>
            all.Where(b => b.TakenUtc >= since).GroupBy(of).Select(g => g.MaxBy(b => b.TakenUtc)!);
        var kept = Newest(b => (b.TakenUtc.Year, b.TakenUtc.DayOfYear), nowUtc.Date.AddDays(1 - Days))
            .Concat(
                Newest(
                    b => (ISOWeek.GetYear(b.TakenUtc), ISOWeek.GetWeekOfYear(b.TakenUtc)),
                    nowUtc.Date.AddDays(-7 * Weeks)
                )
            )
            .Concat(Newest(b => (b.TakenUtc.Year, b.TakenUtc.Month), nowUtc.Date.AddMonths(-Months)))
            .Append(all.MaxBy(b => b.TakenUtc))
            .ToHashSet();
        return all.Where(b => !kept.Contains(b));
    }

    /// <summary>What is wrong with a record's file; null when it opens whole.</summary>
    internal static async Task<string?> DamageAsync(string file, CancellationToken cancel)
    {
        try
        {
            await using var copy = new SqliteConnection(Alone(file));
            await copy.OpenAsync(cancel);
            await using var check = copy.CreateCommand();
            check.CommandText = "PRAGMA integrity_check";
            var said = (string?)await check.ExecuteScalarAsync(cancel);
            check.CommandText = "SELECT COUNT(*) FROM __EFMigrationsHistory";
            await check.ExecuteScalarAsync(cancel);
            return said == "ok" ? null : said ?? "no answer";
        }
        catch (SqliteException e)
        {
            return e.Message;
        }
    }

    private static string Alone(string file) =>
        new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ToString();

    private void Age(DateTime nowUtc)
    {
        foreach (var needless in Needless(List(), nowUtc))
        {
            File.Delete(needless.File);
        }
    }

    [GeneratedRegex(
        @"^pritchel-(?<at>\d{8}T\d{6}Z)\.db$",
        RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant,
        Patterns.MostMilliseconds
    )]
    private static partial Regex Named();
}
