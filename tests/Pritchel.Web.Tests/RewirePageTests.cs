using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Pritchel.Data.Events;

namespace Pritchel.Web.Tests;

/// <summary>Rewires through the pages: kept, refused, taken back, proved, saved as a machine; and the record's own format.</summary>
public sealed class RewirePageTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string> BeginAsync(string machine, string donor = "")
    {
        var begun = await Talk.PostFormAsync(
            client,
            "/rewires",
            "/rewires",
            ("Name", "Kill lead chewed through"),
            ("Host", machine),
            ("Donor", donor)
        );
        var path = begun.RequestMessage!.RequestUri!.AbsolutePath;
        Assert.EndsWith("/sides", path, StringComparison.Ordinal);
        return path[..^"/sides".Length];
    }

    /// <summary>The page of the proof, once it is worked out.</summary>
    private async Task<string> ProvedAsync(string rewire)
    {
        for (var tries = 0; tries < 30; tries++)
        {
            var page = WebUtility.HtmlDecode(await client.GetStringAsync(rewire + "/prove"));
            if (!page.Contains("id=\"working-title\"", StringComparison.Ordinal))
            {
                return page;
            }

            await Task.Delay(TimeSpan.FromMilliseconds(200), Cancel);
        }

        throw new TimeoutException("The proof never came to an end.");
    }

    private async Task<string> TractorCutAsync(string rewire, string cuts)
    {
        var machine = await client.GetStringAsync("/api/v1/machines/orchard-tractor-4");
        var parts = JsonNode.Parse(machine)!["parts"]!.AsArray();
        var kept = await Talk.PostFormAsync(
            client,
            rewire + "/sides",
            rewire + "/sides?handler=Keep",
            [.. parts.Select((p, i) => ($"HostKeeps[{i}]", p!["id"]!.GetValue<string>())), ("HostCuts", cuts)]
        );
        return WebUtility.HtmlDecode(await kept.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task A_chewed_kill_lead_is_a_hazard_until_it_is_joined_and_then_a_machine()
    {
        var rewire = await BeginAsync("orchard-tractor-4");
        Assert.Contains("2 loose ends", await TractorCutAsync(rewire, "24"), StringComparison.Ordinal);
        var open = await ProvedAsync(rewire);
        Assert.Contains("Is not stopped where it was before", open, StringComparison.Ordinal);

        await Talk.PostFormAsync(
            client,
            rewire + "/marry",
            rewire + "/marry?handler=Join",
            ("Ends[0]", "host:24a@to"),
            ("Ends[1]", "host:24b@from")
        );
        var proved = await ProvedAsync(rewire);
        Assert.Contains("Cranks, stops and charges as it did", proved, StringComparison.Ordinal);
        var saved = await Talk.PostFormAsync(client, rewire + "/prove", rewire + "/prove?handler=Save");
        Assert.StartsWith(
            "/machines/orchard-tractor-4-r-",
            saved.RequestMessage!.RequestUri!.AbsolutePath,
            StringComparison.Ordinal
        );

        var table = await client.GetStringAsync(rewire + "/build?handler=Csv");
        Assert.Contains("ground to kill", table, StringComparison.Ordinal);
        var undone = await Talk.PostFormAsync(client, rewire + "/marry", rewire + "/marry?handler=Undo");
        Assert.Contains("2 loose ends, 0 joins", await undone.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_cannot_be_kept_is_refused_by_name_and_kept_as_typed()
    {
        var nameless = await Talk.PostFormAsync(client, "/rewires", "/rewires", ("Name", " "), ("Host", "hill-quad-2"));
        Assert.Contains(
            "Name: say in 1 to 80 letters",
            await nameless.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );

        var rewire = await BeginAsync("orchard-tractor-4");
        var refused = await TractorCutAsync(rewire, "24, 977");
        Assert.Contains("“977” is no wire of Orchard tractor No. 4", refused, StringComparison.Ordinal);
        Assert.Contains("value=\"24, 977\"", refused, StringComparison.Ordinal);
        Assert.Contains("0 loose ends", refused, StringComparison.Ordinal);

        var lone = await Talk.PostFormAsync(
            client,
            rewire + "/marry",
            rewire + "/marry?handler=Join",
            ("Ends[0]", "host:24a@to")
        );
        Assert.Contains(
            "Join: tick two flags or more",
            await lone.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/rewires/R-9999/marry")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/rewires/T-0001/marry")).StatusCode);
    }

    [Fact]
    public async Task A_stale_page_changes_nothing()
    {
        var rewire = await BeginAsync("orchard-tractor-4");
        await TractorCutAsync(rewire, "24");
        var stale = await Talk.PostFormAsync(
            client,
            rewire + "/marry",
            rewire + "/marry?handler=Join",
            ("After", "1"),
            ("Ends[0]", "host:24a@to"),
            ("Ends[1]", "host:24b@from")
        );
        Assert.Contains(
            "Somebody else has changed this rewire",
            await stale.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        Assert.Contains("0 joins", await client.GetStringAsync(rewire + "/marry"), StringComparison.Ordinal);
    }

    /// <summary>A rewire of which nothing stays on any side is said to be nothing, on every page and address of it.</summary>
    [Fact]
    public async Task A_rewire_of_nothing_is_told_so_everywhere()
    {
        var begun = await client.PostAsJsonAsync("/api/v1/rewires", new { name = "Gone", host = "hedgerow-mower-2" });
        var tag = JsonNode.Parse(await begun.Content.ReadAsStringAsync())!["tag"]!.GetValue<string>();
        var emptied = await client.PostAsJsonAsync(
            $"/api/v1/rewires/{tag}/sides",
            new { host = new { keeps = Array.Empty<string>() } }
        );
        Assert.True(emptied.IsSuccessStatusCode);
        foreach (var what in new[] { "proof", "spice", "machine", "build", "" })
        {
            var answer = await client.GetAsync($"/api/v1/rewires/{tag}/{what}".TrimEnd('/'));
            Assert.True((int)answer.StatusCode < 500, $"{what}: {answer.StatusCode}");
        }

        foreach (var page in new[] { "sides", "marry", "size", "prove", "build" })
        {
            var answer = await client.GetAsync($"/rewires/{tag}/{page}");
            Assert.True((int)answer.StatusCode < 500, $"{page}: {answer.StatusCode}");
        }

        var proof = await client.GetAsync($"/api/v1/rewires/{tag}/proof");
        Assert.Contains("Nothing is left of it", await proof.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var saved = await client.PostAsJsonAsync($"/api/v1/rewires/{tag}/machine", new { });
        Assert.Equal(HttpStatusCode.BadRequest, saved.StatusCode);
    }

    /// <summary>Seven leads of the relay's circuit, by the template's drawing; four of them land on the tractor.</summary>
    [Fact]
    public async Task What_is_built_is_told_over_the_API()
    {
        async Task<(HttpStatusCode Status, JsonNode Body)> SendAsync(string path, object body)
        {
            var answer = await client.PostAsJsonAsync("/api/v1/rewires" + path, body);
            return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
        }

        var begun = await SendAsync(
            "",
            new
            {
                name = "Work light",
                host = "orchard-tractor-4",
                donor = "template-accessory-relay",
            }
        );
        var tag = "/" + begun.Body["tag"]!.GetValue<string>();
        await SendAsync(tag + "/joins", new { suggested = true });
        var build = JsonNode.Parse(await client.GetStringAsync($"/api/v1/rewires{tag}/build"))!;
        Assert.Equal(4, build["joins"]!.AsArray().Count);
        Assert.Equal(7, build["cutList"]!.AsArray().Count);
        Assert.Equal(4, build["ways"]!.AsArray().Count);

        var made = await SendAsync(tag + "/made", new { join = 1 });
        Assert.True(made.Body["joins"]![0]!["made"]!.GetValue<bool>());
        var built = await SendAsync(tag + "/built", new { flag = 1, metres = "0.4" });
        Assert.Contains(
            built.Body["cutList"]!.AsArray(),
            p => p!["laidMetres"]!.GetValue<double>() is > 0.39 and < 0.41
        );
        Assert.Equal(7, built.Body["cutList"]!.AsArray().Count);
        foreach (var (flag, metres) in new[] { (1, "far"), (1, "0.001"), (77, "1") })
        {
            var refused = await SendAsync(tag + "/built", new { flag, metres });
            Assert.Equal(HttpStatusCode.BadRequest, refused.Status);
            Assert.NotNull(refused.Body["errors"]!["metres"]);
        }

        Assert.Equal(HttpStatusCode.BadRequest, (await SendAsync(tag + "/made", new { join = 9 })).Status);
        var saved = await SendAsync(tag + "/machine", new { });
        Assert.Equal(HttpStatusCode.Created, saved.Status);
        Assert.Contains(
            "Work light",
            (await client.GetStringAsync($"/api/v1/rewires{tag}/spice")).Split('\n')[0],
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/api/v1/rewires/R-9999/build")).StatusCode);
    }

    [Fact]
    public async Task The_API_marries_proves_and_gives_the_machine()
    {
        async Task<JsonNode> PostAsync(string path, object body, HttpStatusCode expected = HttpStatusCode.OK)
        {
            var answer = await client.PostAsJsonAsync("/api/v1/rewires" + path, body);
            Assert.Equal(expected, answer.StatusCode);
            return JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        }

        var begun = await PostAsync(
            "",
            new { name = "Kill past the dash", host = "orchard-tractor-4" },
            HttpStatusCode.Created
        );
        var tag = "/" + begun["tag"]!.GetValue<string>();
        var cut = await PostAsync(tag + "/sides", new { host = new { cuts = new[] { "24" } } });
        Assert.Equal(2, cut["ends"]!.AsArray().Count);
        Assert.All(
            cut["ends"]!.AsArray(),
            e => Assert.StartsWith("ground to kill", e!["function"]!.GetValue<string>(), StringComparison.Ordinal)
        );
        async Task<bool> SoundAsync() =>
            JsonNode.Parse(await client.GetStringAsync($"/api/v1/rewires{tag}/proof"))!["isSound"]!.GetValue<bool>();
        Assert.False(await SoundAsync());
        await PostAsync(tag + "/joins", new { ends = new[] { "host:24a@to", "host:24b@from" } });
        Assert.True(await SoundAsync());
        var machine = JsonNode.Parse(await client.GetStringAsync($"/api/v1/rewires{tag}/machine"))!;
        Assert.Contains(machine["wires"]!.AsArray(), w => w!["id"]!.GetValue<string>() == "24a");

        var refused = await PostAsync(
            tag + "/sides",
            new { host = new { cuts = new[] { "24", "977" } } },
            HttpStatusCode.BadRequest
        );
        Assert.NotNull(refused["errors"]!["host.cuts"]);
        Assert.NotNull(
            (await PostAsync("", new { name = "<b>", host = "hill-quad-2" }, HttpStatusCode.BadRequest))["errors"]![
                "name"
            ]
        );
        Assert.NotNull(
            (await PostAsync("", new { name = "x", host = "ghost" }, HttpStatusCode.BadRequest))["errors"]!["host"]
        );
        Assert.NotNull(
            (await PostAsync(tag + "/parted", new { join = 9 }, HttpStatusCode.BadRequest))["errors"]!["join"]
        );
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/api/v1/rewires/R-9999")).StatusCode);
        var undone = await PostAsync(tag + "/undo", new { });
        Assert.Empty(undone["joins"]!.AsArray());
    }

    /// <summary>Written once and read for ever: this is how steps were kept first.</summary>
    [Fact]
    public async Task A_plug_drawn_by_hand_is_a_machine_and_comes_into_a_rewire_without_its_other_half()
    {
        object Lead(string cavity, string colour, string function, string known) =>
            new
            {
                cavity,
                colours = new[] { colour },
                function,
                known,
            };
        async Task<HttpResponseMessage> DrawAsync(params object[] leads) =>
            await client.PostAsJsonAsync(
                "/api/v1/rewires/plugs",
                new
                {
                    name = "plug of an engine",
                    half = "ofEngine",
                    leads,
                },
                Cancel
            );
        var refused = await DrawAsync(Lead("1", "crimson", "kill", "read"));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("crimson", await refused.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.BadRequest, (await DrawAsync(Lead("1", "red", "3", "read"))).StatusCode);
        var drawn = await DrawAsync(
            Lead("1", "white", "kill", "byColour"),
            Lead("2", "yellow", "startFeed", "followed")
        );
        Assert.Equal(HttpStatusCode.Created, drawn.StatusCode);
        var id = (await drawn.Content.ReadFromJsonAsync<JsonNode>(Cancel))!["id"]!.GetValue<string>();

        var begun = await client.PostAsJsonAsync(
            "/api/v1/rewires",
            new
            {
                name = "takes it",
                host = "orchard-tractor-4",
                donor = id,
            },
            Cancel
        );
        var rewire = (await begun.Content.ReadFromJsonAsync<JsonNode>(Cancel))!;
        var ends = rewire["ends"]!.AsArray().Select(e => e!["function"]!.GetValue<string>()).ToList();
        Assert.Contains(ends, e => e.Contains("kill", StringComparison.Ordinal));
        Assert.Contains(ends, e => e.Contains("start feed", StringComparison.Ordinal));
        Assert.Contains(ends, e => e.Contains("ground", StringComparison.Ordinal));
    }

    [Fact]
    public void Steps_as_they_were_first_kept_are_read_and_written_the_same()
    {
        const string Kept =
            """{"format":1,"words":"flags 1 + 2","host":{"keeps":["battery","key"],"cuts":["24"]},"donor":{"keeps":["starter"],"cuts":[]},"joins":[{"ends":["host:24a@to","donor:mount:G3"],"onto":"frame.loom bolt","ontoSide":"host"}],"made":["host:24a@to"]}""";
        Assert.Equal(Kept, RewireFormat.Write(RewireFormat.Read(Kept)));
        Assert.Throws<FormatException>(() => RewireFormat.Read("""{"format":3,"host":{}}"""));
        Assert.Throws<FormatException>(() =>
            RewireFormat.Read("""{"format":1,"host":{},"joins":[{"ends":["nobody:1"]}]}""")
        );
    }

    /// <summary>What the first format does not know is of the second, so that who reads only the first takes no jumper for a join.</summary>
    [Fact]
    public void Jumpers_and_lengths_as_built_are_of_a_format_of_their_own()
    {
        const string Kept =
            """{"format":2,"words":"jumper on flags 1 + 2","host":{"keeps":["battery"],"cuts":["24"]},"joins":[{"ends":["host:24a@to","host:24b@from"],"temporary":true}],"made":[],"asBuiltMetres":{"host:24a@to":0.85}}""";
        var read = RewireFormat.Read(Kept);
        Assert.True(read.Sketch!.Joins[0].IsTemporary);
        Assert.Equal(0.85, read.Sketch.AsBuilt.Single().Value.Value);
        Assert.Equal(Kept, RewireFormat.Write(read));
    }
}
