using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text.RegularExpressions;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;
using Pritchel.Web.Entrance;

namespace Pritchel.Web.Tests;

/// <summary>A code besides the words, as any authenticator would show it.</summary>
public sealed class SecondFactorTests(GuardedHost host) : IClassFixture<GuardedHost>
{
    private const int Digits = 1_000_000;

    /// <summary>The vectors of RFC 6238, appendix B, SHA-1, their last six digits: that what stands for the authenticator here is one.</summary>
    [Theory]
    [InlineData(59, 287082)]
    [InlineData(1111111109, 81804)]
    [InlineData(1234567890, 5924)]
    [InlineData(20000000000, 353130)]
    public void Codes_are_those_of_the_standard(long seconds, int code) =>
        Assert.Equal(code, Code("12345678901234567890"u8.ToArray(), seconds));

    [Fact]
    public async Task Words_alone_no_longer_do_for_whoever_wants_a_code_and_new_words_ask_for_none()
    {
        using var client = await host.SignedInAsync(MemberRole.Mechanic, "Robin");
        const string Own = "/members/own";
        var page = await SendAsync(client, await PageAsync(client, Own), $"{Own}?handler=Key");
        Assert.Contains("<svg", page, StringComparison.Ordinal);
        var key = Base32(Found(page, "<code>([A-Z2-7 ]+)</code>"));

        // A wrong one turns nothing on, and says by its field what is allowed.
        var wrong = await SendAsync(client, page, $"{Own}?handler=Code", ("ask", "true"), ("code", "12 34"));
        Assert.Contains("The code: the six digits", wrong, StringComparison.Ordinal);
        Assert.Equal(Own, await SendAsync(client, page, $"{Own}?handler=Code", ("ask", "true"), ("code", Now(key))));

        // Signed in anew: words, then the code; neither alone.
        using var other = host.Browser();
        var half = await SendAsync(
            other,
            await PageAsync(other, "/sign-in"),
            "/sign-in",
            ("Name", "Robin"),
            ("words", GuardedHost.Words)
        );
        Assert.Contains("six digits", half, StringComparison.Ordinal);
        using var outside = await other.GetAsync("/", TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.Redirect, outside.StatusCode);
        Assert.Contains(
            "not the code",
            await SendAsync(other, half, "/sign-in?handler=Code", ("code", "000000")),
            StringComparison.Ordinal
        );
        Assert.Equal("/", await SendAsync(other, half, "/sign-in?handler=Code", ("code", Now(key))));
        Assert.Contains("Pritchel", await PageAsync(other, "/"), StringComparison.Ordinal);

        // A code without words leads nowhere.
        using var stranger = host.Browser();
        var asked = await PageAsync(stranger, "/sign-in");
        Assert.Contains(
            "name and words",
            await SendAsync(stranger, asked, "/sign-in?handler=Code", ("code", Now(key))),
            StringComparison.Ordinal
        );

        await using (var scope = host.Services.CreateAsyncScope())
        {
            var desk = scope.ServiceProvider.GetRequiredService<MemberDesk>();
            Assert.Null(await desk.WordsAsync("Robin", old: null, "another quiet harbour"));
        }

        using var lost = host.Browser();
        using var again = await GuardedHost.SignInAsync(lost, "Robin", "another quiet harbour");
        Assert.Equal(HttpStatusCode.Redirect, again.StatusCode);
    }

    private static async Task<string> PageAsync(HttpClient client, string address) =>
        WebUtility.HtmlDecode(await client.GetStringAsync(address, TestContext.Current.CancellationToken));

    /// <summary>Sends a form of a page that is open: the page that answers, or where it leads.</summary>
    private static async Task<string> SendAsync(
        HttpClient client,
        string page,
        string action,
        params (string Name, string Value)[] fields
    )
    {
        var token = Found(page, "name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"");
        using var form = new FormUrlEncodedContent(
            fields.Append(("__RequestVerificationToken", token)).Select(f => KeyValuePair.Create(f.Item1, f.Item2))
        );
        using var answer = await client.PostAsync(action, form, TestContext.Current.CancellationToken);
        return answer.Headers.Location?.OriginalString
            ?? WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
    }

    private static string Found(string page, string pattern) =>
        Regex.Match(page, pattern, RegexOptions.None, TimeSpan.FromSeconds(1)).Groups[1].Value;

    private static string Now(byte[] key) =>
        Code(key, DateTimeOffset.UtcNow.ToUnixTimeSeconds()).ToString("000000", CultureInfo.InvariantCulture);

    /// <summary>RFC 4226 and 6238, written from the standards.</summary>
    private static int Code(byte[] key, long seconds)
    {
        const int Step = 30;
        var counter = BitConverter.GetBytes(IPAddress.HostToNetworkOrder(seconds / Step));
#pragma warning disable CA5350 // The standard's own hash.
        var hash = HMACSHA1.HashData(key, counter);
#pragma warning restore CA5350
        var at = hash[^1] & 0xf;
        var value = ((hash[at] & 0x7f) << 24) | (hash[at + 1] << 16) | (hash[at + 2] << 8) | hash[at + 3];
        return value % Digits;
    }

    /// <summary>RFC 4648.</summary>
    private static byte[] Base32(string text)
    {
        var (bits, held, bytes) = (0, 0, new List<byte>());
        foreach (var letter in text.Where(c => c != ' '))
        {
            held = (held << 5) | "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".IndexOf(letter, StringComparison.Ordinal);
            bits += 5;
            if (bits >= 8)
            {
                bits -= 8;
                bytes.Add((byte)(held >> bits));
                held &= (1 << bits) - 1;
            }
        }

        return [.. bytes];
    }
}
