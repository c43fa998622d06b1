using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Pritchel.Web.Tests;

/// <summary>What is moved, warmed or wetted, asked for and written down.</summary>
public sealed class StirPageTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string> SeldomAsync()
    {
        var tag = await Talk.OpenJobAsync(client);
        (
            await client.PostAsJsonAsync(
                $"/api/v1/jobs/{tag}/complaint",
                new
                {
                    heard = "nothing",
                    failed = 1,
                    tried = 8,
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        return tag;
    }

    private async Task<int> SequenceAsync(string tag) =>
        (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}"))["sequence"]!.GetValue<int>();

    private async Task<string> PageAsync(string address) =>
        WebUtility.HtmlDecode(await client.GetStringAsync(address, Cancel));

    [Fact]
    public async Task A_place_moved_is_asked_for_with_its_caution_first_written_down_and_taken_back()
    {
        var tag = await SeldomAsync();
        var asked = $"/jobs/{tag}?stir=dash;Moving";
        var html = await PageAsync(asked);
        Assert.Contains("Move every joint: behind the dash", html, StringComparison.Ordinal);
        Assert.True(
            html.IndexOf("Bare hands, no tool", StringComparison.Ordinal)
                < html.IndexOf("one thing at a time", StringComparison.Ordinal)
        );
        var before = (await client.GetFromJsonAsync<JsonArray>($"/api/v1/jobs/{tag}/suspects", Cancel))!.ToJsonString();
        var sequence = await SequenceAsync(tag);
        await Talk.PostFormAsync(client, asked, $"/jobs/{tag}?handler=Stirred", ("Changed", "true"));
        Assert.Equal(sequence + 1, await SequenceAsync(tag));
        foreach (var page in new[] { "", "/look", "/sheet", "/why" })
        {
            Assert.Contains(
                "behind the dash, moved",
                await PageAsync($"/jobs/{tag}{page}"),
                StringComparison.OrdinalIgnoreCase
            );
        }

        await Talk.PostFormAsync(client, $"/jobs/{tag}/look", $"/jobs/{tag}?handler=Undo");
        var after = (await client.GetFromJsonAsync<JsonArray>($"/api/v1/jobs/{tag}/suspects", Cancel))!.ToJsonString();
        Assert.Equal(before, after);
    }

    [Theory]
    [InlineData("", "Moving", "true", "What was stirred: choose one of this machine")]
    [InlineData("attic", "Moving", "true", "What was stirred: choose one of this machine")]
    [InlineData("dash", "Kicking", "true", "How: choose one of moved, warmed, wetted")]
    [InlineData("dash", "17", "true", "How: choose one of moved, warmed, wetted")]
    [InlineData("dash", "Moving", "", "What came of it: choose whether it came or went")]
    public async Task What_was_not_fully_told_is_refused_by_name_and_nothing_is_written(
        string place,
        string by,
        string changed,
        string said
    )
    {
        var tag = await SeldomAsync();
        var sequence = await SequenceAsync(tag);
        var response = await Talk.PostFormAsync(
            client,
            $"/jobs/{tag}/look",
            $"/jobs/{tag}/look?handler=Stirred",
            ("Stirred", place),
            ("By", by),
            ("Changed", changed)
        );
        var html = WebUtility.HtmlDecode(await response.Content.ReadAsStringAsync(Cancel));
        Assert.Contains(said, html, StringComparison.Ordinal);
        Assert.Equal(sequence, await SequenceAsync(tag));
    }

    [Fact]
    public async Task A_place_that_cannot_be_reached_to_be_moved_is_not_asked_for_again()
    {
        var tag = await SeldomAsync();
        var asked = $"/jobs/{tag}?stir=dash;Moving";
        Assert.Contains("stir=fender%3B", await PageAsync($"/jobs/{tag}/look"), StringComparison.Ordinal);
        var form = new[] { ("place", "fender") };
        await Talk.PostFormAsync(client, asked, $"/jobs/{tag}?handler=CannotStir", form);
        Assert.DoesNotContain("stir=fender%3B", await PageAsync($"/jobs/{tag}/look"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("attic", null, "moving", "place")]
    [InlineData("dash", "part:starter", "moving", "repair")]
    public async Task The_api_refuses_what_is_not_there_by_field(string place, string? repair, string by, string field)
    {
        var tag = await SeldomAsync();
        var response = await client.PostAsJsonAsync(
            $"/api/v1/jobs/{tag}/provocations",
            new
            {
                place,
                repair,
                by,
                changed = true,
            },
            Cancel
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        var told = await response.Content.ReadFromJsonAsync<JsonObject>(Cancel);
        Assert.Contains(field, told!["errors"]!.AsObject().Select(e => e.Key));
    }

    [Fact]
    public async Task Nothing_is_wetted_on_a_machine_that_makes_mains_volts()
    {
        var opened = await client.PostAsJsonAsync(
            "/api/v1/jobs",
            new { machine = "packhouse-generator-1", duty = "sparks-magneto" },
            Cancel
        );
        var tag = (await opened.Content.ReadFromJsonAsync<JsonObject>(Cancel))!["tag"]!.GetValue<string>();
        (
            await client.PostAsJsonAsync(
                $"/api/v1/jobs/{tag}/complaint",
                new
                {
                    heard = "nothing",
                    failed = 1,
                    tried = 4,
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var response = await client.PostAsJsonAsync(
            $"/api/v1/jobs/{tag}/provocations",
            new
            {
                place = "panel",
                by = "wetting",
                changed = true,
            },
            Cancel
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        Assert.DoesNotContain("wetted</option>", await PageAsync($"/jobs/{tag}/look"), StringComparison.Ordinal);
    }
}
