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
        await Talk.PostFormAsync(
            client,
            "/meter",
            "/meter",
            ("Name", Script),
            ("Leads", "0.2"),
            ("Accuracy", "0.5"),
            ("Input", "10")
        );
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
