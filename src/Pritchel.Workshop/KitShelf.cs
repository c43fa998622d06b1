using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Pritchel.Core.Jobs;

namespace Pritchel.Workshop;

/// <summary>Predictions in memory, as many as there is room for: what is used least goes first, and the one put in last stays.</summary>
/// <param name="mostBytes">How many bytes they may take together.</param>
internal sealed class KitShelf(long mostBytes)
{
    // Small ones are not kept without end either.
    private const int MostKits = 24;

    private readonly ICache<string, DiagnosisKit> kits = new ConcurrentLruBuilder<string, DiagnosisKit>()
        .WithCapacity(MostKits)
        .Build();

    private readonly Lock trimming = new();

    /// <summary>What is known by a key, or null.</summary>
    public DiagnosisKit? Find(string key) => kits.TryGet(key, out var kit) ? kit : null;

    /// <summary>Takes one off.</summary>
    public void Remove(string key) => kits.TryRemove(key);

    /// <summary>Puts one on, in place of what was known by its key.</summary>
    public void Put(string key, DiagnosisKit kit)
    {
        lock (trimming)
        {
            kits.AddOrUpdate(key, kit);
            for (var left = kits.Count; left > 1 && kits.Sum(k => k.Value.Table.Bytes) > mostBytes; left--)
            {
                kits.Policy.Eviction.Value!.Trim(1);
            }
        }
    }
}
