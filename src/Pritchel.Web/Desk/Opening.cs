using Pritchel.Core.Machines;
using Pritchel.Data;

namespace Pritchel.Web.Desk;

/// <summary>Opens the record before the first request, adds shipped machines and demo jobs, and warms the predictions.</summary>
public sealed class Opening(IServiceProvider services, StartOptions options, Workshop workshop, ILogger<Opening> log)
    : IHostedService
{
    /// <inheritdoc/>
    public async Task StartAsync(CancellationToken cancellationToken)
    {
        await using var scope = services.CreateAsyncScope();
        await RecordFile.PrepareAsync(
            scope.ServiceProvider.GetRequiredService<PritchelContext>(),
            options.DataFolder,
            cancellationToken
        );
        var machines = scope.ServiceProvider.GetRequiredService<MachineStore>();
        await AddShippedAsync(machines, cancellationToken);
        if (options.Demo)
        {
            await DemoJobs.AddAsync(scope.ServiceProvider, cancellationToken);
        }

        foreach (var entry in await machines.ListAsync(cancellationToken))
        {
            var json = await machines.JsonAsync(entry.Id, entry.Version, cancellationToken);
            _ = Task.Run(() => Warm(entry, json!), CancellationToken.None);
        }
    }

    /// <inheritdoc/>
    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    private async Task AddShippedAsync(MachineStore machines, CancellationToken cancel)
    {
        var folder = Path.Combine(AppContext.BaseDirectory, "machines");
        foreach (
            var file in Directory
                .EnumerateFiles(folder, "*.json")
                .Where(f => !f.EndsWith(".schema.json", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal)
        )
        {
            await using var stream = File.OpenRead(file);
            var reading = MachineFile.Read(stream);
            if (reading.Machine is { } machine)
            {
                await machines.AddAsync(machine, cancel);
            }
            else
            {
                log.LogError(
                    "Shipped machine {File} was refused: {Problem}",
                    Path.GetFileName(file),
                    reading.Problems[0]
                );
            }
        }
    }

    private void Warm(MachineEntry entry, string json)
    {
        var circuit = workshop.Circuit(entry.Id, entry.Version, json);
        if (circuit.Machine.Duties.Count > 0)
        {
            workshop.Kit(entry.Id, entry.Version, circuit, circuit.Machine.Duties[0].Id, []);
        }
    }
}
