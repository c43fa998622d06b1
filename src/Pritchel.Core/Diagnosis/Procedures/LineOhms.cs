using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>
/// Ohms from every point of the duty's line to battery negative with the battery off: the way on from places where nobody
/// probes while an engine may turn, and by one person alone.
/// </summary>
public sealed class LineOhms : Procedure
{
    /// <inheritdoc/>
    public override string Key => "line-ohms";

    /// <inheritdoc/>
    public override string Why => "where nobody probes while an engine may turn, a dead circuit still shows a break";

    /// <inheritdoc/>
    public override int Rank => 500;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        if (!tested.HasLine)
        {
            yield break;
        }

        var circuit = tested.Circuit;
        var nodes = tested
            .LineParts.Reverse()
            .SelectMany(p => tested.Line(p).Nodes)
            .Where(n => n != circuit.Reference)
            .Distinct()
            .ToList();
        if (nodes.Count == 0)
        {
            yield break;
        }

        var toNegative = nodes.Select(n => (n, circuit.Reference)).ToList();
        foreach (var pairs in Within(circuit, nodes).Prepend(toNegative))
        {
            yield return tested.Dead(tested.Rest, [], pairs, tested.Rest.Words(tested.Machine));
        }
    }

    /// <summary>
    /// Terminals of the parts of a line that lie in one place where nobody probes while an engine may turn, each to each
    /// other: nothing else has to be opened for them.
    /// </summary>
    private static IEnumerable<List<(int Red, int Black)>> Within(Circuit circuit, List<int> line) =>
        circuit
            .Machine.Parts.Where(p => !circuit.Is(p.Id, PartTraits.IsMetal | PartTraits.IsSplice))
            .Select(p => (Part: p, Nodes: p.Addresses.Select(a => circuit.NodeOf(a)).ToList()))
            .Where(p => p.Nodes.Exists(line.Contains))
            .GroupBy(p => MachineWords.PlaceOf(circuit.Machine, p.Part))
            .Where(g => !g.Key.EngineMayTurn)
            .Select(g => g.SelectMany(p => p.Nodes).Distinct().ToList())
            .SelectMany(nodes => Wiring.Pairs(nodes, circuit.Reference));
}
