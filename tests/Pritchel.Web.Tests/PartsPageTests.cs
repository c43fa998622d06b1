using System.Net;

namespace Pritchel.Web.Tests;

/// <summary>Prices, terms and the clip lead, given wrongly and out of turn.</summary>
public sealed class PartsPageTests(Host host) : IClassFixture<Host>
{
    private const string Solenoid = "Price[part:solenoid]";

    private readonly HttpClient client = host.Browser();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string> PricedAsync(string tag, params (string Field, string Typed)[] changed)
    {
        var told = new Dictionary<string, string>
        {
            [Solenoid] = "38",
            ["Term[hour]"] = "45",
            ["Term[trip]"] = "20",
            ["Term[days]"] = "2",
            ["Term[day]"] = "15",
        };
        foreach (var (field, typed) in changed)
        {
            told[field] = typed;
        }

        var page = $"/jobs/{tag}/parts";
        var response = await Talk.PostFormAsync(client, page, page, [.. told.Select(t => (t.Key, t.Value))]);
        return WebUtility.HtmlDecode(await response.Content.ReadAsStringAsync(Cancel));
    }

    private async Task<int> SequenceAsync(string tag) =>
        (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}"))["sequence"]!.GetValue<int>();

    [Theory]
    [InlineData(Solenoid, "forty", "Price of start solenoid: “forty” is not a figure; type 0 to 1000000")]
    [InlineData(Solenoid, "-5", "Price of start solenoid: “-5” is not a figure")]
    [InlineData(Solenoid, "", "Price: type a price for one part at least.")]
    [InlineData("Term[days]", "1e99", "Days until parts come: “1e99” is not a figure")]
    [InlineData("Term[trip]", "", "One trip or carriage: “” is not a figure")]
    [InlineData("Term[mended]", "much", "Worth when mended: “much” is not a figure")]
    public async Task A_price_told_wrongly_names_the_field_keeps_the_rest_and_writes_nothing(
        string field,
        string typed,
        string said
    )
    {
        var tag = await Talk.OpenJobAsync(client);
        var before = await SequenceAsync(tag);
        var html = await PricedAsync(tag, (field, typed));
        Assert.Contains(said, html, StringComparison.Ordinal);
        Assert.Contains("value=\"45\"", html, StringComparison.Ordinal);
        Assert.Equal(before, await SequenceAsync(tag));
    }

    [Fact]
    public async Task Prices_stay_on_the_job_and_every_course_shows_its_arithmetic()
    {
        var tag = await Talk.OpenJobAsync(client);
        await PricedAsync(tag, (Solenoid, "38,5"));
        var html = WebUtility.HtmlDecode(await client.GetStringAsync($"/jobs/{tag}/parts", Cancel));
        Assert.Contains("value=\"38.5\"", html, StringComparison.Ordinal);
        Assert.Contains("= 38.5 + 50", html, StringComparison.Ordinal);
        Assert.Contains("Measure again first", html, StringComparison.Ordinal);
    }
}
