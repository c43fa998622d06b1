using System.Net.Http.Json;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Observables;
using Pritchel.Core.Proving;
using Pritchel.Data;
using Pritchel.Data.Events;

namespace Pritchel.Web.Tests;

/// <summary>
/// What was kept is kept: a record as the first format wrote it, by the program of that time, and events of the second as
/// they are written now. Neither file is ever changed.
/// </summary>
public sealed partial class RecordFormatTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("pritchel-format").FullName;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public RecordFormatTests() =>
        File.Copy(
            Path.Combine(AppContext.BaseDirectory, "records", "format-1.sqlite"),
            Path.Combine(folder, "pritchel.db")
        );

    public void Dispose()
    {
        Folders.Release(folder);
        Folders.Remove(folder);
    }

    [Fact]
    public async Task A_record_of_the_first_format_opens_goes_on_to_its_proof_and_closes()
    {
        await using var host = new Host(folder);
        var client = host.Browser();
        Assert.Contains("12.51 V", await client.GetStringAsync("/jobs/T-0002", Cancel), StringComparison.Ordinal);
        var checks = (await Talk.GetAsync(client, "/api/v1/jobs/T-0002/proof"))["checks"]!.AsArray();
        Assert.NotEmpty(checks);
        foreach (var check in checks)
        {
            for (var time = 0; time < check!["times"]!.GetValue<int>(); time++)
            {
                var id = check["id"]!.GetValue<string>();
                var given = await client.PostAsJsonAsync(
                    "/api/v1/jobs/T-0002/proof",
                    id.StartsWith("reading", StringComparison.Ordinal)
                        ? new
                        {
                            check = id,
                            passed = (bool?)null,
                            reading = "12.5",
                        }
                        : new
                        {
                            check = id,
                            passed = (bool?)true,
                            reading = (string?)null!,
                        },
                    Cancel
                );
                Assert.True(given.IsSuccessStatusCode, await given.Content.ReadAsStringAsync(Cancel));
            }
        }

        var closed = await client.PostAsJsonAsync("/api/v1/jobs/T-0002/close", new { note = "Runs." }, Cancel);
        closed.EnsureSuccessStatusCode();
        var job = await Talk.GetAsync(client, "/api/v1/jobs/T-0002");
        Assert.Equal("closed", job["stage"]!.GetValue<string>());
        Assert.Contains("Runs.", await client.GetStringAsync("/jobs/T-0002/sheet", Cancel), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Everything_in_it_means_what_it_meant_and_a_copy_was_kept()
    {
        await using var host = new Host(folder);
        host.Browser();
        await using var scope = host.Services.CreateAsyncScope();
        var jobs = await scope.ServiceProvider.GetRequiredService<JobStore>().ListAsync(Cancel);
        Assert.Equal(10, jobs.Count);
        Assert.All(jobs, j => Assert.Empty(j.State.Unreadable));

        // As T-0003 was told, entry by entry.
        var told = jobs.Single(j => j.Number == 3).State.History.Select(e => e.Event).ToList();
        Assert.Equal(
            [AlterationId.Bridged(new PartId("seat"), new ContactId("kill"))],
            ((ComplaintMade)told[1]).Complaint.Bridged
        );
        var lamps = ((ComplaintMade)told[1]).Complaint.Lamps;
        Assert.Equal(
            ["START", "RUN", "LIGHTS", "LIGHTS", "LIGHTS"],
            lamps.Select(l => l.Setting[new ControlId("key")].Text)
        );
        Assert.All(lamps, l => Assert.Equal(LampLook.Bright, l.Look));
        var ohms = Assert.IsType<ReadingTaken>(told[2]);
        Assert.Equal((DeadOhms.Instance.Key, "3.9"), (ohms.At.Condition.Observable, ohms.Typed));
        Assert.Equal("P2.1a", ohms.At.Red.Text);
        Assert.Equal(new HelpChanged(true), told[3]);
        Assert.Equal(new LookedAt(RepairId.OfPart(new PartId("battery")), LookFound.Green), told[4]);
        Assert.Equal(PassedOver.NotSure, Assert.IsType<TestPassedOver>(told[6]).Why);
        Assert.Equal(new PlaceId("dash"), Assert.IsType<TestPassedOver>(told[7]).Place);
        var wet = Assert.IsType<Wiggled>(told[9]);
        Assert.Equal(("joint:C1@from", WiggledBy.Wetting, true), (wet.Repair?.Text, wet.By, wet.Changed));
        Assert.Equal(
            (null, SymptomNow.NotWatched),
            (((ReadingTaken)told[10]).Figure, ((ReadingTaken)told[10]).Symptom)
        );
        Assert.Equal(new Money(24.5), Assert.IsType<PartsPriced>(told[15]).Prices[RepairId.OfPart(new PartId("key"))]);
        Assert.Equal(new RepeatsCheck(), Assert.IsType<ProofGiven>(told[20]).Check);
        var refused = Assert.IsType<RefusalCheck>(Assert.IsType<ProofGiven>(told[21]).Check);
        Assert.Equal("occupied", refused.Setting[new ControlId("seat")].Text);
        Assert.Empty(jobs.Single(j => j.Number == 3).State.OpenBypasses);

        // An open circuit was a number then.
        var open = (ReadingTaken)jobs.Single(j => j.Number == 1).State.History[3].Event;
        Assert.Equal(double.PositiveInfinity, open.Figure);

        // Nothing that was joined or off is read elsewhere than it was.
        foreach (var tag in new[] { "T-0004", "T-0005", "T-0006", "T-0007", "T-0008" })
        {
            var readings = (await Talk.GetAsync(host.Browser(), $"/api/v1/jobs/{tag}"))["readings"]!.AsArray();
            Assert.NotEmpty(readings);
            Assert.All(readings, r => Assert.True(r!["weighed"]!.GetValue<bool>(), $"{tag}: {r}"));
        }

        Assert.Contains(
            "\"quantity\":1",
            await BodyAsync(Path.Combine(folder, "pritchel-before-events-2.db"), 1, 3),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Events_of_the_second_format_are_read_and_written_letter_by_letter()
    {
        var kept = await File.ReadAllLinesAsync(
            Path.Combine(AppContext.BaseDirectory, "records", "format-2.jsonl"),
            Cancel
        );
        Assert.Equal(16, kept.Select(b => Kind().Match(b).Value).Distinct().Count());
        Assert.All(
            kept,
            body =>
            {
                var read = EventFormat.Read(body);
                Assert.IsNotType<UnreadableEvent>(read);
                Assert.Equal(body, EventFormat.Write(read));

                // Values of enumerations stand by name: no field of theirs is a number.
                Assert.DoesNotMatch(
                    "\"(heard|look|speed|symptom|why|found|by|tester|end|on|target|reads|quantity)\":[0-9]",
                    body
                );
            }
        );
    }

    [Theory]
    [InlineData("""{"kind":"help","alone":true,"v":3}""", "newer version")]
    [InlineData("""{"kind":"help","alo""", "damaged")]
    [InlineData("""{"kind":"sung","v":2}""", "damaged")]
    [InlineData("""{"kind":"look","repair":{"target":"part","name":"key"},"found":"gnawed","v":2}""", "gnawed")]
    [InlineData("null", "damaged")]
    [InlineData("", "damaged")]
    public void What_cannot_be_read_says_why(string body, string why) =>
        Assert.Contains(why, Assert.IsType<UnreadableEvent>(EventFormat.Read(body)).Why, StringComparison.Ordinal);

    private static async Task<string> BodyAsync(string file, int job, int sequence)
    {
        await using var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ToString()
        );
        await connection.OpenAsync(Cancel);
        await using var command = connection.CreateCommand();
        command.CommandText = "SELECT Body FROM JobEvents WHERE JobId = $job AND Sequence = $sequence";
        command.Parameters.AddWithValue("$job", job);
        command.Parameters.AddWithValue("$sequence", sequence);
        return (string)(await command.ExecuteScalarAsync(Cancel))!;
    }

    [GeneratedRegex("\"kind\":\"[^\"]*\"", RegexOptions.None, 1000)]
    private static partial Regex Kind();
}
