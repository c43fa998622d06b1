using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Tests;

/// <summary>The application as others reach it: it asks who somebody is.</summary>
public sealed class GuardedHost : WebApplicationFactory<Program>
{
    public const string Secret = "barley field";
    public const string Words = "quiet harbour";

    private readonly string folder = Directory.CreateTempSubdirectory("pritchel-members").FullName;

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        // As on the command line.
        var file = Path.Combine(folder, "passphrase");
        File.WriteAllText(file, Secret);
        builder.UseSetting("passphrase", file);
        builder.ConfigureTestServices(services =>
            services.AddSingleton(new WorkshopOptions(folder) { Demo = false, WorksAhead = false })
        );
    }

    public HttpClient Browser() => CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false });

    /// <summary>Somebody of a role, signed in.</summary>
    public async Task<HttpClient> SignedInAsync(MemberRole role, string? called = null)
    {
        var name = called ?? $"one {role}";
        await using (var scope = Services.CreateAsyncScope())
        {
            var desk = scope.ServiceProvider.GetRequiredService<MemberDesk>();
            await desk.AddAsync(name, role, Words);
        }

        var client = Browser();
        using var answer = await SignInAsync(client, name, Words);
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return client;
    }

    public static Task<HttpResponseMessage> SignInAsync(HttpClient client, string name, string words) =>
        Talk.PostFormAsync(client, "/sign-in", "/sign-in", ("Name", name), ("words", words));

    protected override void Dispose(bool disposing)
    {
        base.Dispose(disposing);
        if (disposing)
        {
            Folders.Release(folder);
            Folders.Remove(folder);
        }
    }
}

/// <summary>Accounts: who gets in, what each role may do, and whose name stands at what was entered.</summary>
public sealed class MemberTests(GuardedHost host) : IClassFixture<GuardedHost>
{
    /// <summary>What each role is for, written down apart from the pages: method, address, least role.</summary>
    public static TheoryData<string, string, MemberRole> Doors() =>
        new()
        {
            { "GET", "/", MemberRole.Reader },
            { "GET", "/api/v1/jobs", MemberRole.Reader },
            { "GET", "/machines/orchard-tractor-4", MemberRole.Reader },
            { "GET", "/record", MemberRole.Reader },
            { "POST", "/api/v1/machines/orchard-tractor-4/measure", MemberRole.Reader },
            { "POST", "/members/own", MemberRole.Reader },
            { "POST", "/api/v1/jobs/T-0001/readings", MemberRole.Helper },
            { "POST", "/api/v1/part-tests", MemberRole.Helper },
            { "POST", "/api/v1/looms", MemberRole.Helper },
            { "POST", "/jobs/T-0001?handler=Reading", MemberRole.Helper },
            { "POST", "/jobs/T-0001?handler=Verdict", MemberRole.Mechanic },
            { "POST", "/jobs/T-0001?handler=verdict", MemberRole.Mechanic },
            { "POST", "/jobs/T-0001/prove?handler=Close", MemberRole.Mechanic },
            { "POST", "/jobs/T-0001/repair", MemberRole.Mechanic },
            { "POST", "/api/v1/jobs", MemberRole.Mechanic },
            { "POST", "/api/v1/jobs/T-0001/verdict", MemberRole.Mechanic },
            { "POST", "/api/v1/jobs/T-0001/close", MemberRole.Mechanic },
            { "POST", "/api/v1/machines", MemberRole.Mechanic },
            { "POST", "/api/v1/machines/orchard-tractor-4/put-away", MemberRole.Mechanic },
            { "POST", "/api/v1/rewires", MemberRole.Mechanic },
            { "POST", "/meter", MemberRole.Mechanic },
            { "GET", "/record/import", MemberRole.Owner },
            { "POST", "/record/import?handler=Apply", MemberRole.Owner },
            { "GET", "/members", MemberRole.Owner },
            { "POST", "/members?handler=Role", MemberRole.Owner },
        };

