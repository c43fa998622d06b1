using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web.Tests;

/// <summary>The application in process, on a record of its own in a temporary folder.</summary>
public sealed class Host : WebApplicationFactory<Program>
{
    private readonly string folder;
    private readonly bool owns;

    public Host()
        : this(Directory.CreateTempSubdirectory("pritchel-web").FullName, owns: true) { }

    internal Host(string folder, bool owns = false)
    {
        this.folder = folder;
        this.owns = owns;
    }

    public string Folder => folder;

    protected override void ConfigureWebHost(IWebHostBuilder builder) =>
        builder.ConfigureTestServices(services =>
            services.AddSingleton(
                new WorkshopOptions(folder)
                {
                    Demo = false,
                    WorksAhead = false,
                    TableFolder = Tables,
                }
            )
        );

    // One for all hosts of a run: what one has worked out, none works out again.
    private static readonly string Tables =
        Environment.GetEnvironmentVariable("PRITCHEL_TEST_TABLES")
        ?? Directory.CreateTempSubdirectory("pritchel-tables").FullName;

    public HttpClient Browser() => CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = true });

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        if (disposing && owns)
        {
            Folders.Release(folder);
            Folders.Remove(folder);
        }
    }
}

/// <summary>Temporary folders of records.</summary>
internal static class Folders
{
    private const int MostTries = 20;

    /// <summary>
    /// Closes what is kept open of one folder's record, so that its file may be read or changed beside the program. Only that one's: other
    /// tests have theirs open.
    /// </summary>
    public static void Release(string folder)
    {
        foreach (var to in new[] { RecordFile.ConnectionString(folder), RecordFile.ReadingConnectionString(folder) })
        {
            using var connection = new Microsoft.Data.Sqlite.SqliteConnection(to);
            Microsoft.Data.Sqlite.SqliteConnection.ClearPool(connection);
        }
    }

    /// <summary>
    /// Removes a folder with all that is in it. A connection that is only now being closed may still put its journal down
    /// beside the record, so it is tried for some seconds; one that stays is the system's to clear, and no test's failure.
    /// </summary>
    public static void Remove(string folder)
    {
        for (var tries = 1; Directory.Exists(folder) && tries <= MostTries; tries++)
        {
            try
            {
                Directory.Delete(folder, recursive: true);
            }
            catch (IOException)
            {
                Thread.Sleep(TimeSpan.FromMilliseconds(100));
            }
        }
    }
}

/// <summary>Short ways of talking to the application.</summary>
internal static partial class Talk
{
    public static Dictionary<string, string> Start { get; } = new() { ["key"] = "START", ["brake"] = "down" };

    public static async Task<string> OpenJobAsync(HttpClient client)
    {
        var opened = await client.PostAsJsonAsync(
            "/api/v1/jobs",
            new { machine = "orchard-tractor-4", duty = "cranks" }
        );
        Assert.Equal(HttpStatusCode.Created, opened.StatusCode);
        var tag = (await opened.Content.ReadFromJsonAsync<JsonObject>())!["tag"]!.GetValue<string>();
        (
            await client.PostAsJsonAsync(
                $"/api/v1/jobs/{tag}/complaint",
                new
                {
                    heard = "nothing",
                    failed = 3,
                    tried = 3,
                }
            )
        ).EnsureSuccessStatusCode();
        return tag;
    }

    public static async Task<JsonObject> GetAsync(HttpClient client, string address) =>
        (await client.GetFromJsonAsync<JsonObject>(address))!;

    /// <summary>Posts the form of a page as a browser would, with its hidden fields and some changed.</summary>
    public static async Task<HttpResponseMessage> PostFormAsync(
        HttpClient client,
        string page,
        string action,
        params (string Name, string Value)[] fields
    )
    {
        var html = await client.GetStringAsync(page);
        var form = Regex
            .Split(html, "<form")
            .Skip(1)
            .First(f =>
                f.Contains($"action=\"{action}\"", StringComparison.Ordinal)
                || (action == page && !f.Split('>')[0].Contains("action=", StringComparison.Ordinal))
            );
        var values = Hidden()
            .Matches(form.Split("</form>")[0])
            .ToDictionary(
                m => WebUtility.HtmlDecode(m.Groups["name"].Value),
                m => WebUtility.HtmlDecode(m.Groups["value"].Value)
            );
        foreach (var (name, value) in fields)
        {
            values[name] = value;
        }

        return await client.PostAsync(WebUtility.HtmlDecode(action), new FormUrlEncodedContent(values));
    }

    [GeneratedRegex(
        """<input (?=[^>]*type="hidden")[^>]*name="(?<name>[^"]*)"[^>]*value="(?<value>[^"]*)" """,
        RegexOptions.ExplicitCapture | RegexOptions.IgnorePatternWhitespace,
        1000
    )]
    private static partial Regex Hidden();
}
