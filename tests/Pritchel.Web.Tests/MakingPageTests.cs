using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace Pritchel.Web.Tests;

/// <summary>Drawing and changing machines through the pages, and files that must be refused.</summary>
public sealed class MakingPageTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    [Fact]
    public async Task A_change_is_kept_undone_and_made_again_and_saved_as_the_next_version()
    {
        var draft = await BeginAsync("quay-scooter-3");
        var first = await WireAsync("quay-scooter-3", 0);
        var recoloured = await PostWireAsync(draft, first, ("Colour", "pink"), ("Length", "2,5"));
        Assert.Contains(
            "→ pink",
            WebUtility.HtmlDecode(await recoloured.Content.ReadAsStringAsync()),
            StringComparison.Ordinal
        );
        var undone = await Talk.PostFormAsync(client, draft, draft + "?handler=Move", ("steps", "-1"));
        Assert.Contains("Nothing yet.", await undone.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        await Talk.PostFormAsync(client, draft, draft + "?handler=Move", ("steps", "1"));
        var saved = await Talk.PostFormAsync(client, draft, draft + "?handler=Save");
        Assert.EndsWith(
            "/machines/quay-scooter-3",
            saved.RequestMessage!.RequestUri!.AbsolutePath,
            StringComparison.Ordinal
        );
        var versions = await client.GetStringAsync("/machines/quay-scooter-3/versions");
        Assert.Contains("pink", versions, StringComparison.Ordinal);
        Assert.Equal("pink", (await WireAsync("quay-scooter-3", 0))["colours"]![0]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(draft)).StatusCode);
    }

    [Fact]
    public async Task A_refused_change_names_the_field_keeps_what_was_typed_and_changes_nothing()
    {
        var draft = await BeginAsync("hill-quad-2");
        var refused = await PostWireAsync(
            draft,
            await WireAsync("hill-quad-2", 0),
            ("Gauge", "9 furlongs"),
            ("Zone", "<b>")
        );
        var page = await refused.Content.ReadAsStringAsync();
        Assert.Contains(
            "gauge</b>: “9 furlongs” is not a gauge; allowed:",
            WebUtility.HtmlDecode(page),
            StringComparison.Ordinal
        );
        Assert.Contains("zone</b>: Must be", WebUtility.HtmlDecode(page), StringComparison.Ordinal);
        Assert.Contains("value=\"9 furlongs\"", page, StringComparison.Ordinal);
        Assert.Contains("Nothing yet.", await client.GetStringAsync(draft), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_empty_machine_says_what_it_lacks_and_cannot_be_saved()
    {
        var begun = await Talk.PostFormAsync(
            client,
            "/machines/make",
            "/machines/make?handler=Another",
            ("Name", "Shed light"),
            ("Kind", "lighting"),
            ("StopByHand", "Pull the plug.")
        );
        var draft = begun.RequestMessage!.RequestUri!.AbsolutePath;
        var page = await Talk.PostFormAsync(client, draft, draft + "?handler=Save");
        var text = await page.Content.ReadAsStringAsync();
        Assert.Contains("It cannot be saved yet", text, StringComparison.Ordinal);
        Assert.Contains("A battery or a ground body is needed", text, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/machines/shed-light")).StatusCode);
    }

    [Fact]
    public async Task Files_that_must_not_come_in_are_refused_clearly_and_change_nothing()
    {
        var before = await client.GetStringAsync("/api/v1/machines");
        var good = await client.GetStringAsync("/api/v1/machines/ridge-twin-1");
        await RefusedAsync(Changed(good, m => m["format"] = 2), "from a newer version");
        await RefusedAsync(Changed(good, m => m["flavour"] = "cherry"), "not known in format 1");
        await RefusedAsync(Changed(good, m => m["parts"]![0]!["flavour"] = "cherry"), "not known in format 1");
        await RefusedAsync(Changed(good, ScriptEverywhere), "without < or >");
        var wire = JsonNode.Parse(good)!["wires"]![0]!.ToJsonString();
        string Wires(int count) =>
            Changed(good, m => m["wires"] = "WIRES")
                .Replace(
                    "\"WIRES\"",
                    $"[{string.Join(',', Enumerable.Repeat(wire, count))}]",
                    StringComparison.Ordinal
                );
        await RefusedAsync(Wires(100_000), "larger than 2 MB");
        await RefusedAsync(Wires(2000), "at most 400 are allowed");
        Assert.Equal(before, await client.GetStringAsync("/api/v1/machines"));
    }

    [Theory]
    [InlineData("loom")]
    [InlineData("switches")]
    [InlineData("line")]
    public async Task A_drawing_taken_away_is_plain_SVG_with_its_styles_inside(string view)
    {
        var answer = await client.GetAsync(
            $"/machines/orchard-tractor-4?handler=drawing&view={view}&c.key=START&c.brake=down"
        );
        Assert.Equal("image/svg+xml", answer.Content.Headers.ContentType!.MediaType);
        var text = await answer.Content.ReadAsStringAsync();
        var svg = XDocument.Parse(text).Root!;
        Assert.Equal("svg", svg.Name.LocalName);
        Assert.DoesNotContain(
            svg.Descendants(),
            e => e.Name.LocalName is "a" or "script" || e.Name.NamespaceName != "http://www.w3.org/2000/svg"
        );
        Assert.DoesNotContain(
            svg.Descendants().Attributes(),
            a => a.Name.LocalName == "href" || a.Name.LocalName.StartsWith("on", StringComparison.Ordinal)
        );
        Assert.DoesNotContain("var(", text, StringComparison.Ordinal);
        Assert.True(svg.Descendants().Count(e => e.Name.LocalName == "text") > 8);
    }

    [Theory]
    [InlineData("place", "dash", "Minutes=7,5", "minutes 4 → 7.5")]
    [InlineData("place", "dash", "Minutes=soon", "minutes</b>: “soon” is not a figure")]
    [InlineData("control", "gear", "Positions=neutral", "positions</b>: Must be 2 to 12 different position names.")]
    [InlineData(
        "control",
        "gear",
        "Rest=third",
        "rest</b>: “third” is not a position of this control; allowed: neutral, reverse."
    )]
    [InlineData("part", "fuse", "Values[ratingAmps]=25", "values ratingAmps 20 → 25")]
    [InlineData("part", "fuse", "Values[ratingAmps]=0", "ratingAmps</b>: 0 is out of range; allowed:")]
    [InlineData("part", "fuse", "Terminals=1", "terminals</b>: Something is joined to terminal 2.")]
    [InlineData("part", "SP1", "DrawnAt=on the engine sheet", "drawnAt at the magneto's plug → on the engine sheet")]
    [InlineData("duty", "cranks", "Load=nobody", "load</b>: “nobody” is not a part")]
    [InlineData("machine", "", "Identity.SerialFrom=1200", "identity: none → serialFrom 1200")]
    public async Task Each_thing_is_changed_by_its_form_or_refused_by_its_field(
        string on,
        string item,
        string typed,
        string said
    )
    {
        var draft = await BeginAsync("orchard-tractor-4");
        var page = await client.GetStringAsync($"{draft}?on={on}&item={item}");
        var form = page.Split($"action=\"{draft}?on={on}&amp;view=loom\"")[1].Split("</form>")[0];
        var fields = Filled(form);
        fields[typed.Split('=')[0]] = typed.Split('=')[1];
        var answer = await client.PostAsync($"{draft}?on={on}", new FormUrlEncodedContent(fields));
        Assert.Contains(
            said,
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()),
            StringComparison.Ordinal
        );
    }

    /// <summary>A page that was open before an upgrade names the thing as its handler; one that names nothing is told so.</summary>
    [Theory]
    [InlineData("?handler=Machine", "Curlew meadow")]
    [InlineData("?handler=Nothing", "what it is about was not told")]
    public async Task A_form_of_an_older_page_is_kept_or_told(string query, string said)
    {
        var draft = await BeginAsync("orchard-tractor-4");
        var page = await client.GetStringAsync($"{draft}?on=machine");
        var fields = Filled(page.Split($"action=\"{draft}?on=machine&amp;view=loom\"")[1].Split("</form>")[0]);
        fields["Name"] = "Curlew meadow";
        var answer = await client.PostAsync(draft + query, new FormUrlEncodedContent(fields));
        Assert.Contains(said, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    /// <summary>What a browser would send of a form: inputs, ticked boxes, chosen options, text areas.</summary>
    private static Dictionary<string, string> Filled(string form)
    {
        var fields = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (Match input in Regex.Matches(form, "<input [^>]*>", RegexOptions.None, TimeSpan.FromSeconds(1)))
        {
            var (name, value) = (Attribute(input.Value, "name"), Attribute(input.Value, "value") ?? "");
            if (
                name is not null
                && (
                    !input.Value.Contains("checkbox", StringComparison.Ordinal)
                    || input.Value.Contains(" checked", StringComparison.Ordinal)
                )
            )
            {
                fields[name] = value;
            }
        }

        foreach (
            Match select in Regex.Matches(
                form,
                "<select name=\"(?<name>[^\"]*)\">(?<body>.*?)</select>",
                RegexOptions.Singleline,
                TimeSpan.FromSeconds(1)
            )
        )
        {
            var options = Regex.Matches(
                select.Groups["body"].Value,
                "<option[^>]*>(?<text>[^<]*)",
                RegexOptions.None,
                TimeSpan.FromSeconds(1)
            );
            var chosen =
                options.FirstOrDefault(o => o.Value.Contains(" selected", StringComparison.Ordinal))
                ?? options.FirstOrDefault();
            fields[WebUtility.HtmlDecode(select.Groups["name"].Value)] = chosen is null
                ? ""
                : Attribute(chosen.Value, "value") ?? WebUtility.HtmlDecode(chosen.Groups["text"].Value);
        }

        foreach (
            Match area in Regex.Matches(
                form,
                "<textarea name=\"(?<name>[^\"]*)\"[^>]*>(?<body>.*?)</textarea>",
                RegexOptions.Singleline,
                TimeSpan.FromSeconds(1)
            )
        )
        {
            fields[area.Groups["name"].Value] = WebUtility.HtmlDecode(area.Groups["body"].Value).TrimStart('\n');
        }

        return fields;
    }

    private static string? Attribute(string tag, string name) =>
        Regex.Match(tag, $" {name}=\"(?<value>[^\"]*)\"", RegexOptions.None, TimeSpan.FromSeconds(1))
            is { Success: true } found
            ? WebUtility.HtmlDecode(found.Groups["value"].Value)
            : null;

    private async Task<string> BeginAsync(string machine)
    {
        var begun = await Talk.PostFormAsync(client, $"/machines/make?from={machine}", "/machines/make?handler=Change");
        return begun.RequestMessage!.RequestUri!.AbsolutePath;
    }

    private async Task<JsonNode> WireAsync(string machine, int index) =>
        JsonNode.Parse(await client.GetStringAsync($"/api/v1/machines/{machine}"))!["wires"]![index]!;

    private Task<HttpResponseMessage> PostWireAsync(string draft, JsonNode wire, params (string, string)[] changed)
    {
        string Of(string name) => wire[name]!.GetValue<string>();
        (string, string)[] fields =
        [
            ("Number", Of("id")),
            ("From", wire["from"]!["at"]!.GetValue<string>()),
            ("FromJoint", wire["from"]!["joint"]!.GetValue<string>()),
            ("To", wire["to"]!["at"]!.GetValue<string>()),
            ("ToJoint", wire["to"]!["joint"]!.GetValue<string>()),
            ("Gauge", Of("gauge")),
            ("Length", "1"),
            ("Zone", Of("zone")),
            ("Colour", "red"),
            ("Cable", wire["cable"]?.GetValue<bool>() == true ? "true" : "false"),
            .. changed,
        ];
        var page = $"{draft}?on=wire&item={Of("id")}";
        return Talk.PostFormAsync(client, page, draft + "?on=wire&amp;view=loom", fields);
    }

    private async Task RefusedAsync(string json, string said)
    {
        var page = await client.GetStringAsync("/machines");
        var token = page.Split("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"")[1].Split('"')[0];
        using var form = new MultipartFormDataContent
        {
            { new StringContent(token), "__RequestVerificationToken" },
            { new StringContent(json), "file", "machine.json" },
        };
        var answer = WebUtility.HtmlDecode(
            await (await client.PostAsync("/machines", form)).Content.ReadAsStringAsync()
        );
        Assert.Contains("was refused; nothing was changed", answer, StringComparison.Ordinal);
        Assert.Contains(said, answer, StringComparison.Ordinal);
    }

    private static string Changed(string json, Action<JsonNode> change)
    {
        var node = JsonNode.Parse(json)!;
        change(node);
        return node.ToJsonString();
    }

    private static void ScriptEverywhere(JsonNode machine)
    {
        const string Script = "<script>alert(1)</script>";
        machine["name"] = Script;
        foreach (var list in new[] { "parts", "places", "controls", "mounts" })
        {
            foreach (var item in machine[list]!.AsArray())
            {
                item!["name"] = Script;
            }
        }
    }
}
