using Pritchel.Core.Circuits;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis;

/// <summary>Ohms inside couplings, which nothing outside them shows for certain.</summary>
public static partial class Conditions
{
    /// <summary>
    /// Each coupling apart, from pin to next pin: pins that touch, or that damp bridges, look from everywhere else like a
    /// fault of what their two wires lead to.
    /// </summary>
    private static IEnumerable<Condition> OfNeighbours(Circuit circuit)
    {
        var rest = circuit.Setting(null);
        foreach (var coupling in circuit.Machine.Parts.Where(p => p.Kind == PartKinds.Coupling))
        {
            var pins = coupling
                .Terminals.Where(t => t.EndsWith('a'))
                .Select(t => circuit.NodeOf($"{coupling.Id}.{t}"))
                .ToList();
            var pairs = pins.Zip(pins.Skip(1)).Where(p => p.First != p.Second).DistinctBy(p => p.First).ToList();
            if (pairs.Count > 0)
            {
                yield return Describe(circuit, rest, false) with
                {
                    Quantity = Quantity.Ohms,
                    Off = [coupling.Id],
                    MayTurnEngine = false,
                    Pairs = pairs,
                    Words = $"{coupling.Name} apart, from pin to next pin",
                };
            }
        }
    }
}
