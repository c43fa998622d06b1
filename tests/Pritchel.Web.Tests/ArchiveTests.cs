using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Machines.Files;
using Pritchel.Data;
using Pritchel.Data.Archive;
using Pritchel.Workshop;

namespace Pritchel.Web.Tests;

/// <summary>Everything out as one zip and in again: to the last byte, beside what is here, and never poisoned.</summary>
public sealed class ArchiveTests
{
    [Fact]
    public async Task What_is_exported_and_taken_into_an_empty_record_is_exported_alike_to_the_last_byte()
    {
        var (from, to) = (Folder(), Folder());
        Dictionary<string, byte[]> before;
        await using (var first = new Host(from))
        {
            var client = first.Browser();
            await Talk.OpenJobAsync(client);
            await AddPictureAsync(first);
            await PostAsync(client, "/api/v1/part-tests", """{"kind": "lamp"}""");
            await PostAsync(
                client,
                "/api/v1/rewires",
                """{"name": "Kill past the dash", "host": "orchard-tractor-4"}"""
            );

            // What cannot be read is carried as well.
            await using var scope = first.Services.CreateAsyncScope();
            var record = scope.ServiceProvider.GetRequiredService<PritchelContext>();
            record.JobEvents.OrderBy(e => e.Id).First().Body = "{\"cut in ha";
            await record.SaveChangesAsync();
            await scope
                .ServiceProvider.GetRequiredService<DraftStore>()
                .BeginAsync(
                    MachineFile.Read(record.Machines.OrderBy(m => m.MachineId).First().Json).Machine!,
                    "as it was"
                );
            before = Entries(await client.GetByteArrayAsync("/record?handler=Export"));
        }

        Folders.Release(from);
        Folders.Release(to);
        foreach (var kind in new[] { "machines/", "jobs/", "part-tests/", "rewires/", "drafts/", "pictures/" })
        {
            Assert.Contains(before.Keys, k => k.StartsWith(kind, StringComparison.Ordinal));
        }

        await RecordFile.PrepareAsync(to, default);
        await using (var second = new Host(to))
        {
            await TakeInAsync(second, Zip(before));
            var after = Entries(await second.Browser().GetByteArrayAsync("/record?handler=Export"));
            before.Remove("manifest.json");
            after.Remove("manifest.json");
            Assert.Equal(before.Keys.Order(), after.Keys.Order());
            Assert.All(before, e => Assert.True(Said(e.Value).SequenceEqual(Said(after[e.Key])), e.Key));
        }

        Folders.Release(from);
        Folders.Release(to);
        Folders.Remove(from);
        Folders.Remove(to);
    }

    [Fact]
    public async Task Both_sides_of_a_collision_are_kept_and_told_before_anything_is_written()
    {
        var (from, to) = (Folder(), Folder());
        byte[] zip;
        await using (var first = new Host(from))
        {
            var client = first.Browser();
            await OpenAsync(client, "orchard-tractor-4");
            zip = await client.GetByteArrayAsync("/record?handler=Export");
        }

        Folders.Release(from);
        Folders.Release(to);
        await using (var second = new Host(to))
        {
            var client = second.Browser();
            var here = await OpenAsync(client, "hill-quad-2");
            var page = await SendAsync(client, zip);
            Assert.Contains($"another has that number here; comes in as", page, StringComparison.Ordinal);
            Assert.Single(await JobsAsync(client));
            await ApplyAsync(client, page);
            var jobs = await JobsAsync(client);
            Assert.Equal(2, jobs.Count);
            Assert.Contains(jobs, j => j.Contains(here) && j.Contains("hill-quad-2"));
            Assert.Contains(jobs, j => !j.Contains(here) && j.Contains("orchard-tractor-4"));

            // Once more: all of it is here already, but for the job whose own number another has.
            var again = await SendAsync(client, zip);
            Assert.Contains("here already", again, StringComparison.Ordinal);
        }

        Folders.Release(from);
        Folders.Release(to);
        Folders.Remove(from);
        Folders.Remove(to);
    }

