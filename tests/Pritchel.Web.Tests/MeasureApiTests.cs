using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Pritchel.Web.Tests;

/// <summary>Measuring over the API: every function, speeds, waits, faults, couplings off, and machines that come along.</summary>
public sealed class MeasureApiTests(Host host) : IClassFixture<Host>
{
    private readonly HttpClient client = host.Browser();

    private static JsonNode Example(string name) =>
        JsonNode.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "examples", name + ".json")))!;

    [Fact]
    public async Task A_posted_stator_gives_AC_in_proportion_to_speed_with_its_coupling_apart()
    {
        async Task<double> At(double rpm) =>
            Value(
                await PostedAsync(
                    "stator-three-phase-shunt",
                    new
                    {
                        red = "stator.a",
                        black = "stator.b",
                        function = "acVolts",
                        speeds = new { engine = rpm },
                        off = new[] { "C1" },
                        meter = new
                        {
                            name = "wide",
                            trueRms = true,
                            acFadesAtHertz = 1e6,
                        },
                    }
                )
            );
        var (slow, fast) = (await At(1000), await At(3000));
        Assert.Equal(9 * Math.Sqrt(3), slow, 0.1);
        Assert.Equal(3, fast / slow, 0.01);
    }

    /// <summary>Sixty cases at once from one client: those over four at work and thirty-two waiting are told, and none breaks.</summary>
    [Fact]
    public async Task Too_many_cases_at_once_are_refused_in_words_and_those_taken_are_answered()
    {
        var body = new
        {
            red = "battery.+",
            black = "battery.-",
            function = "dcVolts",
            speeds = new { engine = 3000 },
        };
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 60).Select(_ => client.PostAsJsonAsync("/api/v1/machines/hill-quad-2/measure", body))
        );
        Assert.All(
            answers,
            a => Assert.True(a.StatusCode is HttpStatusCode.OK or HttpStatusCode.TooManyRequests, $"{a.StatusCode}")
        );
        Assert.True(answers.Count(a => a.StatusCode == HttpStatusCode.OK) >= 36);
        Assert.All(answers.Where(a => a.IsSuccessStatusCode), a => Assert.True(a.Headers.CacheControl?.NoStore));
        foreach (var refused in answers.Where(a => a.StatusCode == HttpStatusCode.TooManyRequests))
        {
            Assert.Contains("Too many at once", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task The_same_wave_fades_and_is_averaged_on_a_cheap_meter_and_peaks_need_the_adapter()
    {
        object Ask(string function, object meter) =>
            new
            {
                red = "stator.a",
                black = "stator.b",
                function,
                speeds = new { engine = 5000 },
                off = new[] { "C1" },
                meter,
            };
        var (cheap, good) = (
            new { name = "cheap", acFadesAtHertz = 400 },
            new
            {
                name = "good",
                trueRms = true,
                acFadesAtHertz = 1e6,
                peakAdapter = true,
                functions = new[] { "acVolts", "peakVolts" },
            }
        );
        var (faded, whole) = (
            Value(await PostedAsync("stator-three-phase-shunt", Ask("acVolts", cheap))),
            Value(await PostedAsync("stator-three-phase-shunt", Ask("acVolts", good)))
        );

        // Six pole pairs at 5000 rpm are 500 Hz: 1/√(1 + (500/400)²) of it is left.
        Assert.Equal(1 / Math.Sqrt(1 + (1.25 * 1.25)), faded / whole, 0.01);
        Assert.Equal(
            whole * Math.Sqrt(2),
            Value(await PostedAsync("stator-three-phase-shunt", Ask("peakVolts", good))),
            0.01 * whole
        );
        var without = await PostedAsync("stator-three-phase-shunt", Ask("peakVolts", cheap));
        Assert.Contains("adapter", without["refused"]!.GetValue<string>(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("dcVolts")]
    [InlineData("acVolts")]
    [InlineData("ohms")]
    [InlineData("beep")]
    [InlineData("diode")]
    [InlineData("dcAmps")]
    [InlineData("testLamp")]
    public async Task Every_function_answers_with_a_figure_or_says_why_not(string function)
    {
        var answer = await ShippedAsync(
            new
            {
                red = "fuel-cut.in",
                black = "block.crankcase",
                function,
                batteryDisconnected = true,
            }
        );
        Assert.True(
            answer["value"] is not null || answer["overRange"]!.GetValue<bool>() || answer["refused"] is not null
        );
        Assert.NotEmpty(answer["shown"]!.GetValue<string>() + answer["refused"]?.GetValue<string>());
    }

    [Fact]
    public async Task Time_passes_for_a_timer()
    {
        // Key off after running: the stop solenoid is held for its seconds, then let go.
        async Task<double> After(double seconds) =>
            Value(
                await PostedAsync(
                    "timer-stop",
                    new
                    {
                        before = new[] { new Dictionary<string, string> { ["key"] = "ON" } },
                        waitedSeconds = seconds,
                        red = "stop.+",
                        black = "battery.-",
                    }
                )
            );
        Assert.InRange(await After(1), 10, 13);
        Assert.InRange(await After(120), -0.1, 0.1);
    }

    [Fact]
    public async Task A_posted_machine_that_is_wrong_is_refused_by_place_and_nothing_is_kept()
    {
        var file = Example("timer-stop");
        file["wires"]![0]!["gauge"] = "thick";
        var response = await client.PostAsJsonAsync(
            "/api/v1/measure",
            new { machine = file, measure = new { red = "battery.+", black = "battery.-" } },
            TestContext.Current.CancellationToken
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        var problem = (await response.Content.ReadFromJsonAsync<JsonObject>(TestContext.Current.CancellationToken))!;
        Assert.Contains(problem["errors"]!.AsObject(), e => e.Key == "machine/wires/0/gauge");
        var list = await client.GetFromJsonAsync<JsonArray>("/api/v1/machines", TestContext.Current.CancellationToken);
        Assert.DoesNotContain(list!, m => m!["id"]!.GetValue<string>() == file["id"]!.GetValue<string>());
    }

    [Theory]
    [InlineData("""{"speeds":{"moon":3000}}""", "speeds.moon", "engine")]
    [InlineData("""{"speeds":{"engine":-1}}""", "speeds.engine", "0 to 20000")]
    [InlineData("""{"waitedSeconds":-1}""", "waitedSeconds", "0 to 86400")]
    [InlineData("""{"off":["nothing"]}""", "off[0]", "does not come off")]
    [InlineData("""{"meter":{"name":"m","displayCounts":3}}""", "meter/displayCounts", "200 to 1000000")]
    [InlineData("""{"meter":{"name":"m","gizmo":3}}""", "meter/gizmo", "docs/machine-format.md")]
    public async Task What_cannot_be_is_refused_by_field(string with, string field, string allowed)
    {
        var measure = JsonNode.Parse(with)!.AsObject();
        measure["red"] = "battery.+";
        measure["black"] = "battery.-";
        var response = await client.PostAsJsonAsync(
            "/api/v1/machines/orchard-tractor-4/measure",
            measure,
            TestContext.Current.CancellationToken
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        var problem = (await response.Content.ReadFromJsonAsync<JsonObject>(TestContext.Current.CancellationToken))!;
        Assert.Contains(
            problem["errors"]!.AsObject(),
            e => e.Key == field && e.Value!.ToJsonString().Contains(allowed, StringComparison.Ordinal)
        );
    }

    private static double Value(JsonObject answer) =>
        answer["value"]?.GetValue<double>() ?? throw new InvalidOperationException(answer.ToJsonString());

    private Task<JsonObject> PostedAsync(string example, object measure) =>
        AskAsync("/api/v1/measure", new { machine = Example(example), measure });

    private Task<JsonObject> ShippedAsync(object measure) =>
        AskAsync("/api/v1/machines/orchard-tractor-4/measure", measure);

    private async Task<JsonObject> AskAsync(string address, object body)
    {
        var response = await client.PostAsJsonAsync(address, body, TestContext.Current.CancellationToken);
        var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.True(response.IsSuccessStatusCode, text);
        return JsonNode.Parse(text)!.AsObject();
    }
}
