using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;
using Pritchel.Data;

namespace Pritchel.Web.Tests;

/// <summary>Faults of the disk under the record: said in words where it happened, what was typed kept, over when they end.</summary>
public sealed partial class StorageFaultTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Codes by SQLite's own list (sqlite.org/rescode.html); ENOSPC is 28 and EROFS 30 in POSIX.</summary>
    [Theory]
    [InlineData(5, "Another program holds the record")]
    [InlineData(6, "Another program holds the record")]
    [InlineData(8, "read-only")]
    [InlineData(10, "did not read or write")]
    [InlineData(11, "damaged")]
    [InlineData(13, "disk is full")]
    [InlineData(14, "cannot be opened")]
    [InlineData(26, "damaged")]
    public void Every_fault_of_the_disk_has_words_that_say_what_is_lost(int code, string words)
    {
        var thrown = new InvalidOperationException("outer", new SqliteException("inner", code));
        Assert.Contains(words, StorageFault.Words(thrown), StringComparison.Ordinal);
        Assert.Equal(code is 11 or 26, StorageFault.IsDamage(thrown));
    }

    [Fact]
    public void Faults_of_files_have_words_and_faults_of_ours_have_none()
    {
        Assert.Contains("full", StorageFault.Words(new IOException("x", 28)), StringComparison.Ordinal);
        Assert.Contains("read-only", StorageFault.Words(new IOException("x", 30)), StringComparison.Ordinal);
        Assert.Contains("write", StorageFault.Words(new UnauthorizedAccessException()), StringComparison.Ordinal);
        Assert.Null(StorageFault.Words(new SqliteException("constraint", 19)));
        Assert.Null(StorageFault.Words(new IOException("x", 2)));
        Assert.Null(StorageFault.Words(new InvalidOperationException()));
        Assert.Null(StorageFault.Words(null));
    }

    /// <summary>The same on forms that keep no steps of a job: a drawing, a machine begun.</summary>
    [Fact]
    public async Task Every_form_keeps_what_was_typed_while_another_holds_the_record()
    {
        await using var host = new Host();
        var client = host.Browser();
        using var begun = await Talk.PostFormAsync(
            client,
            "/machines/make?from=hedgerow-mower-2",
            "/machines/make?handler=Change"
        );
        Assert.Contains("drafts/1", begun.RequestMessage!.RequestUri!.ToString(), StringComparison.Ordinal);
        (string Page, string Action, string Field)[] forms =
        [
            ("/machines/drafts/1?on=machine", "/machines/drafts/1?on=machine&amp;view=loom", "Name"),
            ("/machines/make", "/machines/make?handler=Another", "Name"),
            ("/rewires", "/rewires", "Name"),
            ("/rewires/plug", "/rewires/plug", "Name"),
            ("/part-tests", "/part-tests?handler=Points", "called"),
            ("/part-tests/new?kind=relay", "/part-tests/new?kind=relay", "Name"),
            ("/meter", "/meter", "Name"),
        ];
        await using var holder = await HeldAsync(host);
        (string, string)[] meter =
        [
            .. MeterFigure()
                .Matches(await client.GetStringAsync("/meter", Cancel))
                .Select(m => (m.Groups["name"].Value, m.Groups["value"].Value)),
        ];
        Assert.NotEmpty(meter);
        await Task.WhenAll(
            forms.Select(async f =>
            {
                using var answer = await Talk.PostFormAsync(
                    client,
                    f.Page,
                    f.Action,
                    [
                        .. meter,
                        (f.Field, "Curlew meadow"),
                        ("Host", "hedgerow-mower-2"),
                        ("Leads[0].Cavity", "1"),
                        ("Leads[0].Colours", "red"),
                        ("Leads[0].Function", "BatteryFeed"),
                        ("Leads[1].Cavity", "2"),
                        ("Leads[1].Colours", "black"),
                        ("Leads[1].Function", "Ground"),
                        ("Kind", f.Page.Contains("part-tests", StringComparison.Ordinal) ? "relay" : "mower"),
                        ("StopByHand", "let the bail go"),
                        ("Summary", "a mower"),
                        ("MayDiffer", "little"),
                        ("NotDrawn", "nothing"),
                        ("StoppedBy", "the bail"),
                    ]
                );
                var said = await answer.Content.ReadAsStringAsync(Cancel);
                Assert.Equal((f.Page, HttpStatusCode.ServiceUnavailable), (f.Page, answer.StatusCode));
                Assert.Contains("Another program holds the record", said, StringComparison.Ordinal);
                Assert.Contains("Curlew meadow", said, StringComparison.Ordinal);
            })
        );
    }

    /// <summary>A picture is sent again by hand: its words stay, and no file of it is left that no row names.</summary>
    [Fact]
    public async Task A_picture_that_could_not_be_kept_leaves_its_words_and_no_file()
    {
        await using var host = new Host();
        var client = host.Browser();
        const string Page = "/machines/hill-quad-2/pictures";
        var token = (await client.GetStringAsync(Page, Cancel))
            .Split("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"")[1]
            .Split('"')[0];
        using var form = new MultipartFormDataContent
        {
            { new StringContent(token), "__RequestVerificationToken" },
            { new StringContent("plug by the tank"), "Words" },
            { new ByteArrayContent(Convert.FromBase64String(RedPixel)), "file", "a.png" },
        };
        await using var holder = await HeldAsync(host);
        var answer = await client.PostAsync(Page, form, Cancel);
        var said = await answer.Content.ReadAsStringAsync(Cancel);
        Assert.Equal(HttpStatusCode.ServiceUnavailable, answer.StatusCode);
        Assert.Contains("Another program holds the record", said, StringComparison.Ordinal);
        Assert.Contains("plug by the tank", said, StringComparison.Ordinal);
        var pictures = Path.Combine(host.Folder, "pictures");
        Assert.Empty(Directory.Exists(pictures) ? Directory.EnumerateFiles(pictures) : []);
    }

    // One red pixel, as any camera might send it.
    private const string RedPixel =
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAADElEQVR4nGP4z8AAAAMBAQDJ/pLvAAAAAElFTkSuQmCC";

    [GeneratedRegex(
        """<input[^>]*name="(?<name>Typed\[[^"]*|Functions)"[^>]*value="(?<value>[^"]*)"[^>]*(checked|inputmode)""",
        RegexOptions.ExplicitCapture,
        1000
    )]
    private static partial Regex MeterFigure();

    [Fact]
    public async Task A_record_that_another_holds_is_told_beside_what_was_typed_and_is_picked_up_when_let_go()
    {
        await using var host = new Host();
        var client = host.Browser();
        var tag = await Talk.OpenJobAsync(client);
        var page = $"/jobs/{tag}/complaint";
        await client.GetStringAsync(page, Cancel);
        await using (await HeldAsync(host))
        {
            var answer = await SendAsync(client, page);
            Assert.Equal(HttpStatusCode.ServiceUnavailable, answer.StatusCode);
            var said = await answer.Content.ReadAsStringAsync(Cancel);
            Assert.Contains("Another program holds the record", said, StringComparison.Ordinal);
            Assert.Contains("as typed just now", said, StringComparison.Ordinal);
            Assert.Contains("name=\"Failed\" value=\"7\"", said, StringComparison.Ordinal);
        }

        Assert.Equal(HttpStatusCode.OK, (await SendAsync(client, page)).StatusCode);
        var job = await client.GetFromJsonAsync<System.Text.Json.Nodes.JsonObject>($"/api/v1/jobs/{tag}", Cancel);
        Assert.Equal("as typed just now", job!["complaint"]!["words"]!.GetValue<string>());
    }

    /// <summary>The record held by another program, until it is let go.</summary>
    private static async Task<SqliteConnection> HeldAsync(Host host)
    {
        var holder = new SqliteConnection($"Data Source={Path.Combine(host.Folder, "pritchel.db")};Pooling=False");
        await holder.OpenAsync(Cancel);
        await using var hold = holder.CreateCommand();
        hold.CommandText = "BEGIN IMMEDIATE";
        await hold.ExecuteNonQueryAsync(Cancel);
        return holder;
    }

    private static Task<HttpResponseMessage> SendAsync(HttpClient client, string page) =>
        Talk.PostFormAsync(
            client,
            page,
            page,
            ("HeardSaid", "Nothing"),
            ("Failed", "7"),
            ("Tried", "9"),
            ("Words", "as typed just now")
        );
}
