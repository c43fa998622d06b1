using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Pritchel.Web.Tests;

public sealed class ApiTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    [Fact]
    public async Task Lists_the_shipped_machines_and_exports_one_to_the_byte()
    {
        var list = await client.GetFromJsonAsync<JsonArray>("/api/v1/machines", TestContext.Current.CancellationToken);
        Assert.Equal(20, list!.Count);
        Assert.Contains(list, m => m!["id"]!.GetValue<string>() == "orchard-tractor-4");
        var exported = await client.GetStringAsync(
            "/api/v1/machines/orchard-tractor-4",
            TestContext.Current.CancellationToken
        );
        Assert.Equal(
            await File.ReadAllTextAsync(
                Path.Combine(AppContext.BaseDirectory, "machines", "orchard-tractor-4.json"),
                TestContext.Current.CancellationToken
            ),
            exported
        );
    }

    /// <summary>Who speaks to it by the API alone learns what may be told, and what he cannot find is said as an error of the API's.</summary>
    [Fact]
    public async Task What_can_be_complained_of_is_listed_and_what_is_not_there_is_a_problem()
    {
        var all = await client.GetFromJsonAsync<JsonArray>("/api/v1/machines/hill-quad-2/complaints");
        var cranks = Assert.Single(all!, c => c!["duty"]!.GetValue<string>() == "cranks")!;
        Assert.Equal("Does not crank", cranks["words"]!.GetValue<string>());
        Assert.Contains(cranks["heard"]!.AsArray(), h => h!["said"]!.GetValue<string>() == "oneClick");
        var job = await client.PostAsJsonAsync("/api/v1/jobs", new { machine = "hill-quad-2", duty = "cranks" });
        var tag = (await job.Content.ReadFromJsonAsync<JsonObject>())!["tag"]!.GetValue<string>();
        using var early = await client.GetAsync(new Uri($"/api/v1/jobs/{tag}/suspects", UriKind.Relative));
        Assert.Equal(HttpStatusCode.Conflict, early.StatusCode);
        using var nowhere = await client.GetAsync(new Uri("/api/v1/nowhere", UriKind.Relative));
        Assert.Equal(HttpStatusCode.NotFound, nowhere.StatusCode);
        Assert.Equal("application/problem+json", nowhere.Content.Headers.ContentType?.MediaType);
    }

    [Fact]
    public async Task Measures_with_faults_where_the_meter_is()
    {
        // Brake switch open, key at START: battery volts before it, none after it.
        var before = await MeasureAsync(
            new
            {
                setting = Talk.Start,
                red = "brake.in",
                black = "battery.-",
                faults = new[] { new { id = "brake/start/open" } },
            }
        );
        var after = await MeasureAsync(
            new
            {
                setting = Talk.Start,
                red = "brake.out",
                black = "battery.-",
                faults = new[] { new { id = "brake/start/open" } },
            }
        );
        Assert.InRange(before["value"]!.GetValue<double>(), 12.3, 12.7);
        Assert.InRange(after["value"]!.GetValue<double>(), -0.001, 0.001);
    }

    [Fact]
    public async Task A_fixed_range_that_is_too_small_shows_OL_and_ohms_on_a_live_circuit_are_refused()
    {
        var over = await MeasureAsync(
            new
            {
                red = "battery.+",
                black = "battery.-",
                range = 2,
            }
        );
        Assert.Equal("OL", over["shown"]!.GetValue<string>());
        var live = await MeasureAsync(
            new
            {
                red = "battery.+",
                black = "battery.-",
                function = "ohms",
            }
        );
        Assert.Null(live["value"]);
        Assert.NotNull(live["refused"]);
    }

    [Fact]
    public async Task A_solved_case_is_served_as_a_netlist()
    {
        var netlist = await client.PostAsJsonAsync(
            "/api/v1/machines/orchard-tractor-4/netlist",
            new
            {
                setting = Talk.Start,
                red = "battery.+",
                black = "battery.-",
            },
            TestContext.Current.CancellationToken
        );
        Assert.Matches(
            @"(?s)^\* Orchard tractor.*\nRb\d+ .*\nVs0 s0 0 12\.",
            await netlist.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)
        );
    }

    [Theory]
    [InlineData("""{"red":"battery.+","black":"nowhere.1"}""", "black")]
    [InlineData("""{"red":"battery.+"}""", "black")]
    [InlineData("""{"red":"battery.+","black":"battery.-","setting":{"throttle":"up"}}""", "setting.throttle")]
    [InlineData("""{"red":"battery.+","black":"battery.-","setting":{"key":"HALF"}}""", "setting.key")]
    [InlineData("""{"red":"battery.+","black":"battery.-","faults":[{"id":"gremlin"}]}""", "faults[0].id")]
    [InlineData(
        """{"red":"battery.+","black":"battery.-","faults":[{"id":"brake/start/open","severity":7}]}""",
        "faults[0].severity"
    )]
    [InlineData("""{"red":"battery.+","black":"battery.-","function":"horsepower"}""", "function")]
    [InlineData("""{"red":"battery.+","black":"battery.-","leadOhms":-1}""", "leadOhms")]
    [InlineData("""{"red":"battery.+","black":"battery.-","range":1e999}""", "range")]
    [InlineData("""{"red":"battery.+","black":"battery.-","colour":"red"}""", "colour")]
    [InlineData("""not json""", "")]
    public async Task A_wrong_measure_request_names_its_field(string body, string field)
    {
        var response = await client.PostAsync(
            "/api/v1/machines/orchard-tractor-4/measure",
            Json(body),
            TestContext.Current.CancellationToken
        );
        var problem = await ProblemAsync(response);
        Assert.Contains(
            problem["errors"]!.AsObject(),
            e =>
                e.Key.Contains(field, StringComparison.Ordinal)
                || e.Value!.ToJsonString().Contains(field, StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("abc")]
    [InlineData("1e999")]
    [InlineData("")]
    [InlineData("OL")]
    [InlineData("126")]
    public async Task A_wrong_reading_is_refused_and_nothing_is_added(string reading)
    {
        var tag = await Talk.OpenJobAsync(client);
        var response = await client.PostAsJsonAsync(
            $"/api/v1/jobs/{tag}/readings",
            new
            {
                setting = Talk.Start,
                red = "key.B",
                black = "battery.-",
                reading,
            },
            TestContext.Current.CancellationToken
        );
        Assert.Contains("reading", (await ProblemAsync(response))["errors"]!.AsObject().Select(e => e.Key));
        Assert.Equal(2, (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}"))["sequence"]!.GetValue<int>());
    }

    [Fact]
    public async Task A_whole_diagnosis_over_the_api_finds_the_planted_fault()
    {
        // The program asks, a simulated machine with an open brake switch answers.
        var tag = await Talk.OpenJobAsync(client);
        var planted = new[] { new { id = "brake/start/open" } };
        for (var readings = 0; readings < 12; readings++)
        {
            var next = await Talk.GetAsync(client, $"/api/v1/jobs/{tag}/next-test");
            if (next["verdict"] is JsonObject verdict)
            {
                Assert.Equal("part:brake", verdict["id"]!.GetValue<string>());
                return;
            }

            var test = next["test"]!.AsObject();
            var shown = await MeasureAsync(
                new
                {
                    before = new[] { Talk.Start, [] },
                    setting = test["setting"],
                    red = test["red"],
                    black = test["black"],
                    faults = planted,
                }
            );
            var reading = shown["value"]!
                .GetValue<double>()
                .ToString("0.###", System.Globalization.CultureInfo.InvariantCulture);
            var answer = await client.PostAsJsonAsync(
                $"/api/v1/jobs/{tag}/readings",
                new
                {
                    setting = test["setting"],
                    red = test["red"],
                    black = test["black"],
                    reading,
                },
                TestContext.Current.CancellationToken
            );
            answer.EnsureSuccessStatusCode();
        }

        Assert.Fail("no verdict after 12 readings");
    }

    [Fact]
    public async Task A_machine_file_with_a_fault_of_its_own_is_refused_by_place_and_the_record_stays_as_it_was()
    {
        var file = JsonNode.Parse(
            await client.GetStringAsync("/api/v1/machines/orchard-tractor-4", TestContext.Current.CancellationToken)
        )!;
        file["wires"]![3]!["to"]!["at"] = "ghost.1";
        file["name"] = "<script>alert(1)</script>";
        var response = await client.PostAsync(
            "/api/v1/machines",
            Json(file.ToJsonString()),
            TestContext.Current.CancellationToken
        );
        Assert.Contains("/wires/3/to/at", (await ProblemAsync(response))["errors"]!.AsObject().Select(e => e.Key));
        var list = await client.GetFromJsonAsync<JsonArray>("/api/v1/machines", TestContext.Current.CancellationToken);
        Assert.Equal(
            "Orchard tractor No. 4",
            list!.Single(m => m!["id"]!.GetValue<string>() == "orchard-tractor-4")!["name"]!.GetValue<string>()
        );
        Assert.Equal(20, list!.Count);
    }

    [Fact]
    public async Task A_body_of_five_megabytes_is_refused()
    {
        using var big = Json("\"" + new string('x', 5 * 1024 * 1024) + "\"");
        var response = await client.PostAsync("/api/v1/machines", big, TestContext.Current.CancellationToken);
        Assert.True(response.StatusCode is HttpStatusCode.BadRequest or HttpStatusCode.RequestEntityTooLarge);
    }

    [Fact]
    public async Task The_OpenAPI_document_covers_every_route()
    {
        var document = await Talk.GetAsync(client, "/api/v1/openapi.json");
        var paths = document["paths"]!.AsObject().Select(p => p.Key).ToList();
        foreach (
            var path in new[]
            {
                "/api/v1/machines",
                "/api/v1/machines/{id}/measure",
                "/api/v1/measure",
                "/api/v1/jobs/{tag}/readings",
                "/api/v1/jobs/{tag}/suspects",
                "/api/v1/jobs/{tag}/next-test",
            }
        )
        {
            Assert.Contains(path, paths);
        }
    }

    [Fact]
    public async Task What_is_not_there_is_a_problem_with_status_404()
    {
        foreach (var address in new[] { "/api/v1/machines/none", "/api/v1/jobs/T-9999", "/api/v1/jobs/zebra/suspects" })
        {
            var response = await client.GetAsync(address, TestContext.Current.CancellationToken);
            Assert.Equal(HttpStatusCode.NotFound, response.StatusCode);
            Assert.Equal("application/problem+json", response.Content.Headers.ContentType?.MediaType);
        }
    }

    private async Task<JsonObject> MeasureAsync(object request)
    {
        var response = await client.PostAsJsonAsync(
            "/api/v1/machines/orchard-tractor-4/measure",
            request,
            TestContext.Current.CancellationToken
        );
        response.EnsureSuccessStatusCode();
        return (await response.Content.ReadFromJsonAsync<JsonObject>(TestContext.Current.CancellationToken))!;
    }

    private static async Task<JsonObject> ProblemAsync(HttpResponseMessage response)
    {
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        Assert.Equal("application/problem+json", response.Content.Headers.ContentType?.MediaType);
        return (await response.Content.ReadFromJsonAsync<JsonObject>(TestContext.Current.CancellationToken))!;
    }

    private static StringContent Json(string body) => new(body, Encoding.UTF8, "application/json");
}
