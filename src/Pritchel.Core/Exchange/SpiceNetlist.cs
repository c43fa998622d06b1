using System.Globalization;
using System.Text;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Exchange;

/// <summary>
/// A solved case as a SPICE netlist: every branch as it stands (contacts, relays and motors in their settled
/// states) and every source, for checking by another simulator.
/// </summary>
public static class SpiceNetlist
{
    // Ties nodes that nothing else holds, so that another simulator's matrix is not singular. Far above any real leak.
    private const double FloatOhms = 1e12;

    /// <summary>Writes the netlist of a state after <see cref="CircuitState.Move"/>.</summary>
    /// <param name="state">A settled state.</param>
    /// <param name="title">First line.</param>
    /// <returns>Netlist text without control commands; node n is "n7", the reference is "0".</returns>
    public static string Write(CircuitState state, string title)
    {
        var circuit = state.Circuit;
        var text = new StringBuilder();
        text.Append("* ").Append(title.ReplaceLineEndings(" ")).Append('\n');
        for (var n = 0; n < circuit.Network.NodeCount; n++)
        {
            text.Append("* ")
                .Append(NodeName(circuit, n))
                .Append(" = ")
                .AppendJoin(", ", circuit.NodePoints[n])
                .Append('\n');
        }

        for (var b = 0; b < circuit.Network.Branches.Count; b++)
        {
            var (branch, siemens) = (circuit.Network.Branches[b], state.Conductances[b]);
            if (siemens > 0 && branch.From != branch.To)
            {
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"Rb{b} {NodeName(circuit, branch.From)} {NodeName(circuit, branch.To)} {1 / siemens:R} ; {circuit.BranchKeys[b]}\n"
                );
            }
        }

        for (var s = 0; s < circuit.Network.Sources.Count; s++)
        {
            var (source, siemens) = (circuit.Network.Sources[s], state.SourceConductances[s]);
            if (siemens > 0)
            {
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"Vs{s} s{s} {NodeName(circuit, source.To)} {state.Emfs[s]:R} ; {circuit.SourceKeys[s]}\n"
                );
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"Rs{s} {NodeName(circuit, source.From)} s{s} {1 / siemens:R}\n"
                );
            }
        }

        for (var n = 0; n < circuit.Network.NodeCount; n++)
        {
            if (!state.Joined(n, circuit.Reference))
            {
                text.Append(CultureInfo.InvariantCulture, $"Rf{n} {NodeName(circuit, n)} 0 {FloatOhms:R}\n");
            }
        }

        return text.ToString();
    }

    /// <summary>Name of a node in the netlist.</summary>
    public static string NodeName(Circuit circuit, int node) =>
        node == circuit.Reference ? "0" : "n" + node.ToString(CultureInfo.InvariantCulture);
}
