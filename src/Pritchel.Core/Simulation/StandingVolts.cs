namespace Pritchel.Core.Simulation;

/// <summary>
/// What stands at each node of a settled state, as a meter would find it: direct volts above where volts are measured from,
/// or alternating ones, or nothing where it floats or hangs on leakage, which a meter pulls away.
/// </summary>
public sealed class StandingVolts
{
    // A meter of ten megohms takes a tenth of the volts behind this.
    private const double LeakSiemens = 1e-6;
    private const double LeastAlternating = 1;
    private readonly CircuitState state;
    private readonly HashSet<int> firm;

    /// <summary>Looks at a state as it stands; it must not move while this is asked.</summary>
    public StandingVolts(CircuitState state)
    {
        this.state = state;
        var network = state.Circuit.Network;
        var joined = network
            .Branches.Select((b, i) => (b.From, b.To, Siemens: state.Conductances[i]))
            .Concat(network.Sources.Select((s, i) => (s.From, s.To, Siemens: state.SourceConductances[i])))
            .Where(j => j.Siemens >= LeakSiemens)
            .Select(j => (j.From, j.To));
        firm = NodeLinks.Reached([network.Reference], NodeLinks.Both(joined));
    }

    /// <summary>Direct volts, the mean while waves run; null where the node floats or hangs on leakage.</summary>
    public double? Direct(int node)
    {
        // Along a wave diodes open and close: what any of its steps joins is joined.
        var reference = state.Circuit.Reference;
        var stands = state.IsTurning ? state.Joined(node, reference) : firm.Contains(node);
        return stands ? state.Drop(node, reference) : null;
    }

    /// <summary>
    /// Alternating volts, root mean square, where they are what stands there; above where volts are measured from, or, of a
    /// node that floats, above the others of its part. Null elsewhere, and without waves.
    /// </summary>
    public double? Alternating(int node)
    {
        if (!state.IsTurning)
        {
            return null;
        }

        var circuit = state.Circuit;
        var direct = Direct(node);
        var others = direct is not null
            ? [circuit.Reference]
            : circuit
                .TerminalsAt(node)
                .SelectMany(t => circuit.Machine.Index.PartAt(t)!.Addresses)
                .Where(a => circuit.HasNode(a))
                .Select(a => circuit.NodeOf(a));
        var volts = others.Select(o => state.Alternating(node, o)).DefaultIfEmpty(0).Max();
        return volts >= Math.Max(LeastAlternating, Math.Abs(direct ?? 0)) ? volts : null;
    }
}
