using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Metering;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>
/// Opens the record before the first request and adds shipped machines and demo jobs; then lets what will be asked for be
/// worked out ahead.
/// </summary>
public sealed class Opening(
    IServiceProvider services,
    WorkshopOptions options,
    RecordHealth health,
    MachineShelf shelf,
    Predictor predictor,
    ILogger<Opening> log
) : IHostedService, IDisposable
{
    private readonly CancellationTokenSource stopping = new();
    private IDisposable? inUse;

    /// <inheritdoc/>
    public async Task StartAsync(CancellationToken cancellationToken)
    {
        if (options.Restore is { } backup)
        {
            var replaced = await RecordFile.RestoreAsync(options.DataFolder, backup, cancellationToken);
            log.LogWarning(
                "{Backup} has taken the record's place; what it replaces is kept as {Replaced}.",
                backup,
                replaced
            );
        }

        var damage = await RecordFile.PrepareAsync(options.DataFolder, cancellationToken);
        inUse = RecordFile.Hold(options.DataFolder);
        if (damage is not null)
        {
            health.Tell(damage);
            log.LogError("The record's file is damaged ({Damage}): it is read only, and nothing is written.", damage);
            return;
        }

        await using var scope = services.CreateAsyncScope();
        await AddShippedAsync(scope.ServiceProvider.GetRequiredService<MachineStore>(), cancellationToken);
        if (options.Demo)
        {
            await DemoJobs.AddAsync(scope.ServiceProvider, cancellationToken);
        }

        _ = Task.Run(() => services.GetRequiredService<SetAside>().LookAsync(stopping.Token), CancellationToken.None);
        if (options.WorksAhead)
        {
            _ = Task.Run(() => WorkAheadAsync(stopping.Token), CancellationToken.None);
        }
    }

    /// <inheritdoc/>
    public async Task StopAsync(CancellationToken cancellationToken)
    {
        try
        {
            await stopping.CancelAsync();
        }
        catch (ObjectDisposedException)
        {
            // Whoever runs the host may dispose of it while whoever stopped it still asks its services, one by one.
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        stopping.Dispose();
        inUse?.Dispose();
    }

    private async Task AddShippedAsync(MachineStore machines, CancellationToken cancel)
    {
        var had = await machines.IdsAsync(cancel);
        foreach (var (file, reading) in ShippedMachines.Read(had))
        {
            if (reading.Machine is { } machine)
            {
                // One that is here already may be the owner's own by now: it is left as it is.
                if (!had.Contains(machine.Id.Text))
                {
                    await machines.AddAsync(machine, cancel);
                }
            }
            else
            {
                log.LogError("Shipped machine {File} was refused: {Problem}", file, reading.Problems[0]);
            }
        }
    }

    /// <summary>
    /// Tables of the machines in the record: of all their files' duties first, which are what most complaints are of, then of
    /// what was found by solving them.
    /// </summary>
    private async Task WorkAheadAsync(CancellationToken cancel)
    {
        try
        {
            var (all, meter) = await FindAsync(cancel);
            foreach (var machine in all)
            {
                Turn(machine.Circuit);
            }

            var most = all.Select(m => m.Symptoms.Count).DefaultIfEmpty(0).Max();
            for (var d = 0; d < most && !cancel.IsCancellationRequested; d++)
            {
                foreach (var machine in all.Where(m => d < m.Symptoms.Count))
                {
                    predictor.Ahead(machine, Likeliest(machine)[d], meter);
                }
            }
        }
#pragma warning disable CA1031 // Working ahead is a kindness: without it everything is worked out when it is asked for.
        catch (Exception e)
#pragma warning restore CA1031
        {
            log.LogWarning(e, "Nothing more is worked out ahead.");
        }
    }

    private async Task<(List<MachineVersion> Machines, Meter Meter)> FindAsync(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var all = new List<MachineVersion>();
        foreach (var entry in await scope.ServiceProvider.GetRequiredService<MachineStore>().ListAsync(cancel))
        {
            try
            {
                all.Add(await shelf.FindAsync(entry.Id, entry.Version));
            }
            catch (UnreadableMachineException e)
            {
                log.LogWarning(e, "Machine {Id} is set aside.", entry.Id);
            }
        }

        return (all, await scope.ServiceProvider.GetRequiredService<MeterStore>().GetAsync(cancel));
    }

    private static List<DutyId> Likeliest(MachineVersion machine) =>
        [
            .. machine
                .Machine.Duties.Select(d => d.Id)
                .Concat(
                    machine
                        .Symptoms.OrderBy(s => s.Group == CircuitGroup.Protection || s.Duty.OnTheWay.Count > 0)
                        .Select(s => s.Duty.Id)
                )
                .Distinct(),
        ];

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
                    Speeds = circuit.Engines.ToDictionary(e => e.Id, e => new Rpm(e.WorkRpm)),
                }
            );
        }
    }
}
