using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Microsoft.Extensions.DependencyInjection;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>The last few machines used, compiled.</summary>
/// <param name="scopes">Opens the record.</param>
/// <param name="tables">Where what was worked out of a machine is kept.</param>
public sealed class MachineShelf(IServiceScopeFactory scopes, TableFolder tables)
{
    private const int Most = 48;

    private readonly IAsyncCache<(string Id, int Version), MachineVersion> machines = new ConcurrentLruBuilder<
        (string Id, int Version),
        MachineVersion
    >()
        .WithCapacity(Most)
        .WithAtomicGetOrAdd()
        .AsAsyncCache()
        .Build();

    /// <summary>A version of a machine that is in the record.</summary>
    /// <exception cref="UnreadableMachineException">Its file cannot be read here.</exception>
    public async Task<MachineVersion> FindAsync(string id, int version) =>
        await machines.GetOrAddAsync((id, version), CompileAsync);

    private async Task<MachineVersion> CompileAsync((string Id, int Version) wanted)
    {
        await using var scope = scopes.CreateAsyncScope();
        var json = await scope.ServiceProvider.GetRequiredService<MachineStore>().JsonAsync(wanted.Id, wanted.Version);
        return json is null
            ? throw new UnreadableMachineException(wanted.Id, wanted.Version)
            : MachineVersion.Compile(wanted.Id, wanted.Version, json, tables);
    }
}