    [Theory]
    [MemberData(nameof(Doors))]
    public async Task Each_role_passes_its_own_doors_only(string method, string address, MemberRole least)
    {
        foreach (var role in Enum.GetValues<MemberRole>())
        {
            using var client = await host.SignedInAsync(role);
            using var request = new HttpRequestMessage(new HttpMethod(method), address);
            if (method == "POST")
            {
                request.Content = JsonContent.Create(new { });
            }

            // Past the door what was sent may still be refused for what it says: it is empty.
            using var answer = await client.SendAsync(request);
            Assert.Equal((role, role < least), (role, answer.StatusCode == HttpStatusCode.Forbidden));
        }
    }

    [Fact]
    public async Task Nobody_gets_past_without_a_name()
    {
        using var client = host.Browser();
        using var page = await client.GetAsync("/machines");
        Assert.StartsWith("/sign-in", page.Headers.Location!.PathAndQuery, StringComparison.Ordinal);
        using var api = await client.PostAsJsonAsync("/api/v1/jobs", new { });
        Assert.Equal(HttpStatusCode.Unauthorized, api.StatusCode);
    }

    [Fact]
    public async Task A_refusal_says_whose_work_it_is()
    {
        using var client = await host.SignedInAsync(MemberRole.Helper);
        using var page = await client.GetAsync("/members");
        Assert.Equal(HttpStatusCode.Forbidden, page.StatusCode);
        Assert.Contains(
            "for an owner; this account is a helper",
            await page.Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        using var api = await client.PostAsJsonAsync("/api/v1/jobs", new { });
        Assert.Contains("for a mechanic", await api.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_was_entered_carries_its_authors_name()
    {
        using var mechanic = await host.SignedInAsync(MemberRole.Mechanic, "Ada of the boats");
        var tag = await Talk.OpenJobAsync(mechanic);
        using var helper = await host.SignedInAsync(MemberRole.Helper, "Bo");
        using var look = await helper.PostAsJsonAsync(
            $"/api/v1/jobs/{tag}/readings",
            new
            {
                quantity = "volts",
                red = "solenoid.S",
                black = "battery.-",
                reading = "0",
                setting = Talk.Start,
            }
        );
        look.EnsureSuccessStatusCode();
        var history = await helper.GetStringAsync($"/jobs/{tag}/history");
        Assert.Contains("Ada of the boats", history, StringComparison.Ordinal);
        Assert.Contains("Bo", history, StringComparison.Ordinal);
        Assert.True(
            history.IndexOf("Ada of the boats", StringComparison.Ordinal)
                < history.IndexOf(">Bo<", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Somebody_taken_out_is_out_with_the_next_request()
    {
        using var client = await host.SignedInAsync(MemberRole.Reader, "Passing by");
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/")).StatusCode);
        await using (var scope = host.Services.CreateAsyncScope())
        {
            var desk = scope.ServiceProvider.GetRequiredService<MemberDesk>();
            Assert.Null(await desk.TakeOutAsync("Passing by", TestContext.Current.CancellationToken));
        }

        Assert.Equal(HttpStatusCode.Redirect, (await client.GetAsync("/")).StatusCode);
    }

    [Fact]
    public async Task A_changed_role_counts_with_the_next_request()
    {
        using var client = await host.SignedInAsync(MemberRole.Owner, "Once an owner");
        await host.SignedInAsync(MemberRole.Owner);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/members")).StatusCode);
        await using (var scope = host.Services.CreateAsyncScope())
        {
            var desk = scope.ServiceProvider.GetRequiredService<MemberDesk>();
            Assert.Null(
                await desk.RoleAsync("Once an owner", MemberRole.Reader, TestContext.Current.CancellationToken)
            );
        }

        Assert.NotEqual(HttpStatusCode.OK, (await client.GetAsync("/members")).StatusCode);
    }

    [Fact]
    public async Task Five_wrong_words_make_an_account_rest_even_for_the_right_ones()
    {
        using var _ = await host.SignedInAsync(MemberRole.Reader, "Forgetful");
        using var client = host.Browser();
        for (var k = 0; k < SigningIn.MostTries; k++)
        {
            using var wrong = await GuardedHost.SignInAsync(client, "Forgetful", "not these words");
            Assert.Equal(HttpStatusCode.OK, wrong.StatusCode);
        }

        using var right = await GuardedHost.SignInAsync(client, "Forgetful", GuardedHost.Words);
        Assert.Contains("ten minutes", await right.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_name_that_is_not_here_is_refused_in_the_same_words()
    {
        using var client = host.Browser();
        using var _ = await host.SignedInAsync(MemberRole.Reader, "Here");
        using var unknown = await GuardedHost.SignInAsync(client, "Not here", "some words");
        using var wrong = await GuardedHost.SignInAsync(client, "Here", "some words");
        const string Same = "do not go together";
        Assert.Contains(Same, await unknown.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Contains(Same, await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "long enough", "The name")]
    [InlineData("  ", "long enough", "The name")]
    [InlineData("a\u0007b", "long enough", "The name")]
    [InlineData("Cleo", "short", "8 characters or more")]
    [InlineData("Cleo", "", "8 characters or more")]
    [InlineData("Cleo", "password", "first that anybody tries")]
    [InlineData("Cleo", "Qwertyuiop", "first that anybody tries")]
    [InlineData("Cleo", "12345678", "first that anybody tries")]
    public async Task What_is_wrong_with_an_account_is_said_by_its_field(string name, string words, string said)
    {
        await using var scope = host.Services.CreateAsyncScope();
        var desk = scope.ServiceProvider.GetRequiredService<MemberDesk>();
        Assert.Contains(said, await desk.AddAsync(name, MemberRole.Reader, words), StringComparison.Ordinal);
    }

    /// <summary>Whoever holds the passphrase can make an owner; whoever guesses at it cannot, and rests.</summary>
    [Fact]
    public async Task The_workshops_passphrase_makes_an_owner()
    {
        using var client = host.Browser();
        using var guess = await Talk.PostFormAsync(
            client,
            "/sign-in?owner=true",
            "/sign-in?handler=Owner",
            ("secret", "wheat field"),
            ("Name", "Thief"),
            ("words", "long enough")
        );
        Assert.Contains("not this workshop", await guess.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var made = await Talk.PostFormAsync(
            client,
            "/sign-in?owner=true",
            "/sign-in?handler=Owner",
            ("secret", GuardedHost.Secret),
            ("Name", "Dunstan"),
            ("words", "long enough")
        );
        Assert.Equal(HttpStatusCode.Redirect, made.StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/members")).StatusCode);
    }
}

/// <summary>The last owner, on a record of its own: nobody can be left without one.</summary>
public sealed class LastOwnerTests(GuardedHost host) : IClassFixture<GuardedHost>
{
    [Fact]
    public async Task The_last_owner_stays_one()
    {
        var cancel = TestContext.Current.CancellationToken;
        await using var scope = host.Services.CreateAsyncScope();
        var desk = scope.ServiceProvider.GetRequiredService<MemberDesk>();
        Assert.Null(await desk.AddAsync("Only", MemberRole.Owner, GuardedHost.Words));
        Assert.Contains("last owner", await desk.TakeOutAsync("Only", cancel), StringComparison.Ordinal);
        Assert.Contains(
            "last owner",
            await desk.RoleAsync("Only", MemberRole.Reader, cancel),
            StringComparison.Ordinal
        );
        Assert.Null(await desk.AddAsync("Other", MemberRole.Owner, GuardedHost.Words));
        Assert.Null(await desk.TakeOutAsync("Only", cancel));
        Assert.Equal(["Other"], (await desk.ListAsync(cancel)).Select(m => m.UserName));
    }
}
