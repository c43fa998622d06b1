namespace Pritchel.Core.Simulation;

/// <summary>
/// What stands firm in a state: joined to where volts are measured from by more than leakage. The rest has volts only until a
/// meter touches it.
/// </summary>
public sealed class FirmMetal
{
    // A meter of ten megohms takes a tenth of the volts behind this.
    private const double LeakSiemens = 1e-6;
    private readonly HashSet<int> firm;

    private FirmMetal(HashSet<int> firm) => this.firm = firm;

    /// <summary>Whether a node stands firm.</summary>
    public bool Contains(int node) => firm.Contains(node);

    /// <summary>Finds it, as a state stands.</summary>
    public static FirmMetal Of(CircuitState state)
    {
        var network = state.Circuit.Network;
        var branches = network.Branches.Select((b, i) => (b.From, b.To, Siemens: state.Conductances[i]));
        var sources = network.Sources.Select((s, i) => (s.From, s.To, Siemens: state.SourceConductances[i]));
        var joins = branches
            .Concat(sources)
            .Where(j => j.Siemens >= LeakSiemens)
            .SelectMany(j => new[] { (A: j.From, B: j.To), (A: j.To, B: j.From) })
            .ToLookup(j => j.A, j => j.B);
        var firm = new HashSet<int> { network.Reference };
        var open = new Queue<int>(firm);
        while (open.TryDequeue(out var node))
        {
            foreach (var next in joins[node].Where(firm.Add))
            {
                open.Enqueue(next);
            }
        }

        return new FirmMetal(firm);
    }
}
