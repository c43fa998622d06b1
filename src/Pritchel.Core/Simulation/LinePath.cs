using Pritchel.Core.Identity;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>One conducting piece of a line: a wire, joint, contact, coil.</summary>
/// <param name="Of">What conducts.</param>
/// <param name="Role">What it is to whoever follows the line.</param>
/// <param name="From">Node nearer battery positive.</param>
/// <param name="To">Node nearer battery negative.</param>
public sealed record LinePiece(Element Of, BranchRole Role, int From, int To)
{
    /// <summary>Whether it conducts as things stand: a contact that is open in another setting does not.</summary>
    /// <param name="state">A state of its circuit that has settled.</param>
    public bool Conducts(CircuitState state)
    {
        var circuit = state.Circuit;
        for (var b = 0; b < circuit.BranchKeys.Count; b++)
        {
            if (circuit.BranchKeys[b].Of.Equals(Of) && state.Conductances[b] > 0)
            {
                return true;
            }
        }

        return false;
    }
}

/// <summary>
/// The way the current takes in one setting from battery positive through one part and back to battery negative,
/// as a row of pieces. Found by following the largest current of the sound machine up and down from that part.
/// </summary>
public sealed class LinePath
{
    private LinePath(PartId? part, IReadOnlyList<LinePiece> pieces)
    {
        Part = part;
        Pieces = pieces;
    }

    /// <summary>Part the line runs through; null for a line between two points.</summary>
    public PartId? Part { get; }

    /// <summary>Pieces in order from battery positive.</summary>
    public IReadOnlyList<LinePiece> Pieces { get; }

    /// <summary>Nodes in order from battery positive to battery negative.</summary>
    public IEnumerable<int> Nodes => Pieces.Count == 0 ? [] : Pieces.Select(p => p.From).Append(Pieces[^1].To);

    /// <summary>Lays out the line through a part.</summary>
    /// <param name="circuit">The circuit.</param>
    /// <param name="setting">A setting in which the sound machine feeds the part.</param>
    /// <param name="partId">The part.</param>
    /// <returns>The line; without pieces when no current runs through the part in that setting.</returns>
    public static LinePath Through(Circuit circuit, ControlSetting setting, PartId partId)
    {
        var state = new CircuitState(circuit);
        state.Begin(circuit.NominalParameters());
        state.Move(setting);
        var flows = Flows(circuit, state).ToList();
        var own = flows
            .Where(f => f.Piece.Of.Owner.Part == partId)
            .OrderByDescending(f => f.Piece.Role == BranchRole.Coil)
            .ThenByDescending(f => f.Amps)
            .FirstOrDefault();
        if (own is null)
        {
            return new LinePath(partId, []);
        }

        var battery = circuit.PartsThat(PartTraits.StoresCharge).First();
        var top = circuit.NodeOf(battery.At("+"));
        var up = Follow(flows, own.Piece.From, top, f => f.Piece.To, f => f.Piece.From);
        var down = Follow(flows, own.Piece.To, circuit.Reference, f => f.Piece.From, f => f.Piece.To);
        up.Reverse();
        return new LinePath(partId, [.. up, own.Piece, .. down]);
    }

    /// <summary>Lays out the way of least resistance between two points, as contacts stand: a kill circuit, a ground.</summary>
    /// <param name="state">A state that has settled.</param>
    /// <param name="part">Part whose own branches are left out; null for none.</param>
    /// <param name="from">Node it begins at.</param>
    /// <param name="to">Node it ends at.</param>
    /// <returns>The line; without pieces when nothing joins the two.</returns>
    public static LinePath Between(CircuitState state, PartId? part, int from, int to)
    {
        var circuit = state.Circuit;
        var joins = circuit
            .Network.Branches.Select(
                (b, i) => (b.From, b.To, Ohms: 1 / state.Conductances[i], Key: circuit.BranchKeys[i])
            )
            .Where(b => double.IsFinite(b.Ohms) && (part is null || b.Key.Of.Owner.Part != part))
            .SelectMany(b => new[] { b, (From: b.To, To: b.From, b.Ohms, b.Key) })
            .ToLookup(b => b.From);
        var (best, came) = (new Dictionary<int, double> { [from] = 0 }, new Dictionary<int, LinePiece>());
        var next = new PriorityQueue<int, double>([(from, 0)]);
        while (next.TryDequeue(out var node, out var ohms))
        {
            foreach (var join in joins[node])
            {
                if (ohms + join.Ohms < best.GetValueOrDefault(join.To, double.PositiveInfinity))
                {
                    best[join.To] = ohms + join.Ohms;
                    came[join.To] = new LinePiece(join.Key.Of, join.Key.Role, node, join.To);
                    next.Enqueue(join.To, best[join.To]);
                }
            }
        }

        var pieces = new List<LinePiece>();
        for (var node = to; node != from && came.TryGetValue(node, out var piece); node = piece.From)
        {
            pieces.Insert(0, piece);
        }

        return new LinePath(part, pieces);
    }

    private static List<LinePiece> Follow(
        List<Flow> flows,
        int start,
        int goal,
        Func<Flow, int> near,
        Func<Flow, int> far
    )
    {
        var pieces = new List<LinePiece>();
        var visited = new HashSet<int> { start };
        for (var node = start; node != goal; )
        {
            var next = flows.Where(f => near(f) == node && !visited.Contains(far(f))).MaxBy(f => f.Amps);
            if (next is null)
            {
                break;
            }

            pieces.Add(next.Piece);
            node = far(next);
            visited.Add(node);
        }

        return pieces;
    }

    private static IEnumerable<Flow> Flows(Circuit circuit, CircuitState state)
    {
        const double LeastAmps = 1e-4;
        for (var b = 0; b < circuit.Network.Branches.Count; b++)
        {
            var amps = state.Through(new BranchId(b));
            if (Math.Abs(amps) > LeastAmps)
            {
                yield return Flow.Of(
                    circuit.BranchKeys[b],
                    circuit.Network.Branches[b].From,
                    circuit.Network.Branches[b].To,
                    amps
                );
            }
        }

        for (var s = 0; s < circuit.Network.Sources.Count; s++)
        {
            // A motor's back-e.m.f. is a source that current runs into; the battery's own is where lines end.
            var (source, key) = (circuit.Network.Sources[s], new BranchKey(circuit.SourceKeys[s], BranchRole.Other));
            var volts = state.Drop(source.From, source.To);
            var amps = (volts - state.Emfs[s]) * state.SourceConductances[s];
            if (amps > LeastAmps)
            {
                yield return Flow.Of(key, source.From, source.To, amps);
            }
        }
    }

    private sealed record Flow(LinePiece Piece, double Amps)
    {
        public static Flow Of(BranchKey key, int from, int to, double amps) =>
            amps > 0
                ? new(new LinePiece(key.Of, key.Role, from, to), amps)
                : new(new LinePiece(key.Of, key.Role, to, from), -amps);
    }
}
