using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Pritchel.Data.Events;

namespace Pritchel.Data;

/// <summary>
/// Opens the record's file. A new one is made under another name and put in its place when it is whole; an old one is
/// brought up to date after a copy was made. A stop at any moment leaves a record that the next start opens.
/// </summary>
public static class RecordFile
{
    private const string Name = "pritchel.db";
    private const string InUse = "pritchel.inuse";
    private static readonly string[] Sides = ["-wal", "-shm"];
    private const int NotADatabase = 26;
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(60);
    private static readonly TimeSpan BetweenTries = TimeSpan.FromMilliseconds(50);

    /// <summary>Connection string of a record in a folder.</summary>
    public static string ConnectionString(string folder) => ConnectionTo(FileIn(folder));

    /// <summary>Connection string of a record that may not be written to.</summary>
    public static string ReadingConnectionString(string folder) =>
        new SqliteConnectionStringBuilder(ConnectionString(folder)) { Mode = SqliteOpenMode.ReadOnly }.ToString();

    /// <summary>File of a record in a folder.</summary>
    internal static string FileIn(string folder) => Path.Combine(folder, Name);

    /// <summary>
    /// Makes a folder that only its owner reads, and what was made before it so. A folder that was there stays as it is: it may
    /// be a memory stick, or somebody's home.
    /// </summary>
    public static void OwnersOnly(string folder)
    {
        if (OperatingSystem.IsWindows())
        {
            Directory.CreateDirectory(folder);
            return;
        }

        Directory.CreateDirectory(folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        if (File.Exists(FileIn(folder)))
        {
            File.SetUnixFileMode(FileIn(folder), UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }
    }

    /// <summary>Brings the record of a folder up to date, or makes one.</summary>
    /// <param name="folder">Folder of the record.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>What is wrong with its file: then nothing was done to it. Null where it is whole.</returns>
    /// <exception cref="RecordRefusedException">What lies there is no record, or is one that this version cannot open.</exception>
    public static async Task<string?> PrepareAsync(string folder, CancellationToken cancel)
    {
        OwnersOnly(folder);

        // Held by the file system, so that it goes with the process however that ends.
        await using var alone = await LockAsync(folder, cancel);
        var file = FileIn(folder);
        if (!File.Exists(file))
        {
            await MakeAsync(folder, file, cancel);
        }

        Check(file);
        await using var context = Open(file);
        try
        {
            if (await IsOfThisVersionAsync(context, cancel) && await QuickCheckAsync(context, cancel) is { } damage)
            {
                return damage;
            }

            await UpdateAsync(context, folder, cancel);
            return null;
        }
        catch (SqliteException e) when (e.SqliteErrorCode == NotADatabase)
        {
            throw Foreign(file, e);
        }
    }

    /// <summary>Whether a record needs no migration, so that it can be read as it lies.</summary>
    private static async Task<bool> IsOfThisVersionAsync(PritchelContext context, CancellationToken cancel) =>
        (await AppliedAsync(context, cancel)).SequenceEqual(
            context.Database.GetMigrations().Order(StringComparer.Ordinal),
            StringComparer.Ordinal
        );

    /// <summary>What SQLite's own check says is wrong with the pages of the file; null for nothing.</summary>
    private static async Task<string?> QuickCheckAsync(PritchelContext context, CancellationToken cancel)
    {
        await context.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = context.Database.GetDbConnection().CreateCommand();
            command.CommandText = "PRAGMA quick_check(1)";
            return await command.ExecuteScalarAsync(cancel) is string said and not "ok" ? said : null;
        }
        catch (SqliteException e) when (StorageFault.IsDamage(e))
        {
            return e.Message;
        }
        finally
        {
            await context.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Puts a backup in the record's place, once it has been checked; what it replaces is kept beside it.</summary>
    /// <param name="folder">Folder of the record; nobody may have it open.</param>
    /// <param name="backup">File of the backup; left as it is.</param>
    /// <param name="cancel">Stops waiting.</param>
    /// <returns>File that the replaced record is kept as; null where there was none.</returns>
    /// <exception cref="RecordRefusedException">The backup is not there, is no record, or does not open whole.</exception>
    public static async Task<string?> RestoreAsync(string folder, string backup, CancellationToken cancel)
    {
        if (!File.Exists(backup))
        {
            throw new RecordRefusedException($"{backup} is not there. Nothing was changed.");
        }

        OwnersOnly(folder);
        await using var starts = await LockAsync(folder, cancel);
        await using var alone = Alone(folder);
        var file = FileIn(folder);
        var coming = file + ".coming";
        File.Copy(backup, coming, overwrite: true);
        if (await Backups.DamageAsync(coming, cancel) is { } damage)
        {
            File.Delete(coming);
            throw new RecordRefusedException(
                $"{backup} does not open as a whole record ({damage}). Nothing was changed; try an older one."
            );
        }

        string? kept = null;
        if (File.Exists(file))
        {
            await CloseUpAsync(file, cancel);

            // All three move together: what is only in the log yet belongs to what is replaced.
            kept = FreeName(Path.Combine(folder, $"pritchel-replaced-{DateTime.UtcNow:yyyyMMdd'T'HHmmss'Z'}"));
            File.Move(file, kept);
            foreach (var side in Sides.Where(s => File.Exists(file + s)))
            {
                File.Move(file + side, kept + side);
            }
        }

        File.Move(coming, file);
        return kept;
    }

    /// <summary>A name that no file has yet: two restores may fall into one second.</summary>
    private static string FreeName(string name)
    {
        var free = name + ".db";
        for (var k = 2; File.Exists(free); k++)
        {
            free = $"{name}-{k}.db";
        }

        return free;
    }

    /// <summary>
    /// Says that the record of a folder is in use, for as long as what is returned is held: it goes with the process however
    /// that ends.
    /// </summary>
    public static IDisposable Hold(string folder)
    {
        var file = Path.Combine(folder, InUse);
        using (new FileStream(file, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.ReadWrite))
        {
            // There must be a file to share.
        }

        return new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read);
    }

    /// <summary>Holds the record for oneself, while nothing has it in use.</summary>
    private static FileStream Alone(string folder)
    {
        try
        {
            return new FileStream(
                Path.Combine(folder, InUse),
                FileMode.OpenOrCreate,
                FileAccess.ReadWrite,
                FileShare.None
            );
        }
        catch (IOException e)
        {
            throw new RecordRefusedException(
                $"The record in {folder} is in use: end the program that has it open first. Nothing was changed.",
                e
            );
        }
    }

    /// <summary>Brings what is in the log into the file; one that cannot be read is left as it is, and its log goes with it.</summary>
    private static async Task CloseUpAsync(string file, CancellationToken cancel)
    {
        try
        {
            await using var context = Open(file);
            await context.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = DELETE;", cancel);
        }
        catch (SqliteException)
        {
            // That is what it is replaced for.
        }
    }

    private static async Task MakeAsync(string folder, string file, CancellationToken cancel)
    {
        var unfinished = Path.Combine(folder, Name + ".new");
        foreach (var left in new[] { unfinished, unfinished + "-journal", unfinished + "-wal", unfinished + "-shm" })
        {
            File.Delete(left);
        }

        await using (var context = Open(unfinished))
        {
            await context.Database.MigrateAsync(cancel);
            await FormatUpgrade.MarkAsync(context, cancel);
        }

        if (!OperatingSystem.IsWindows())
        {
            File.SetUnixFileMode(unfinished, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }

        File.Move(unfinished, file);
    }

    private static void Check(string file)
    {
        if (new FileInfo(file).Length == 0)
        {
            throw new RecordRefusedException(
                $"{file} is empty: it is no record. Put a copy of the record back in its place, or move the empty file away to begin a new one."
            );
        }
    }

    private static async Task UpdateAsync(PritchelContext context, string folder, CancellationToken cancel)
    {
        var known = context.Database.GetMigrations().ToList();
        var applied = await AppliedAsync(context, cancel);
        if (applied.Count == 0)
        {
            throw Foreign(FileIn(folder), null);
        }

        var newer = applied.Except(known, StringComparer.Ordinal).ToList();
        if (newer.Count > 0 || await FormatUpgrade.FormatOfAsync(context, cancel) > EventFormat.Version)
        {
            throw new RecordRefusedException(
                $"The record in {folder} was written by a newer version of this program, and is left as it is. Start that version, or use another folder with --data."
            );
        }

        var pending = known.Except(applied, StringComparer.Ordinal).ToList();
        if (pending.Count > 0)
        {
            await Backups.CopyAsync(folder, Path.Combine(folder, $"pritchel-before-{pending[^1]}.db"), cancel);

            // Whoever else holds this row is not there any more: we are alone.
            await FreeMigrationLockAsync(context, cancel);
            await context.Database.MigrateAsync(cancel);
        }

        if (await FormatUpgrade.FormatOfAsync(context, cancel) < EventFormat.Version)
        {
            await Backups.CopyAsync(
                folder,
                Path.Combine(folder, $"pritchel-before-events-{EventFormat.Version}.db"),
                cancel
            );
            await FormatUpgrade.BringOverAsync(context, cancel);
        }

        await JobStore.LookAsync(context, cancel);
        await context.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = WAL;", cancel);
    }

    /// <summary>
    /// Migrations that a record has been through; none where it keeps no list of them. Asked in plain SQL: at nearly every start
    /// there is nothing to migrate, and what migrates takes a second to get ready.
    /// </summary>
    private static async Task<List<string>> AppliedAsync(PritchelContext context, CancellationToken cancel)
    {
        var connection = (SqliteConnection)context.Database.GetDbConnection();
        await context.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = connection.CreateCommand();
            command.CommandText =
                "SELECT COUNT(*) FROM sqlite_master WHERE type = 'table' AND name = '__EFMigrationsHistory'";
            if ((long)(await command.ExecuteScalarAsync(cancel))! == 0)
            {
                return [];
            }

            command.CommandText = "SELECT MigrationId FROM __EFMigrationsHistory ORDER BY MigrationId";
            var applied = new List<string>();
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                applied.Add(reader.GetString(0));
            }

            return applied;
        }
        finally
        {
            await context.Database.CloseConnectionAsync();
        }
    }

    private static async Task FreeMigrationLockAsync(PritchelContext context, CancellationToken cancel)
    {
        var there = await context
            .Database.SqlQuery<int>(
                $"SELECT COUNT(*) AS Value FROM sqlite_master WHERE type = 'table' AND name = '__EFMigrationsLock'"
            )
            .SingleAsync(cancel);
        if (there > 0)
        {
            await context.Database.ExecuteSqlRawAsync("DELETE FROM __EFMigrationsLock", cancel);
        }
    }

    private static async Task<FileStream> LockAsync(string folder, CancellationToken cancel)
    {
        var file = Path.Combine(folder, "pritchel.lock");
        for (var waited = TimeSpan.Zero; ; waited += BetweenTries)
        {
            try
            {
                return new FileStream(file, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
            }
            catch (IOException e) when (waited > LongestWait)
            {
                throw new RecordRefusedException(
                    $"Another start of this program has held {file} for a minute. End that one first.",
                    e
                );
            }
            catch (IOException)
            {
                await Task.Delay(BetweenTries, cancel);
            }
        }
    }

    private static RecordRefusedException Foreign(string file, Exception? inner) =>
        new(
            $"{file} is not a record of this program, and is left as it is. Put a copy of the record back in its place, or use another folder with --data.",
            inner ?? new InvalidDataException("None of the record's tables is there.")
        );

    private static string ConnectionTo(string file) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = file,
            ForeignKeys = true,
            DefaultTimeout = 10,
        }.ToString();

    private static PritchelContext Open(string file) =>
        new(
            new DbContextOptionsBuilder<PritchelContext>()
                .UseSqlite(new SqliteConnectionStringBuilder(ConnectionTo(file)) { Pooling = false }.ToString())
                .Options
        );
}

/// <summary>For the migration tool only.</summary>
internal sealed class DesignTimeFactory : IDesignTimeDbContextFactory<PritchelContext>
{
    public PritchelContext CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<PritchelContext>().UseSqlite("Data Source=design.db").Options);
}
