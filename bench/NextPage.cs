using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Web;

namespace Pritchel.Bench;

/// <summary>
/// Server time from Enter on a reading to the page with the next test: the post that writes the event, the redirect,
/// and the page it leads to, in the application's own pipeline without a network.
/// </summary>
internal static partial class NextPage
{
    private const int Jobs = 30;
    private const string Machine = "/api/v1/machines/orchard-tractor-4/measure";

    public static async Task<int> RunAsync()
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var folder = Directory.CreateTempSubdirectory("pritchel-bench").FullName;
        await using var host = new WebApplicationFactory<StartOptions>().WithWebHostBuilder(b =>
            b.ConfigureTestServices(s => s.AddSingleton(new StartOptions(folder, Demo: false, [])))
        );
        var client = host.CreateClient();
        var times = new List<(int Reading, double Milliseconds)>();
        string[] faults = ["7/open", "brake/start/open", "G1/open", "P1/1/open", "key/B-S/open", "solenoid/coil-open"];
        for (var j = 0; j < Jobs; j++)
        {
            // The first jobs warm the just-in-time compiler.
            await HuntAsync(client, faults[j % faults.Length], j < faults.Length ? null : times);
        }

        foreach (var group in times.GroupBy(t => t.Reading).OrderBy(g => g.Key))
        {
            var sorted = group.Select(t => t.Milliseconds).Order().ToArray();
            Console.WriteLine(
                $"reading {group.Key}: median {sorted[sorted.Length / 2]:0} ms, worst {sorted[^1]:0} ms of {sorted.Length}"
            );
        }

        return 0;
    }

    private static async Task HuntAsync(HttpClient client, string fault, List<(int, double)>? times)
    {
        var opened = await client.PostAsJsonAsync(
            "/api/v1/jobs",
            new { machine = "orchard-tractor-4", duty = "cranks" }
        );
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
        var html = await client.GetStringAsync($"/jobs/{tag}");
        for (var reading = 1; reading <= 6 && !html.Contains("Take this verdict", StringComparison.Ordinal); reading++)
        {
            var form = Field()
                .Matches(html.Split("id=\"test-form\"")[1].Split("</form>")[0])
                .ToDictionary(m => m.Groups[1].Value, m => WebUtility.HtmlDecode(m.Groups[2].Value));
            form["Typed"] = await MeasureAsync(client, tag, form, fault);
            form["Symptom"] = "Present";
            var watch = Stopwatch.StartNew();
            var answer = await client.PostAsync($"/jobs/{tag}?handler=Reading", new FormUrlEncodedContent(form));
            html = await answer.Content.ReadAsStringAsync();
            times?.Add((reading, watch.Elapsed.TotalMilliseconds));
        }
    }

    private static async Task<string> MeasureAsync(
        HttpClient client,
        string tag,
        Dictionary<string, string> form,
        string fault
    )
    {
        var job = (await client.GetFromJsonAsync<JsonObject>($"/api/v1/jobs/{tag}"))!;
        var setting = job["conditions"]![int.Parse(form["Condition"], CultureInfo.InvariantCulture)]!["setting"];
        var faults = new[] { new { id = fault } };
        var shown = await client.PostAsJsonAsync(
            Machine,
            new
            {
                setting,
                red = form["Red"],
                black = form["Black"],
                faults,
            }
        );
        return (await shown.Content.ReadFromJsonAsync<JsonObject>())!["value"]!
            .GetValue<double>()
            .ToString("0.00", CultureInfo.InvariantCulture);
    }

    [GeneratedRegex(
        "<input (?=[^>]*type=\"hidden\")[^>]*name=\"([^\"]*)\"[^>]*value=\"([^\"]*)\"",
        RegexOptions.None,
        1000
    )]
    private static partial Regex Field();
}
