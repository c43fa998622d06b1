using BitFaster.Caching;
using BitFaster.Caching.Lru;
using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Files;
using Pritchel.Core.Rewiring;

namespace Pritchel.Workshop;

/// <summary>What was worked out of rewires and is in hand: a second or two each, so that only the last few are kept.</summary>
public sealed class RewireShelf
{
    private const int Most = 12;

    private readonly ICache<string, ProofWork> proofs = new ConcurrentLruBuilder<string, ProofWork>()
        .WithCapacity(Most)
        .WithAtomicGetOrAdd()
        .Build();

    private readonly ICache<string, PlanFunctions> functions = new ConcurrentLruBuilder<string, PlanFunctions>()
        .WithCapacity(Most)
        .WithAtomicGetOrAdd()
        .Build();

    /// <summary>The proof of a machine against what it was: begun, where nobody has asked for it yet or it was given up.</summary>
    /// <param name="after">As it will be.</param>
    /// <param name="before">As it was.</param>
    /// <param name="donor">What comes into it; null for nothing.</param>
    public ProofWork Proof(Machine after, MachineVersion before, MachineVersion? donor)
    {
        var key = before.Content + donor?.Content + MachineFile.Write(after);
        if (proofs.TryGet(key, out var known) && known.CameToNothing)
        {
            proofs.TryRemove(key);
        }

        return proofs.GetOrAdd(key, _ => new ProofWork(after, before.Circuit, donor?.Circuit));
    }

    /// <summary>What the loose ends and terminals of a plan are for: the same whatever is joined.</summary>
    public PlanFunctions Functions(RewirePlan plan, MachineVersion host, MachineVersion? donor) =>
        functions.GetOrAdd(
            string.Join(
                '\n',
                plan.Sides.Select(s =>
                    $"{(s.Key == SideKey.Host ? host : donor!).Content} {string.Join(',', s.Keeps)} {string.Join(',', s.Cuts)}"
                )
            ),
            _ => PlanFunctions.Of(plan)
        );
}
