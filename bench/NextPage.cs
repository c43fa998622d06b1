using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Web;
using Pritchel.Workshop;

namespace Pritchel.Bench;

/// <summary>
/// Server time from Enter on a reading to the page with the next test: the post that writes the event, the redirect,
/// and the page it leads to, in the application's own pipeline without a network.
/// </summary>
internal static partial class NextPage
{
    private const int Jobs = 30;
    private const int Faults = 6;

    public static async Task<int> RunAsync(string[] args)
    {
        CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
        var (machine, duty) = args is [var m, var d, ..] ? (m, d) : ("orchard-tractor-4", "cranks");
        var tried = args.Contains("seldom", StringComparer.Ordinal) ? 8 : 3;
        var faults = Opens(machine, duty);
        await using var host = Start();
        var client = host.CreateClient();
        var times = new List<(int Reading, double Milliseconds)>();
        for (var j = 0; j < Jobs; j++)
        {
            // The first jobs warm the just-in-time compiler.
            await HuntAsync(client, (machine, duty), tried, faults[j % faults.Count], j < faults.Count ? null : times);
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

    /// <summary>The application on a record of its own.</summary>
    public static WebApplicationFactory<StartOptions> Start()
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-bench").FullName;
        return new WebApplicationFactory<StartOptions>().WithWebHostBuilder(b =>
            b.ConfigureTestServices(s =>
                s.AddSingleton(new WorkshopOptions(folder) { Demo = false, WorksAhead = false })
            )
        );
    }

    /// <summary>Opens a job; its tag.</summary>
    public static async Task<string> OpenAsync(HttpClient client, string machine, string duty)
    {
        var opened = await client.PostAsJsonAsync("/api/v1/jobs", new { machine, duty });
        return (await opened.Content.ReadFromJsonAsync<JsonObject>())!["tag"]!.GetValue<string>();
    }

    /// <summary>What a form would send as it stands: its hidden fields.</summary>
    public static Dictionary<string, string> Hidden(string form) =>
        Field().Matches(form).ToDictionary(m => m.Groups[1].Value, m => WebUtility.HtmlDecode(m.Groups[2].Value));

    /// <summary>Things gone open that stop a duty, from all over its circuit.</summary>
    private static List<string> Opens(string machine, string duty)
    {
        var kit = DiagnosisKit.Build(Usage.Circuits(machine).First(), new DutyId(duty), []);
        var opens = kit.Table.Hypotheses.Where(h => h is { HasPredictions: true, Fault.Kind: FaultKind.Open }).ToList();
        return
        [
            .. opens
                .Where((_, i) => i % Math.Max(1, opens.Count / Faults) == 0)
                .Take(Faults)
                .Select(h => h.Fault!.Id.Text),
        ];
    }

    private static async Task HuntAsync(
        HttpClient client,
        (string Machine, string Duty) of,
        int tried,
        string fault,
        List<(int, double)>? times
    )
    {
        var tag = await OpenAsync(client, of.Machine, of.Duty);
        (
            await client.PostAsJsonAsync(
                $"/api/v1/jobs/{tag}/complaint",
                new
                {
                    heard = "nothing",
                    failed = 3,
                    tried,
                }
            )
        ).EnsureSuccessStatusCode();
        var html = await client.GetStringAsync($"/jobs/{tag}");
        for (var reading = 1; reading <= 6 && !html.Contains("Take this verdict", StringComparison.Ordinal); reading++)
        {
            var form = Hidden(html.Split("id=\"test-form\"")[1].Split("</form>")[0]);
            if (form.ContainsKey("Stirring"))
            {
                form["Changed"] = "false";
                var stirred = Stopwatch.StartNew();
                html = await (
                    await client.PostAsync($"/jobs/{tag}?handler=Stirred", new FormUrlEncodedContent(form))
                ).Content.ReadAsStringAsync();
                times?.Add((reading, stirred.Elapsed.TotalMilliseconds));
                continue;
            }

            var typed = await MeasureAsync(client, of.Machine, tag, form, fault);
            form["Typed"] = typed ?? "";
            form["Symptom"] = "Present";
            var watch = Stopwatch.StartNew();
            var answer = await client.PostAsync(
                $"/jobs/{tag}?handler={(typed is null ? "NotSure" : "Reading")}",
                new FormUrlEncodedContent(form)
            );
            html = await answer.Content.ReadAsStringAsync();
            if (html.Contains("role=\"alert\"", StringComparison.Ordinal))
            {
                throw new InvalidOperationException(html.Split("role=\"alert\"")[1][..200]);
            }

            if (typed is not null)
            {
                times?.Add((reading, watch.Elapsed.TotalMilliseconds));
            }
        }
    }

    /// <summary>What the machine with the fault shows, as typed; null for what is seen rather than read, which is passed over.</summary>
    private static async Task<string?> MeasureAsync(
        HttpClient client,
        string machine,
        string tag,
        Dictionary<string, string> form,
        string fault
    )
    {
        var job = (await client.GetFromJsonAsync<JsonObject>($"/api/v1/jobs/{tag}"))!;
        var condition = job["conditions"]![int.Parse(form["Condition"], CultureInfo.InvariantCulture)]!;
        var (quantity, setting, off) = (
            condition["quantity"]!.GetValue<string>(),
            condition["setting"],
            condition["off"]
        );
        if (quantity is not ("volts" or "ohms"))
        {
            return null;
        }

        var faults = new[] { new { id = fault } };
        var shown = await client.PostAsJsonAsync(
            $"/api/v1/machines/{machine}/measure",
            new
            {
                setting,
                off,
                function = quantity == "ohms" ? "ohms" : "dcVolts",
                batteryDisconnected = quantity == "ohms",
                red = form["Red"],
                black = form["Black"],
                faults,
            }
        );
        var display = (await shown.Content.ReadFromJsonAsync<JsonObject>())!;
        return display["jumps"]!.GetValue<bool>()
            ? null
            : display["value"]?.GetValue<double>().ToString("0.00", CultureInfo.InvariantCulture) ?? "OL";
    }

    [GeneratedRegex(
        "<input (?=[^>]*type=\"hidden\")[^>]*name=\"([^\"]*)\"[^>]*value=\"([^\"]*)\"",
        RegexOptions.None,
        1000
    )]
    private static partial Regex Field();
}
