using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;

namespace Pritchel.Web.Tests;

/// <summary>A record that was hurt: what can be read is shown, what cannot is named, nothing is written over.</summary>
public sealed class HurtRecordTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("pritchel-hurt").FullName;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private string Record => Path.Combine(folder, "pritchel.db");

    public void Dispose()
    {
        Folders.Release(folder);
        Folders.Remove(folder);
    }

    [Theory]
    [InlineData("UPDATE JobEvents SET Body = substr(Body, 1, 30) WHERE JobId = 1 AND Sequence = 2", "T-0001: Entry 2")]
    [InlineData("UPDATE JobEvents SET Body = '' WHERE JobId = 1 AND Sequence = 1", "T-0001: Entry 1")]
    [InlineData("UPDATE Machines SET Json = '{}' WHERE MachineId = 'orchard-tractor-4'", "machine orchard-tractor-4")]
    [InlineData("INSERT INTO Settings (Name, Value) VALUES ('meter', 'not json')", "The meter in use cannot be read")]
    public async Task One_bad_row_is_set_aside_and_named_and_everything_else_works(string hurt, string named)
    {
        await PrepareAsync();
        await using (var connection = new SqliteConnection(RecordFile.ConnectionString(folder)))
        {
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText = hurt;
            Assert.Equal(1, await command.ExecuteNonQueryAsync(Cancel));
        }

        await using var host = new Host(folder);
        var client = host.Browser();
        var bench = await client.GetStringAsync("/", Cancel);
        Assert.Contains(named, bench, StringComparison.Ordinal);
        foreach (
            var address in new[] { "/machines", "/machines/hedgerow-mower-2", "/meter", "/api/v1/jobs", "/jobs/T-0002" }
        )
        {
            var other = await client.GetAsync(address, Cancel);
            Assert.True(
                other.IsSuccessStatusCode
                    || (named.Contains("orchard", StringComparison.Ordinal) && address == "/jobs/T-0002"),
                $"{address}: {other.StatusCode}"
            );
        }

        var hurtJob = await client.GetAsync("/jobs/T-0001/sheet", Cancel);
        Assert.NotEqual(HttpStatusCode.InternalServerError, hurtJob.StatusCode);
    }

    [Fact]
    public async Task Nothing_is_added_to_a_job_of_which_not_all_is_known()
    {
        await PrepareAsync();
        await using (var connection = new SqliteConnection(RecordFile.ConnectionString(folder)))
        {
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText =
                "INSERT INTO JobEvents (JobId, Sequence, AtUtc, Body) VALUES (1, 3, '2026-11-27', '{\"kind\":\"sung\",\"v\":2}')";
            await command.ExecuteNonQueryAsync(Cancel);
        }

        await using var host = new Host(folder);
        var client = host.Browser();
        Assert.True((await client.GetAsync("/jobs/T-0001", Cancel)).IsSuccessStatusCode);
        var refused = await client.PostAsJsonAsync("/api/v1/jobs/T-0001/help", new { alone = true }, Cancel);
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains(
            "cannot be read here",
            await refused.Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// The log beside the record deleted after a kill, as somebody does who tidies up: the record alone, copied while it is in use,
    /// holds all that was acknowledged.
    /// </summary>
    [Fact]
    public async Task The_records_own_file_alone_holds_what_was_acknowledged()
    {
        var alone = Directory.CreateTempSubdirectory("pritchel-alone-").FullName;
        var acknowledged = 0L;
        await using (var host = new Host(folder))
        {
            var client = host.Browser();
            var tag = await Talk.OpenJobAsync(client);
            foreach (var helper in new[] { true, false, true })
            {
                var kept = await client.PostAsJsonAsync($"/api/v1/jobs/{tag}/help", new { alone = helper }, Cancel);
                Assert.True(kept.IsSuccessStatusCode);
            }

            var job = await client.GetFromJsonAsync<JsonElement>($"/api/v1/jobs/{tag}", Cancel);
            acknowledged = job.GetProperty("sequence").GetInt64();

            // The log is there, and is not copied.
            Assert.True(File.Exists(Path.Combine(folder, "pritchel.db-wal")));
            File.Copy(Path.Combine(folder, "pritchel.db"), Path.Combine(alone, "pritchel.db"));
        }

        await using (var connection = new SqliteConnection(RecordFile.ReadingConnectionString(alone)))
        {
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText = "SELECT COUNT(*) FROM JobEvents";
            Assert.True(acknowledged > 3);
            Assert.Equal(acknowledged, await command.ExecuteScalarAsync(Cancel));
        }

        Directory.Delete(alone, recursive: true);
    }

    /// <summary>
    /// A page of the file overwritten, as a failing disk does: the rest is read and can be taken out, nothing is written, and
    /// what brings it back is named.
    /// </summary>
    [Fact]
    public async Task A_damaged_file_is_read_as_far_as_it_can_be_and_never_written()
    {
        const int Page = 4096;
        await PrepareAsync();
        await new Backups(folder, Path.Combine(folder, "backups"), TimeProvider.System).MakeAsync(Cancel);
        await using (var connection = new SqliteConnection(RecordFile.ConnectionString(folder)))
        {
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText = """
                WITH RECURSIVE n(k) AS (SELECT 3 UNION ALL SELECT k + 1 FROM n WHERE k < 200)
                INSERT INTO JobEvents (JobId, Sequence, AtUtc, Body)
                SELECT 2, k, '2026-11-27 08:00:00', '{"kind":"help","v":2,"alone":true,"mark":"sandpiper' || k || '"}' FROM n;
                PRAGMA wal_checkpoint(TRUNCATE);
                """;
            await command.ExecuteNonQueryAsync(Cancel);
        }

        Folders.Release(folder);
        var bytes = await File.ReadAllBytesAsync(Record, Cancel);
        var hurt = bytes.AsSpan().IndexOf("sandpiper100"u8) / Page * Page;
        bytes.AsSpan(hurt, Page).Fill(0xA5);
        await File.WriteAllBytesAsync(Record, bytes, Cancel);

        await using (var host = new Host(folder))
        {
            var client = host.Browser();
            var machines = await client.GetStringAsync("/machines", Cancel);
            Assert.Contains("file is damaged", machines, StringComparison.Ordinal);
            Assert.Contains("--restore", machines, StringComparison.Ordinal);
            var sent = await client.PostAsJsonAsync("/api/v1/jobs/T-0001/help", new { alone = true }, Cancel);
            Assert.Equal(HttpStatusCode.ServiceUnavailable, sent.StatusCode);
            Assert.Contains("newest backup", await sent.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
            using var form = await client.PostAsync("/meter", new FormUrlEncodedContent([]), Cancel);
            Assert.Equal(HttpStatusCode.ServiceUnavailable, form.StatusCode);
            Assert.Contains(
                "nothing is written",
                await form.Content.ReadAsStringAsync(Cancel),
                StringComparison.Ordinal
            );

            using var zip = new ZipArchive(await client.GetStreamAsync("/record?handler=Export", Cancel));
            var names = zip.Entries.Select(e => e.FullName).ToList();
            Assert.Contains("jobs/T-0001.json", names);
            Assert.DoesNotContain("jobs/T-0002.json", names);
            Assert.True(names.Count(n => n.StartsWith("machines/", StringComparison.Ordinal)) >= 13);
            using var lost = new StreamReader(zip.GetEntry("lost.txt")!.Open());
            Assert.Contains("Job 2 cannot be read", await lost.ReadToEndAsync(Cancel), StringComparison.Ordinal);
        }

        Folders.Release(folder);
        Assert.Equal(bytes, await File.ReadAllBytesAsync(Record, Cancel));
    }

    /// <summary>The files of pictures are gone, or were destroyed: what they showed is still told.</summary>
    [Fact]
    public async Task Pictures_whose_files_are_gone_close_no_page()
    {
        await PrepareAsync();
        await using (var connection = new SqliteConnection(RecordFile.ConnectionString(folder)))
        {
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText =
                "INSERT INTO Pictures (MachineId, Words, Width, Height, AddedUtc) VALUES ('orchard-tractor-4', 'fuse box, lid off', 40, 30, '2026-11-27')";
            await command.ExecuteNonQueryAsync(Cancel);
        }

        await using var host = new Host(folder);
        var client = host.Browser();
        Assert.Contains(
            "fuse box, lid off",
            await client.GetStringAsync("/machines/orchard-tractor-4/pictures", Cancel),
            StringComparison.Ordinal
        );
        using var file = await client.GetAsync("/machines/orchard-tractor-4/pictures?handler=File&picture=1", Cancel);
        Assert.Equal(HttpStatusCode.NotFound, file.StatusCode);
        using var all = await client.GetAsync("/record?handler=Export", Cancel);
        Assert.True(all.IsSuccessStatusCode);
    }

    private sealed class ClockSetBack : TimeProvider
    {
        private int asked;

        public override DateTimeOffset GetUtcNow() =>
            new DateTimeOffset(2026, 11, 27, 8, 0, 0, TimeSpan.Zero).AddHours(-Interlocked.Increment(ref asked));
    }

    /// <summary>Each entry an hour before the one before it: they stand in the order in which they were made.</summary>
    [Fact]
    public async Task A_clock_set_back_changes_no_order()
    {
        await using var host = new Host(folder);
        await using var back = host.WithWebHostBuilder(b =>
            b.ConfigureTestServices(services => services.AddSingleton<TimeProvider>(new ClockSetBack()))
        );
        using var client = back.CreateClient();
        var tag = await Talk.OpenJobAsync(client);
        foreach (var alone in new[] { true, false, true })
        {
            using var sent = await client.PostAsJsonAsync($"/api/v1/jobs/{tag}/help", new { alone }, Cancel);
            Assert.True(sent.IsSuccessStatusCode);
        }

        var history = await client.GetStringAsync($"/jobs/{tag}/history", Cancel);
        var said = Regex.Matches(history, "works alone|has a helper", RegexOptions.None, TimeSpan.FromSeconds(1));
        Assert.Equal(["works alone", "has a helper", "works alone"], said.Select(m => m.Value));
    }

    /// <summary>A second start on one folder waits for the first, however long that takes, and then comes up.</summary>
    [Fact]
    public async Task A_second_start_waits_for_the_first()
    {
        await PrepareAsync();
        var first = new FileStream(
            Path.Combine(folder, "pritchel.lock"),
            FileMode.OpenOrCreate,
            FileAccess.ReadWrite,
            FileShare.None
        );
        var second = Task.Run(() => RecordFile.PrepareAsync(folder, Cancel), Cancel);
        Assert.NotEqual(second, await Task.WhenAny(second, Task.Delay(TimeSpan.FromSeconds(1), Cancel)));
        await first.DisposeAsync();
        Assert.Null(await second);
    }

    [Fact]
    public async Task A_damaged_key_closes_no_page()
    {
        await PrepareAsync();
        await File.WriteAllTextAsync(Path.Combine(folder, "keys", "key-of-old.xml"), "<key", Cancel);
        await File.WriteAllTextAsync(Path.Combine(folder, "keys", "key-empty.xml"), "", Cancel);
        await using var host = new Host(folder);
        Assert.True((await host.Browser().GetAsync("/jobs/T-0001", Cancel)).IsSuccessStatusCode);
    }

    [Fact]
    public async Task An_empty_a_foreign_and_a_newer_file_are_refused_in_words_and_left_alone()
    {
        await File.WriteAllBytesAsync(Record, [], Cancel);
        Assert.Contains("is empty", await RefusedAsync(), StringComparison.Ordinal);
        Assert.Equal(0, new FileInfo(Record).Length);

        await File.WriteAllTextAsync(Record, new string('x', 4096), Cancel);
        Assert.Contains("is not a record of this program", await RefusedAsync(), StringComparison.Ordinal);

        File.Delete(Record);
        await PrepareAsync();
        await using (var connection = new SqliteConnection(RecordFile.ConnectionString(folder)))
        {
            await connection.OpenAsync(Cancel);
            await using var command = connection.CreateCommand();
            command.CommandText = "INSERT INTO __EFMigrationsHistory VALUES ('29990101000000_Later', '99.0.0')";
            await command.ExecuteNonQueryAsync(Cancel);
        }

        Assert.Contains("newer version", await RefusedAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_start_that_was_stopped_in_its_migration_does_not_stop_the_next()
    {
        await using (
            var context = new PritchelContext(
                new DbContextOptionsBuilder<PritchelContext>().UseSqlite($"Data Source={Record};Pooling=False").Options
            )
        )
        {
            // As a kill left it: the first migration is in, the second waits, and its lock is held by nobody.
            await context.GetService<IMigrator>().MigrateAsync("First", Cancel);
            await context.Database.ExecuteSqlRawAsync(
                "CREATE TABLE IF NOT EXISTS __EFMigrationsLock (Id INTEGER PRIMARY KEY, Timestamp TEXT NOT NULL)",
                Cancel
            );
            await context.Database.ExecuteSqlRawAsync(
                "INSERT OR REPLACE INTO __EFMigrationsLock VALUES (1, '2026-11-27')",
                Cancel
            );
        }

        await File.WriteAllTextAsync(Record + ".new", "half a record", Cancel);
        await RecordFile.PrepareAsync(folder, Cancel).WaitAsync(TimeSpan.FromSeconds(20), Cancel);
        await using var host = new Host(folder);
        Assert.True((await host.Browser().GetAsync("/", Cancel)).IsSuccessStatusCode);
    }

    /// <summary>A record with two jobs in it.</summary>
    private async Task PrepareAsync()
    {
        await using (var host = new Host(folder))
        {
            await Talk.OpenJobAsync(host.Browser());
            await Talk.OpenJobAsync(host.Browser());
        }

        Folders.Release(folder);
    }

    private async Task<string> RefusedAsync()
    {
        Folders.Release(folder);
        return (
            await Assert.ThrowsAsync<RecordRefusedException>(() => RecordFile.PrepareAsync(folder, Cancel))
        ).Message;
    }
}
