using System.Net;
using System.Net.Http.Json;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Tests;

/// <summary>Who reaches the application: names it answers to, pages it takes changes from, the passphrase.</summary>
public sealed class EntranceTests(Host host) : IClassFixture<Host>
{
    [Theory]
    [InlineData("http://127.0.0.1:5147", true)]
    [InlineData("http://localhost:80;http://[::1]:5147", true)]
    [InlineData("http://0.0.0.0:5147", false)]
    [InlineData("http://127.0.0.1:1;http://192.168.1.7:5147", false)]
    [InlineData("http://*:5147", false)]
    [InlineData("http://[::]:5147", false)]
    [InlineData("http://bench.example:5147", false)]
    public void What_others_reach_wants_a_passphrase(string urls, bool loopback)
    {
        var addresses = new Addresses(urls, []);
        Assert.Equal(loopback, addresses.IsLoopbackOnly);
        Assert.Equal(loopback, addresses.Refusal(guarded: false) is null);
        Assert.Null(addresses.Refusal(guarded: true));
    }

    [Theory]
    [InlineData("localhost", true)]
    [InlineData("127.0.0.1", true)]
    [InlineData("[::1]", true)]
    [InlineData("192.168.1.7", true)]
    [InlineData("bench.example", true)]
    [InlineData("proxy.example", true)]
    [InlineData("elsewhere.example", false)]
    [InlineData("127.0.0.1.elsewhere.example", false)]
    [InlineData("", false)]
    public void Only_its_own_names_and_numbers_are_known(string name, bool known) =>
        Assert.Equal(known, new Addresses("http://bench.example:80", ["proxy.example"]).Knows(name));

    /// <summary>A name of somebody else's that was given this address reads nothing and changes nothing.</summary>
    [Theory]
    [InlineData("/")]
    [InlineData("/api/v1/jobs")]
    [InlineData("/js/app.js")]
    public async Task A_foreign_name_is_not_answered(string path)
    {
        using var client = host.Browser();
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Host = "elsewhere.example";
        using var response = await client.SendAsync(request);
        Assert.Equal(HttpStatusCode.MisdirectedRequest, response.StatusCode);
    }

    [Theory]
    [InlineData("Origin", "http://elsewhere.example")]
    [InlineData("Origin", "null")]
    [InlineData("Origin", "http://localhost.elsewhere.example")]
    [InlineData("Sec-Fetch-Site", "cross-site")]
    public async Task A_page_elsewhere_changes_nothing(string header, string value)
    {
        using var client = host.Browser();
        var before = await client.GetStringAsync(new Uri("/api/v1/jobs", UriKind.Relative));
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/v1/jobs")
        {
            Content = JsonContent.Create(new { machine = "orchard-tractor-4", duty = "cranks" }),
        };
        request.Headers.TryAddWithoutValidation(header, value);
        using var response = await client.SendAsync(request);
        Assert.Equal(HttpStatusCode.Forbidden, response.StatusCode);
        Assert.Equal(before, await client.GetStringAsync(new Uri("/api/v1/jobs", UriKind.Relative)));
    }

    private sealed class HandClock : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = new(2026, 5, 1, 8, 0, 0, TimeSpan.Zero);

        public override DateTimeOffset GetUtcNow() => Now;
    }

    [Fact]
    public void Five_wrong_passphrases_make_it_rest_for_ten_minutes()
    {
        var clock = new HandClock();
        var passphrase = new Passphrase("barley field", clock);
        for (var k = 0; k < 5; k++)
        {
            Assert.False(passphrase.Is("wheat field", "10.0.0.9"));
        }

        Assert.False(passphrase.Is("barley field", "10.0.0.9"));
        Assert.True(passphrase.Is("barley field", "10.0.0.8"));
        clock.Now += TimeSpan.FromMinutes(11);
        Assert.True(passphrase.Is("barley field", "10.0.0.9"));
    }

    [Fact]
    public void A_file_without_a_passphrase_is_refused_in_words()
    {
        var file = Path.GetTempFileName();
        File.WriteAllText(file, "short\n");
        Assert.Contains(
            "5 characters; 8 or more",
            Assert.Throws<FormatException>(() => Passphrase.ReadFile(file)).Message,
            StringComparison.Ordinal
        );
        File.WriteAllText(file, "iloveyou\n");
        Assert.Contains(
            "first that anybody tries",
            Assert.Throws<FormatException>(() => Passphrase.ReadFile(file)).Message,
            StringComparison.Ordinal
        );
        File.Delete(file);
        Assert.Contains(
            "cannot be read",
            Assert.Throws<FormatException>(() => Passphrase.ReadFile(file)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Health_says_whether_the_record_answers()
    {
        using var client = host.Browser();
        Assert.Contains(
            "well",
            await client.GetStringAsync(new Uri("/health", UriKind.Relative)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_record_its_keys_are_readable_by_their_owner_only()
    {
        if (OperatingSystem.IsWindows())
        {
            return;
        }

        using var client = host.Browser();
        Assert.Equal(
            UnixFileMode.UserRead | UnixFileMode.UserWrite,
            File.GetUnixFileMode(Path.Combine(host.Folder, "pritchel.db"))
        );
        // A page with a form makes a key.
        await client.GetStringAsync(new Uri("/meter", UriKind.Relative));
        Assert.Equal(
            UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute,
            File.GetUnixFileMode(Path.Combine(host.Folder, "keys"))
        );
    }
}
