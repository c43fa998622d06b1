using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines.Files;
using Pritchel.Data;

namespace Pritchel.Web.Tests;

/// <summary>The record keeps what it acknowledged.</summary>
public sealed class RecordTests
{
    [Fact]
    public async Task A_record_opened_again_holds_the_same_history_and_shows_the_same_page()
    {
        var folder = Directory.CreateTempSubdirectory("pritchel-record").FullName;
        string tag,
            before;
        await using (var first = new Host(folder))
        {
            var client = first.Browser();
            tag = await Talk.OpenJobAsync(client);
            await Talk.PostFormAsync(
                client,
                $"/jobs/{tag}",
                $"/jobs/{tag}?handler=Reading",
                ("Typed", "0.01"),
                ("Symptom", "Present")
            );
            before = (await Talk.GetAsync(client, $"/api/v1/jobs/{tag}/next-test")).ToJsonString();
        }

        await using (var second = new Host(folder))
        {
            Assert.Equal(
                before,
                (await Talk.GetAsync(second.Browser(), $"/api/v1/jobs/{tag}/next-test")).ToJsonString()
            );
        }

        Folders.Release(folder);
        Folders.Remove(folder);
    }

    [Fact]
    public async Task Of_two_writers_after_the_same_event_one_is_told_and_nothing_is_overwritten()
    {
        await using var host = new Host();
        var tag = await Talk.OpenJobAsync(host.Browser());
        var number = JobStore.NumberOf(tag)!.Value;
        var outcomes = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(async i =>
                {
                    await using var scope = host.Services.CreateAsyncScope();
                    return await scope
                        .ServiceProvider.GetRequiredService<JobStore>()
                        .AppendAsync(number, 2, [new HelpChanged(i % 2 == 0)]);
                })
        );
        Assert.Equal(1, outcomes.Count(o => o));
        await using var reading = host.Services.CreateAsyncScope();
        var job = await reading.ServiceProvider.GetRequiredService<JobStore>().FindAsync(number);
        Assert.Equal([1, 2, 3], job!.State.History.Select(e => e.Sequence));
    }

    [Fact]
    public async Task A_job_keeps_the_machine_version_it_was_opened_on()
    {
        await using var host = new Host();
        var tag = await Talk.OpenJobAsync(host.Browser());
        await using var scope = host.Services.CreateAsyncScope();
        var machines = scope.ServiceProvider.GetRequiredService<MachineStore>();
        var machine = MachineFile.Read((await machines.JsonAsync("orchard-tractor-4", 1))!).Machine!;
        Assert.Equal(1, (await machines.AddAsync(machine)).Version);
        Assert.Equal(2, (await machines.AddAsync(machine with { Name = "Orchard tractor, repainted" })).Version);
        Assert.Contains(
            "Orchard tractor No. 4",
            await host.Browser().GetStringAsync($"/jobs/{tag}"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_record_is_migrated_in_a_write_ahead_log_with_foreign_keys()
    {
        await using var host = new Host();
        host.Browser();
        await using var scope = host.Services.CreateAsyncScope();
        var context = scope.ServiceProvider.GetRequiredService<PritchelContext>();
        Assert.Empty(await context.Database.GetPendingMigrationsAsync());
        Assert.Equal(
            "wal",
            await context
                .Database.SqlQueryRaw<string>("SELECT journal_mode AS Value FROM pragma_journal_mode")
                .SingleAsync()
        );
        Assert.Equal(
            1,
            await context
                .Database.SqlQueryRaw<int>("SELECT foreign_keys AS Value FROM pragma_foreign_keys")
                .SingleAsync()
        );
    }
}
