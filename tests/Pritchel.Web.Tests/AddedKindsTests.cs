using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Pritchel.Web.Tests;

/// <summary>A device and a kind of test that are one file each, in this project only, are everywhere that others are.</summary>
public sealed class AddedKindsTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_machine_with_it_is_taken_in_drawn_measured_and_diagnosed()
    {
        (await client.PostAsJsonAsync("/api/v1/machines", Probed(), Cancel)).EnsureSuccessStatusCode();

        var faults = await client.GetStringAsync("/api/v1/machines/tank-tractor-1/faults", Cancel);
        Assert.Contains("\"id\":\"lamp-left/crusted\"", faults, StringComparison.Ordinal);
        var page = await client.GetStringAsync("/machines/tank-tractor-1?fault=lamp-left/crusted&c.key=LIGHTS", Cancel);
        Assert.Contains("crusted over", page, StringComparison.Ordinal);

        var opened = await client.PostAsJsonAsync(
            "/api/v1/jobs",
            new { machine = "tank-tractor-1", duty = "does-lamp-left" },
            Cancel
        );
        var tag = (await opened.Content.ReadFromJsonAsync<JsonObject>(Cancel))!["tag"]!.GetValue<string>();
        var told = await client.PostAsJsonAsync(
            $"/api/v1/jobs/{tag}/complaint",
            new
            {
                heard = "nothing",
                failed = 2,
                tried = 2,
            },
            Cancel
        );
        var summary = (await told.Content.ReadFromJsonAsync<JsonObject>(Cancel))!;
        var condition = summary["conditions"]!
            .AsArray()
            .Select((c, i) => (Said: c!, Index: i))
            .Single(c => c.Said["procedure"]!.GetValue<string>() == "heater-alone");
        Assert.Equal("ohms", condition.Said["quantity"]!.GetValue<string>());

        // The heater by itself, open, and open again with the probes put on anew, as a lead in the air shows OL too: it is burnt,
        // and nothing else is left.
        for (var times = 0; times < 2; times++)
        {
            var read = await client.PostAsJsonAsync(
                $"/api/v1/jobs/{tag}/readings",
                new
                {
                    condition = condition.Index,
                    red = "lamp-left.+",
                    black = "lamp-left.-",
                    reading = "OL",
                },
                Cancel
            );
            read.EnsureSuccessStatusCode();
        }

        var suspects = (await client.GetFromJsonAsync<JsonArray>($"/api/v1/jobs/{tag}/suspects", Cancel))!;
        Assert.Equal("part:lamp-left", suspects[0]!["id"]!.GetValue<string>());
        Assert.True(suspects[0]!["share"]!.GetValue<double>() > 0.9);
        Assert.Contains(
            "by itself, one wire off",
            await client.GetStringAsync($"/jobs/{tag}", Cancel),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task It_is_offered_where_parts_are_drawn()
    {
        var begun = await Talk.PostFormAsync(
            client,
            "/machines/make?from=orchard-tractor-4",
            "/machines/make?handler=Change",
            ("From", "orchard-tractor-4")
        );
        var draft = begun.RequestMessage!.RequestUri!.AbsolutePath;
        Assert.Contains(
            "<option>tank-probe</option>",
            await client.GetStringAsync($"{draft}?on=part", Cancel),
            StringComparison.Ordinal
        );
    }

    /// <summary>The orchard tractor with a probe where its left lamp is.</summary>
    private static JsonObject Probed()
    {
        var file = JsonNode
            .Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", "orchard-tractor-4.json")))!
            .AsObject();
        file["id"] = "tank-tractor-1";
        file["name"] = "Tractor with a tank probe";
        var lamp = file["parts"]!.AsArray().Single(p => p!["id"]!.GetValue<string>() == "lamp-left")!.AsObject();
        lamp["kind"] = "tank-probe";
        lamp["name"] = "tank probe";
        lamp.Remove("values");
        return file;
    }
}