    public static TheoryData<string, byte[]> Hostile =>
        new()
        {
            { "It is no zip file", "not a zip at all"u8.ToArray() },
            { "no manifest.json", Zip(new() { ["jobs/T-0001.json"] = "{}"u8.ToArray() }) },
            { "cannot be read", Zip(With("jobs/T-0001.json", "{\"number\":1}")) },
            { "cannot be read", Zip(With("machines/a.json", "[[[[")) },
            { "up to version 1", Zip(new() { ["manifest.json"] = Manifest("pritchel record", 99) }) },
            { "up to version 1", Zip(new() { ["manifest.json"] = Manifest("another thing", 1) }) },
            { "larger than 64 MB", Zip(With("jobs/T-0001.json", new string(' ', 65 * 1024 * 1024))) },
            { "twice", Zip(With("jobs/a.json", Job(7)).Append(new("jobs/b.json", Encoding.UTF8.GetBytes(Job(7))))) },
            { "steps do not run", Zip(With("jobs/a.json", Job(7).Replace("\"sequence\":1", "\"sequence\":3"))) },
            { "is not in the file and not here", Zip(With("jobs/a.json", Job(7))) },
            {
                "stays out",
                Zip(
                    With(
                        "machines/a.json",
                        """{"id":"x","version":1,"name":"x","kind":"x","addedUtc":"2026-01-01T00:00:00Z","machine":{"format":1}}"""
                    )
                )
            },
        };

    [Theory]
    [MemberData(nameof(Hostile), DisableDiscoveryEnumeration = true)]
    public async Task What_is_no_export_is_refused_in_words_and_writes_nothing(string words, byte[] zip)
    {
        await using var host = new Host();
        var client = host.Browser();
        var page = await SendAsync(client, zip);
        Assert.Contains(words, page, StringComparison.Ordinal);
        Assert.Empty(await JobsAsync(client));
    }

    /// <summary>Names in a zip lead nowhere: what is taken in is named by the record alone.</summary>
    [Fact]
    public async Task A_picture_that_names_another_folder_or_is_none_stays_out()
    {
        await using var host = new Host();
        var picture =
            """{"id":1,"machineId":"m","partId":null,"words":"w","width":1,"height":1,"addedUtc":"2026-01-01T00:00:00Z","putAwayUtc":null}""";
        var zip = Zip(
            With("pictures/1.json", picture)
                .Append(new("pictures/1.jpg", "not a picture"u8.ToArray()))
                .Append(new("pictures/../../../evil.jpg", "x"u8.ToArray()))
        );
        var page = await SendAsync(host.Browser(), zip);
        Assert.Contains("missing, damaged or larger", page, StringComparison.Ordinal);
    }

    private static async Task<string> OpenAsync(HttpClient client, string machine)
    {
        var opened = await client.PostAsJsonAsync("/api/v1/jobs", new { machine, duty = "cranks" });
        opened.EnsureSuccessStatusCode();
        return (await opened.Content.ReadFromJsonAsync<JsonObject>())!["tag"]!.GetValue<string>();
    }

    private static async Task PostAsync(HttpClient client, string address, string json)
    {
        using var body = new StringContent(json, Encoding.UTF8, "application/json");
        (await client.PostAsync(new Uri(address, UriKind.Relative), body)).EnsureSuccessStatusCode();
    }

    private static string Token(string html) =>
        Regex.Match(html, "__RequestVerificationToken[^>]*value=\"([^\"]+)\"").Groups[1].Value;

