using System.Net;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Web.Drawings;

namespace Pritchel.Web.Tests;

/// <summary>A machine's page: three drawings, controls moved, a fault planted, a wire followed.</summary>
public sealed class MachinePageTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    public static TheoryData<string> Machines =>
        [
            .. Directory
                .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "machines"), "*.json")
                .Select(f => Path.GetFileNameWithoutExtension(f)!)
                .Where(n => !n.EndsWith(".schema", StringComparison.Ordinal)),
        ];

    [Theory]
    [MemberData(nameof(Machines))]
    public async Task Every_machine_is_drawn_three_ways_with_every_wire_at_both_its_ends(string id)
    {
        var loom = await GetAsync($"/machines/{id}");
        Assert.Contains("To stop it by hand.", loom, StringComparison.Ordinal);
        foreach (var view in new[] { "switches", "line" })
        {
            Assert.Contains(
                "aria-current=\"page\"",
                await GetAsync($"/machines/{id}?view={view}"),
                StringComparison.Ordinal
            );
        }

        var file = System.Text.Json.Nodes.JsonNode.Parse(await GetAsync($"/api/v1/machines/{id}"))!;
        foreach (var wire in file["wires"]!.AsArray())
        {
            var number = wire!["id"]!.GetValue<string>();
            Assert.Equal(2, loom.Split($"<tspan class=\"number\">{number}</tspan>").Length - 1);
        }
    }

    /// <summary>Whatever a card of any complaint asks, its probes have one place each on the drawing beside it.</summary>
    [Theory]
    [MemberData(nameof(Machines))]
    public void Every_point_that_a_probe_may_be_put_on_is_drawn_once(string id)
    {
        var json = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", id + ".json"));
        var circuit = Circuit.Compile(MachineFile.Read(json).Machine!);
        var rows = LoomDrawing.Of(circuit.Machine).Parts.SelectMany(p => p.Rows).ToList();
        Assert.All(ProbePoints.Of(circuit).All, p => Assert.Single(rows, r => r.Has(p.Address)));
    }

    [Fact]
    public async Task Moving_the_key_to_START_cranks_and_a_planted_fault_stops_that()
    {
        const string Start = "/machines/orchard-tractor-4?c.key=START&c.brake=down";
        Assert.Contains("● cranks", await GetAsync(Start), StringComparison.Ordinal);
        var broken = await GetAsync(Start + "&fault=brake/start/open");
        Assert.DoesNotContain("● cranks", broken, StringComparison.Ordinal);
        Assert.Contains("◆ with:", broken, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_wire_says_both_its_ends_and_a_terminal_its_volts()
    {
        var page = await GetAsync("/machines/orchard-zero-turn-7?wire=12&at=key.B");
        Assert.Contains("<strong>Wire 12</strong>", page, StringComparison.Ordinal);
        Assert.Contains("ignition feed splice", page, StringComparison.Ordinal);
        Assert.Matches("key switch.*B.*12\\.5\\d V", page.ReplaceLineEndings(" "));
    }

    [Fact]
    public async Task A_kill_lead_is_laid_out_to_ground_when_it_kills_and_is_free_when_it_does_not()
    {
        const string Line = "/machines/hedgerow-mower-2?view=line&line=kill:magneto&c.lever=";
        Assert.Contains(
            "Stop switch at the flywheel brake",
            await GetAsync(Line + "released"),
            StringComparison.OrdinalIgnoreCase
        );
        Assert.Contains("the ignition is free", await GetAsync(Line + "held"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("c.key=SIDEWAYS", "Key: allowed OFF, RUN, LIGHTS, START.")]
    [InlineData("rpm=1e9", "Speed: allowed 0 to 20000 rpm.")]
    [InlineData("fault=gremlin", "Fault: no such fault on this machine")]
    public async Task What_cannot_be_asked_is_said_and_the_page_still_stands(string query, string said)
    {
        var page = await GetAsync("/machines/orchard-tractor-4?" + query);
        Assert.Contains(said, page, StringComparison.Ordinal);
        Assert.Contains("To stop it by hand.", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Script_text_in_a_question_comes_back_as_text()
    {
        var page = await GetAsync(
            "/machines/orchard-tractor-4?fault=%3Cscript%3Ealert(1)%3C/script%3E&wire=%22%3E%3Cb%3E&at=%3Cb%3E"
        );
        Assert.DoesNotContain("<script>alert", page, StringComparison.Ordinal);
        Assert.DoesNotContain("\"><b>", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Wires_are_found_again_by_their_colours_and_lead_to_their_drawing()
    {
        var page = await GetAsync("/machines?q=yellow%2Fred");
        Assert.Contains("Harbour launch No. 1", page, StringComparison.Ordinal);
        Assert.Matches("href=\"/machines/harbour-launch-1\\?wire=\\d+\"", page);
        Assert.Contains("Nothing here matches all", await GetAsync("/machines?q=zebra"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Wire_and_joint_lists_hold_a_row_for_each_and_quote_what_needs_it()
    {
        var file = System.Text.Json.Nodes.JsonNode.Parse(await GetAsync("/api/v1/machines/tide-outboard-3"))!;
        var wires = file["wires"]!.AsArray().Count;
        var list = await GetAsync("/api/v1/machines/tide-outboard-3/wires.csv");
        Assert.Equal(wires + 1, list.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length);
        Assert.StartsWith("wire,colours,gauge,lengthM,zone,from,", list, StringComparison.Ordinal);
        var joints = await GetAsync("/api/v1/machines/tide-outboard-3/joints.csv");
        Assert.Equal((2 * wires) + 1, joints.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length);
        Assert.Contains("\"under the cowl, starboard\"", joints, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_new_version_is_told_apart_from_the_one_before_and_both_can_be_fetched()
    {
        const string Id = "run-stand-1";
        var file = System.Text.Json.Nodes.JsonNode.Parse(await GetAsync($"/api/v1/machines/{Id}"))!;
        var first = file.ToJsonString();
        var wire = file["wires"]!.AsArray().First(w => w!["id"]!.GetValue<string>() == "3")!;
        wire["colours"] = new System.Text.Json.Nodes.JsonArray("orange");
        var response = await client.PostAsync(
            "/api/v1/machines",
            new StringContent(file.ToJsonString(), System.Text.Encoding.UTF8, "application/json"),
            TestContext.Current.CancellationToken
        );
        response.EnsureSuccessStatusCode();
        var page = await GetAsync($"/machines/{Id}/versions");
        Assert.Contains("Version 2,", page, StringComparison.Ordinal);
        Assert.Contains("wire 3: colours red/white → orange", WebUtility.HtmlDecode(page), StringComparison.Ordinal);
        var old = System.Text.Json.Nodes.JsonNode.Parse(await GetAsync($"/api/v1/machines/{Id}/file?version=1"))!;
        Assert.Equal(first, old.ToJsonString());
        var missing = await client.GetAsync(
            $"/api/v1/machines/{Id}/file?version=9",
            TestContext.Current.CancellationToken
        );
        Assert.Equal(HttpStatusCode.NotFound, missing.StatusCode);
    }

    [Fact]
    public async Task A_machine_that_is_not_here_is_not_found()
    {
        var response = await client.GetAsync("/machines/none", TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.NotFound, response.StatusCode);
    }

    private Task<string> GetAsync(string address) =>
        client.GetStringAsync(address, TestContext.Current.CancellationToken);
}
