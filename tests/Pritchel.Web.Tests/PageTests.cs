using System.Net;

namespace Pritchel.Web.Tests;

public sealed class PageTests(Host host) : IClassFixture<Host>
{
    private const string Script = "<script>alert(\"x\")</script>";
    private readonly HttpClient client = host.Browser();

    [Theory]
    [InlineData("twelve")]
    [InlineData("1e999")]
    [InlineData("")]
    [InlineData("-")]
    [InlineData(Script)]
    public async Task A_wrong_reading_says_what_is_allowed_keeps_what_was_typed_and_adds_nothing(string typed)
    {
        var tag = await Talk.OpenJobAsync(client);
        var response = await Talk.PostFormAsync(
            client,
            $"/jobs/{tag}",
            $"/jobs/{tag}?handler=Reading",
            ("Typed", typed),
            ("Symptom", "Present")
        );
        var html = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.Contains("role=\"alert\"", html, StringComparison.Ordinal);
        Assert.Contains("a number such as 12.6", html, StringComparison.Ordinal);
        Assert.True(
            typed.Length == 0 || html.Contains($"value=\"{WebUtility.HtmlEncode(typed)}\"", StringComparison.Ordinal)
        );
        Assert.DoesNotContain(Script, html, StringComparison.Ordinal);
        Assert.Equal(2, (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}"))["sequence"]!.GetValue<int>());
    }

    [Theory]
    [InlineData("12,6")]
    [InlineData("-0.02")]
    public async Task Commas_and_minus_are_taken(string typed)
    {
        var tag = await Talk.OpenJobAsync(client);
        await Talk.PostFormAsync(
            client,
            $"/jobs/{tag}",
            $"/jobs/{tag}?handler=Reading",
            ("Typed", typed),
            ("Symptom", "Present")
        );
        Assert.Equal(3, (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}"))["sequence"]!.GetValue<int>());
    }

    [Fact]
    public async Task A_second_tab_that_is_behind_adds_nothing_and_keeps_what_was_typed()
    {
        var tag = await Talk.OpenJobAsync(client);
        var page = $"/jobs/{tag}";
        await Talk.PostFormAsync(client, page, page + "?handler=Reading", ("Typed", "12.1"), ("Symptom", "Present"));
        var behind = await Talk.PostFormAsync(
            client,
            page,
            page + "?handler=Reading",
            ("Typed", "3.3"),
            ("Symptom", "Present"),
            ("After", "2")
        );
        var html = await behind.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.Contains("moved on in another tab", html, StringComparison.Ordinal);
        Assert.Contains("value=\"3.3\"", html, StringComparison.Ordinal);
        Assert.Equal(3, (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}"))["sequence"]!.GetValue<int>());
    }

    [Fact]
    public async Task Script_text_in_every_text_field_comes_back_as_text()
    {
        var tag = await Talk.OpenJobAsync(client);
        await Talk.PostFormAsync(
            client,
            $"/jobs/{tag}/complaint",
            $"/jobs/{tag}/complaint",
            ("HeardSaid", "Nothing"),
            ("Failed", "3"),
            ("Tried", "3"),
            ("Words", Script)
        );
        await Talk.PostFormAsync(client, "/meter", "/meter", MeterFields(("name", Script)));
        foreach (
            var page in new[]
            {
                "/",
                $"/jobs/{tag}",
                $"/jobs/{tag}/complaint",
                $"/jobs/{tag}/sheet",
                "/meter",
                "/machines",
            }
        )
        {
            var html = await client.GetStringAsync(page, TestContext.Current.CancellationToken);
            Assert.DoesNotContain("<script>alert", html, StringComparison.Ordinal);
            Assert.Contains("&lt;script&gt;", html, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_meter_starts_from_a_shipped_one_and_is_kept_as_its_owner_describes_it()
    {
        var page = await client.GetStringAsync("/meter?from=good", TestContext.Current.CancellationToken);
        Assert.Contains("Filled from “Good meter”", page, StringComparison.Ordinal);
        await Talk.PostFormAsync(
            client,
            "/meter",
            "/meter",
            MeterFields(("name", "Shed meter"), ("Typed[leadOhms]", "0,35"), ("Typed[trueRms]", "true"))
        );
        page = await client.GetStringAsync("/meter", TestContext.Current.CancellationToken);
        Assert.Contains("value=\"0.35\"", page, StringComparison.Ordinal);
        Assert.Contains("Shed meter", page, StringComparison.Ordinal);
        Assert.Matches("name=\"Typed\\[trueRms\\]\" value=\"true\" checked", page);
    }

    [Theory]
    [InlineData("Typed[leadOhms]", "many", "Leads, shorted, ohms")]
    [InlineData("Typed[leadOhms]", "-1", "0 to 100")]
    [InlineData("Typed[displayCounts]", "3", "200 to 1000000")]
    [InlineData("Typed[voltsRanges]", "20 2", "ascending")]
    [InlineData("Typed[voltsRanges]", "a b", "spaces between")]
    [InlineData("name", "A name far too long for the head of any page", "1 to 40")]
    public async Task A_meter_that_cannot_be_is_refused_by_field_and_what_was_typed_stays(
        string field,
        string value,
        string said
    )
    {
        var response = await Talk.PostFormAsync(
            client,
            "/meter",
            "/meter",
            MeterFields((field, value), ("Typed[ampsFuse]", "7.5"))
        );
        var html = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.Contains(said, html, StringComparison.Ordinal);
        Assert.Contains("value=\"7.5\"", html, StringComparison.Ordinal);
        Assert.Contains($"value=\"{value}\"", html, StringComparison.Ordinal);
        Assert.DoesNotContain("● Kept", html, StringComparison.Ordinal);
    }

    /// <summary>A whole meter form with some fields changed.</summary>
    private static (string, string)[] MeterFields(params (string Field, string Value)[] changed)
    {
        var fields = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase)
        {
            ["Name"] = "Meter",
            ["Typed[inputOhms]"] = "10M",
            ["Typed[voltsAccuracyPercent]"] = "0.5",
            ["Typed[acAccuracyPercent]"] = "1.5",
            ["Typed[acFadesAtHertz]"] = "400",
            ["Typed[displayCounts]"] = "2000",
            ["Typed[accuracyCounts]"] = "2",
            ["Typed[ohmsAccuracyPercent]"] = "1",
            ["Typed[leadOhms]"] = "0.2",
            ["Typed[beepsUnderOhms]"] = "40",
            ["Typed[ampsBurdenOhms]"] = "0.03",
            ["Typed[ampsFuse]"] = "10",
            ["Typed[testLampAmps]"] = "0.3",
            ["Typed[voltsRanges]"] = "2 20 200",
            ["Typed[ohmsRanges]"] = "200 2000 20000",
            ["Functions"] = "DcVolts",
        };
        foreach (var (field, value) in changed)
        {
            fields[field] = value;
        }

        return [.. fields.Select(f => (f.Key, f.Value))];
    }

    [Theory]
    [InlineData("Failed", "4", "at most as many")]
    [InlineData("Tried", "many", "whole number")]
    [InlineData("Tried", "-3", "whole number")]
    [InlineData("HeardSaid", "Explosion", "choose one")]
    public async Task A_wrong_complaint_names_the_field_and_keeps_the_rest(string field, string value, string said)
    {
        var tag = await Talk.OpenJobAsync(client);
        var sound = new List<(string, string)>
        {
            ("HeardSaid", "OneClick"),
            ("Failed", "2"),
            ("Tried", "3"),
            ("Words", "kept as typed"),
        };
        sound.RemoveAll(f => f.Item1 == field);
        sound.Add((field, value));
        var response = await Talk.PostFormAsync(client, $"/jobs/{tag}/complaint", $"/jobs/{tag}/complaint", [.. sound]);
        var html = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.Contains(said, html, StringComparison.Ordinal);
        Assert.Contains("value=\"kept as typed\"", html, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Every_page_carries_a_policy_without_inline_script_or_style()
    {
        var response = await client.GetAsync("/", TestContext.Current.CancellationToken);
        var policy = string.Join(' ', response.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains("script-src 'self'", policy, StringComparison.Ordinal);
        Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
        var html = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.DoesNotContain("style=\"", html, StringComparison.Ordinal);
        Assert.DoesNotContain(
            "http://",
            html.Replace("http://www.w3.org/2000/svg", "", StringComparison.Ordinal),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_form_without_its_token_is_refused()
    {
        var tag = await Talk.OpenJobAsync(client);
        using var form = new FormUrlEncodedContent(
            new Dictionary<string, string> { ["Typed"] = "12", ["After"] = "2" }
        );
        var response = await client.PostAsync(
            $"/jobs/{tag}?handler=Reading",
            form,
            TestContext.Current.CancellationToken
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
    }
}
