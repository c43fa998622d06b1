using Pritchel.Core.Machines;
using Pritchel.Core.Observables;
using Pritchel.Core.Simulation;
using Pritchel.Core.Simulation.Devices;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Procedures;

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
            var pairs = pins.Zip(pins.Skip(1)).Where(p => p.First != p.Second).ToList();
            if (pairs.Count > 0)
            {
                var ohms = Describe(circuit, rest, false) with
                {
                    Quantity = Quantity.Ohms,
                    Off = [coupling.Id],
                    MayTurnEngine = false,
                    Pairs = pairs,
                    Words = $"{coupling.Name} apart, from pin to next pin",
                };
                yield return ohms;
                yield return Beeping(ohms);
            }
        }
    }

    /// <summary>The same by ear: quicker, and enough where only open or closed is asked.</summary>
    private static Condition Beeping(Condition ohms) => ohms with { Quantity = Quantity.Beep };

    /// <summary>
    /// Pairs dealt out so that in each hand no point is red twice, nor red for one pair and black for another: a condition
    /// keeps one figure for each red point.
    /// </summary>
    private static List<List<(int Red, int Black)>> Apart(IEnumerable<(int Red, int Black)> pairs)
    {
        var hands = new List<List<(int Red, int Black)>>();
        foreach (var (red, black) in pairs)
        {
            var hand = hands.Find(h => h.TrueForAll(p => p.Red != red && p.Black != red && p.Red != black));
            if (hand is null)
            {
                hands.Add(hand = []);
            }

            hand.Add((red, black));
        }

        return hands;
    }
}
