using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;

namespace Pritchel.Web.Tests;

/// <summary>Backups: taken in use, checked, kept by age, and put in the record's place.</summary>
public sealed class BackupTests
{
    [Fact]
    public async Task What_is_backed_up_comes_back_and_what_it_replaces_is_kept()
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-backup").FullName;
        string tag,
            later,
            backup;
        await using (var first = new Host(folder))
        {
            var client = first.Browser();
            tag = await Talk.OpenJobAsync(client);
            await Talk.PostFormAsync(client, "/record", "/record");
            Assert.Contains(" MB · pritchel-", await client.GetStringAsync("/record"), StringComparison.Ordinal);
            backup = first.Services.GetRequiredService<Backups>().List()[0].File;
            later = await Talk.OpenJobAsync(client);

            // What would be lost is said before anybody does it: the later job, all of it, and nothing of the first.
            var preview = await client.GetStringAsync($"/record/restore?backup={Path.GetFileName(backup)}");
            Assert.Contains($"job {later}: all of it", preview, StringComparison.Ordinal);
            Assert.DoesNotContain($"job {tag}", preview, StringComparison.Ordinal);
            Assert.Contains($"--restore {backup}", preview, StringComparison.Ordinal);
            using var nowhere = await client.GetAsync("/record/restore?backup=..%2Fpritchel.db");
            Assert.Equal(System.Net.HttpStatusCode.NotFound, nowhere.StatusCode);

            // While it is open nothing takes its place.
            var open = await Assert.ThrowsAsync<RecordRefusedException>(() =>
                RecordFile.RestoreAsync(folder, backup, default)
            );
            Assert.Contains("end the program that has it open", open.Message, StringComparison.Ordinal);
        }

        Folders.Release(folder);
        var kept = await RecordFile.RestoreAsync(folder, backup, default);
        await using (var second = new Host(folder))
        {
            var client = second.Browser();
            Assert.True((await client.GetAsync($"/api/v1/jobs/{tag}")).IsSuccessStatusCode);
            Assert.False((await client.GetAsync($"/api/v1/jobs/{later}")).IsSuccessStatusCode);
        }

        // One after the other within a second: what each replaces is kept beside the other's.
        Folders.Release(folder);
        var again = await RecordFile.RestoreAsync(folder, kept!, default);
        var onceMore = await RecordFile.RestoreAsync(folder, kept!, default);
        Assert.Equal(3, new[] { kept, again, onceMore }.Distinct().Count(File.Exists));
        await using (var third = new Host(folder))
        {
            Assert.True((await third.Browser().GetAsync($"/api/v1/jobs/{later}")).IsSuccessStatusCode);
        }

        Folders.Release(folder);
        Folders.Remove(folder);
    }

    [Fact]
    public async Task A_damaged_or_foreign_backup_is_refused_and_changes_nothing()
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-backup").FullName;
        await RecordFile.PrepareAsync(folder, default);
        Folders.Release(folder);
        var record = await File.ReadAllBytesAsync(Path.Combine(folder, "pritchel.db"));
        var bad = Path.Combine(folder, "bad.db");
        foreach (var bytes in new[] { [], record[..(record.Length / 2)], "not a record at all"u8.ToArray() })
        {
            await File.WriteAllBytesAsync(bad, bytes);
            await Assert.ThrowsAsync<RecordRefusedException>(() => RecordFile.RestoreAsync(folder, bad, default));
            Assert.Equal(record, await File.ReadAllBytesAsync(Path.Combine(folder, "pritchel.db")));
        }

        await Assert.ThrowsAsync<RecordRefusedException>(() =>
            RecordFile.RestoreAsync(folder, Path.Combine(folder, "nowhere.db"), default)
        );
        Folders.Remove(folder);
    }

    /// <summary>By hand: one a day for two years leaves seven days, the weeks and months before them, and never the newest.</summary>
    [Fact]
    public void Backups_are_kept_by_age()
    {
        var now = new DateTime(2026, 11, 28, 12, 0, 0, DateTimeKind.Utc);
        var all = Enumerable
            .Range(0, 730)
            .SelectMany(d => new[] { 0, 6 }.Select(h => new BackupEntry($"{d}-{h}", now.AddDays(-d).AddHours(-h), 1)))
            .ToList();
        var left = all.Except(Backups.Needless(all, now)).Select(b => b.TakenUtc).Order().ToList();
        Assert.Equal(now, left[^1]);
        for (var day = 0; day < 7; day++)
        {
            Assert.Contains(now.AddDays(-day), left);
        }

        Assert.InRange(left.Count, 7 + 4 + 11 - 2, 7 + 6 + 13);
        Assert.True(left[0] >= now.AddMonths(-12).Date.AddDays(-1));
        Assert.True(left.Zip(left.Skip(1)).All(p => p.Second - p.First <= TimeSpan.FromDays(32)));
        Assert.Empty(Backups.Needless([all[^1]], now));
    }
}
