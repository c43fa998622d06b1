using System.Globalization;
using Microsoft.Data.Sqlite;

namespace Pritchel.Data;

/// <summary>One thing of the record as it stands and as a backup has it, counted in entries.</summary>
/// <param name="Sort">What sort of thing: "job", "part test", "rewire", "machine", "drawing", "picture".</param>
/// <param name="Name">Its tag or id.</param>
/// <param name="Now">Entries in the record.</param>
/// <param name="Then">Entries in the backup.</param>
public sealed record RestoredThing(string Sort, string Name, int Now, int Then);

/// <summary>What putting a backup in the record's place would take away and bring back.</summary>
/// <param name="Backup">The backup.</param>
/// <param name="Lost">Things with more entries now than in the backup.</param>
/// <param name="Back">Things with more entries in the backup than now.</param>
/// <param name="Alike">How many things are as they were.</param>
public sealed record RestorePreview(
    BackupEntry Backup,
    IReadOnlyList<RestoredThing> Lost,
    IReadOnlyList<RestoredThing> Back,
    int Alike
)
{
    // Tags are made here, of the numbers that the record keeps: tables of an older record may be missing.
    private static readonly (string Sort, string Table, string Sql, Func<string, string> Name)[] Counted =
    [
        (
            "job",
            "JobEvents",
            "SELECT j.Number, COUNT(e.Id) FROM Jobs j LEFT JOIN JobEvents e ON e.JobId = j.Id GROUP BY j.Number",
            n => JobStore.TagOf(Number(n))
        ),
        (
            "part test",
            "PartTestSteps",
            "SELECT t.Number, COUNT(s.Sequence) FROM PartTests t LEFT JOIN PartTestSteps s ON s.PartTestId = t.Id GROUP BY t.Number",
            n => PartTestStore.TagOf(Number(n))
        ),
        (
            "rewire",
            "RewireSteps",
            "SELECT r.Number, COUNT(s.Sequence) FROM Rewires r LEFT JOIN RewireSteps s ON s.RewireId = r.Id GROUP BY r.Number",
            n => RewireStore.TagOf(Number(n))
        ),
        ("machine", "Machines", "SELECT MachineId, COUNT(*) FROM Machines GROUP BY MachineId", n => n),
        (
            "drawing",
            "DraftSteps",
            "SELECT d.MachineId, COUNT(s.Sequence) FROM Drafts d LEFT JOIN DraftSteps s ON s.DraftId = d.Id GROUP BY d.MachineId",
            n => n
        ),
        ("picture", "Pictures", "SELECT MachineId, COUNT(*) FROM Pictures GROUP BY MachineId", n => n),
    ];

    /// <summary>Compares a backup with the record of a folder; neither is changed.</summary>
    /// <exception cref="SqliteException">The backup cannot be read.</exception>
    public static async Task<RestorePreview> OfAsync(string record, BackupEntry backup, CancellationToken cancel)
    {
        var now = await CountAsync(RecordFile.FileIn(record), cancel);
        var then = await CountAsync(backup.File, cancel);
        var all = now
            .Keys.Union(then.Keys)
            .Select(k => new RestoredThing(k.Sort, k.Name, now.GetValueOrDefault(k), then.GetValueOrDefault(k)))
            .OrderBy(t => t.Sort, StringComparer.Ordinal)
            .ThenBy(t => t.Name, StringComparer.Ordinal)
            .ToList();
        return new RestorePreview(
            backup,
            [.. all.Where(t => t.Now > t.Then)],
            [.. all.Where(t => t.Then > t.Now)],
            all.Count(t => t.Now == t.Then)
        );
    }

    private static async Task<Dictionary<(string Sort, string Name), int>> CountAsync(
        string file,
        CancellationToken cancel
    )
    {
        var counts = new Dictionary<(string, string), int>();
        await using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = file,
                Mode = SqliteOpenMode.ReadOnly,
                Pooling = false,
            }.ConnectionString
        );
        await connection.OpenAsync(cancel);
        foreach (var (sort, table, sql, name) in Counted)
        {
            await using var there = connection.CreateCommand();
            there.CommandText = "SELECT COUNT(*) FROM sqlite_master WHERE type = 'table' AND name = $table";
            there.Parameters.AddWithValue("$table", table);
            if (Convert.ToInt64(await there.ExecuteScalarAsync(cancel), CultureInfo.InvariantCulture) == 0)
            {
                continue;
            }

            await using var count = connection.CreateCommand();
#pragma warning disable CA2100 // The statements are those above, word by word.
            count.CommandText = sql;
#pragma warning restore CA2100
            await using var rows = await count.ExecuteReaderAsync(cancel);
            while (await rows.ReadAsync(cancel))
            {
                counts[(sort, name(Convert.ToString(rows.GetValue(0), CultureInfo.InvariantCulture)!))] = rows.GetInt32(
                    1
                );
            }
        }

        return counts;
    }

    private static int Number(string text) => int.Parse(text, CultureInfo.InvariantCulture);
}