    /// <summary>Sends a file as the form on the record's page would.</summary>
    private static async Task<string> SendAsync(HttpClient client, byte[] zip)
    {
        using var form = new MultipartFormDataContent
        {
            { new StringContent(Token(await client.GetStringAsync("/record"))), "__RequestVerificationToken" },
            { new ByteArrayContent(zip), "file", "export.zip" },
        };
        var answer = await client.PostAsync("/record/import", form);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static async Task ApplyAsync(HttpClient client, string preview)
    {
        var name = Regex.Match(preview, "name=\"Name\" value=\"([^\"]+)\"").Groups[1].Value;
        var answer = await client.PostAsync(
            "/record/import?handler=Apply",
            new FormUrlEncodedContent(
                new Dictionary<string, string> { ["Name"] = name, ["__RequestVerificationToken"] = Token(preview) }
            )
        );
        Assert.Contains("Taken in", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    /// <summary>An entry, but for when a shipped machine was first seen: a record that is new has seen it now.</summary>
    private static byte[] Said(byte[] entry) =>
        entry.AsSpan().StartsWith("{\"id\""u8)
            ? Encoding.UTF8.GetBytes(
                Regex.Replace(Encoding.UTF8.GetString(entry), "^(.{0,200}\"addedUtc\":\")[^\"]+", "$1")
            )
            : entry;

    private static string Folder() => Directory.CreateTempSubdirectory("pritchel-archive").FullName;

    private static async Task TakeInAsync(Host host, byte[] zip)
    {
        await using var scope = host.Services.CreateAsyncScope();
        var desk = scope.ServiceProvider.GetRequiredService<ArchiveDesk>();
        using var stream = new MemoryStream(zip);
        var name = await desk.ReceiveAsync(stream);
        var told = await desk.ApplyAsync(name);
        Assert.DoesNotContain(told!, t => t.Fate is Fate.Refused or Fate.Beside);
    }

    private static async Task AddPictureAsync(Host host)
    {
        await using var scope = host.Services.CreateAsyncScope();
        using var bitmap = new SkiaSharp.SKBitmap(16, 9);
        using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 80);
        using var stream = data.AsStream();
        await scope.ServiceProvider.GetRequiredService<PictureStore>().AddAsync("hill-quad-2", "key", "key", stream);
    }

    private static async Task<List<string>> JobsAsync(HttpClient client)
    {
        using var read = System.Text.Json.JsonDocument.Parse(await client.GetStringAsync("/api/v1/jobs"));
        return [.. read.RootElement.EnumerateArray().Select(j => j.GetRawText())];
    }

    private static string Job(int number) =>
        $$$"""{"number":{{{number}}},"machineId":"nowhere","machineVersion":1,"openedUtc":"2026-01-01T00:00:00Z","events":[{"sequence":1,"atUtc":"2026-01-01T00:00:00Z","step":{}}]}""";

    private static byte[] Manifest(string what, int version) =>
        Encoding.UTF8.GetBytes(
            $$$"""{"what":"{{{what}}}","version":{{{version}}},"takenUtc":"2026-01-01T00:00:00Z"}"""
        );

    private static IEnumerable<KeyValuePair<string, byte[]>> With(string name, string text) =>
        [new("manifest.json", Manifest("pritchel record", 1)), new(name, Encoding.UTF8.GetBytes(text))];

    private static Dictionary<string, byte[]> Entries(byte[] zip)
    {
        using var read = new ZipArchive(new MemoryStream(zip));
        return read.Entries.ToDictionary(
            e => e.FullName,
            e =>
            {
                using var stream = e.Open();
                using var bytes = new MemoryStream();
                stream.CopyTo(bytes);
                return bytes.ToArray();
            },
            StringComparer.Ordinal
        );
    }

    private static byte[] Zip(Dictionary<string, byte[]> entries) => Zip(entries.AsEnumerable());

    private static byte[] Zip(IEnumerable<KeyValuePair<string, byte[]>> entries)
    {
        var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in entries)
            {
                using var stream = zip.CreateEntry(name).Open();
                stream.Write(content);
            }
        }

        return bytes.ToArray();
    }
}
