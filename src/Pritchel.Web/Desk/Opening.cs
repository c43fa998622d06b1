using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
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

        var open = (await scope.ServiceProvider.GetRequiredService<JobStore>().ListAsync(cancellationToken))
            .Where(j => j.State.Closed is null && j.State.Complaint is not null)
            .ToList();
        var warming = new List<(MachineEntry Entry, string Json)>();
        foreach (var entry in await machines.ListAsync(cancellationToken))
        {
            warming.Add((entry, (await machines.JsonAsync(entry.Id, entry.Version, cancellationToken))!));
        }

        _ = Task.Run(() => Warm(open, warming), CancellationToken.None);
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
                // One that is here already may be the owner's own by now: it is left as it is.
                if (await machines.FindAsync(machine.Id, cancel) is null)
                {
                    await machines.AddAsync(machine, cancel);
                }
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

    /// <summary>Predictions of open jobs first, since they take seconds; then every machine, compiled.</summary>
    private void Warm(List<Job> open, List<(MachineEntry Entry, string Json)> machines)
    {
        foreach (var (entry, json) in machines)
        {
            var circuit = workshop.Circuit(entry.Id, entry.Version, json);
            foreach (
                var complaint in open.Where(j =>
                        string.Equals(j.MachineId, entry.Id, StringComparison.Ordinal)
                        && j.MachineVersion == entry.Version
                    )
                    .Select(j => j.State.Complaint!)
            )
            {
                workshop.Kit(entry.Id, entry.Version, circuit, complaint);
            }
        }

        foreach (var (entry, json) in machines)
        {
            var circuit = workshop.Circuit(entry.Id, entry.Version, json);
            workshop.Symptoms(entry.Id, entry.Version, circuit);
            Turn(circuit);
        }
    }

    /// <summary>Solves a machine at speed once or twice, so that the first page to ask does not wait for the compiler.</summary>
    private static void Turn(Circuit circuit)
    {
        for (var tries = 0; tries < 2; tries++)
        {
            Outcome.Of(
                new Case
                {
                    Circuit = circuit,
                    Settings = [circuit.Setting(null)],
                    Speeds = circuit.Engines.ToDictionary(e => e.Id, e => new Rpm(e.WorkRpm), StringComparer.Ordinal),
                }
            );
        }
    }
}
