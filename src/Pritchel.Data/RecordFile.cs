using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Pritchel.Core.Networks;

namespace Pritchel.Data;

/// <summary>Opens the record's file: backs it up before it is migrated, and keeps a write-ahead log.</summary>
public static class RecordFile
{
    /// <summary>Connection string of a record in a folder.</summary>
    public static string ConnectionString(string folder) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = Path.Combine(folder, "pritchel.db"),
            ForeignKeys = true,
            DefaultTimeout = 10,
        }.ToString();

    /// <summary>Brings the file up to date. A copy is made first when there is anything to change in an existing file.</summary>
    public static async Task PrepareAsync(PritchelContext context, string folder, CancellationToken cancel)
    {
        Directory.CreateDirectory(folder);
        var file = Path.Combine(folder, "pritchel.db");
        var pending = (await context.Database.GetPendingMigrationsAsync(cancel)).ToList();
        if (pending.Count > 0 && File.Exists(file))
        {
            await BackUpAsync(context, Path.Combine(folder, $"pritchel-before-{pending[^1]}.db"), cancel);
        }

        await context.Database.MigrateAsync(cancel);
        await context.Database.ExecuteSqlRawAsync("PRAGMA journal_mode = WAL;", cancel);
    }

    private static async Task BackUpAsync(PritchelContext context, string copy, CancellationToken cancel)
    {
        var connection = (SqliteConnection)context.Database.GetDbConnection();
        await connection.OpenAsync(cancel);
        await using var target = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = copy, Pooling = false }.ToString()
        );
        await target.OpenAsync(cancel);
        connection.BackupDatabase(target);
    }
}

/// <summary>For the migration tool only.</summary>
internal sealed class DesignTimeFactory : IDesignTimeDbContextFactory<PritchelContext>
{
    public PritchelContext CreateDbContext(string[] args) =>
        new(new DbContextOptionsBuilder<PritchelContext>().UseSqlite("Data Source=design.db").Options);
}
