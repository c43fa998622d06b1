using Pritchel.Core.Machines;
using Pritchel.Core.Rewiring;
using Pritchel.Core.Simulation;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>Proves a machine that is being drawn before it is saved.</summary>
public sealed class DraftProving(MachineStore machines, MachineShelf shelf)
{
    /// <summary>The proof of a machine that lacks nothing, against its newest saved version where there is one.</summary>
    /// <param name="now">The machine as drawn.</param>
    /// <param name="cancel">Gives it up.</param>
    public async Task<DesignProof> ProveAsync(Machine now, CancellationToken cancel)
    {
        var saved = await machines.FindAsync(now.Id.Text, cancel);
        return DesignProof.Of(Circuit.Compile(now), saved is null ? null : await CircuitAsync(saved), cancel: cancel);
    }

    /// <summary>A saved version's circuit; null where its file cannot be read here, and so nothing be compared with it.</summary>
    private async Task<Circuit?> CircuitAsync(MachineEntry saved)
    {
        try
        {
            return (await shelf.FindAsync(saved.Id, saved.Version)).Circuit;
        }
        catch (UnreadableMachineException)
        {
            return null;
        }
    }
}
