using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;

namespace Pritchel.Web.Tests;

/// <summary>What is shown before all predictions are worked out.</summary>
public sealed class FirstTestPageTests(Host host) : IClassFixture<Host>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_test_asked_for_that_the_first_few_cases_do_not_know_is_shown_by_all()
    {
        var client = host.Browser();
        var opened = await client.PostAsJsonAsync(
            "/api/v1/jobs",
            new { machine = "harbour-launch-1", duty = "cranks" },
            Cancel
        );
        var tag = (await opened.Content.ReadFromJsonAsync<JsonObject>(Cancel))!["tag"]!.GetValue<string>();
        var told = await client.PostAsJsonAsync(
            $"/api/v1/jobs/{tag}/complaint",
            new
            {
                heard = "nothing",
                failed = 3,
                tried = 3,
            },
            Cancel
        );
        told.EnsureSuccessStatusCode();
        var address = $"/jobs/{tag}?test={Unknown()}";
        var soon = await client.GetStringAsync(address, Cancel);
        var later = await client.GetStringAsync(address, Cancel);
        Assert.DoesNotContain("A first estimate", soon, StringComparison.Ordinal);
        Assert.Equal(Card(later), Card(soon));
    }

    /// <summary>A test by ohms in a condition that the coarse kit leaves out, as an address asks for it.</summary>
    private static string Unknown()
    {
        var json = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "machines", "harbour-launch-1.json"));
        var circuit = Circuit.Compile(MachineFile.Read(json).Machine!);
        var coarse = DiagnosisKit.BuildCoarse(circuit, Symptoms.Duty(circuit, new DutyId("cranks")), []);
        var conditions = coarse.Table.Conditions;
        var c = Enumerable
            .Range(0, conditions.Count)
            .First(i => !coarse.Table.HasFigures(i) && conditions[i].Observable is DeadOhms);
        var (red, black) = conditions[c].Pairs![0];
        return Uri.EscapeDataString($"{c};{coarse.Points.At(red).Address};{coarse.Points.At(black).Address}");
    }

    private static string Card(string html) =>
        WebUtility.HtmlDecode(html.Split("class=\"outlook\"")[1].Split("class=\"entry\"")[0]);
}
