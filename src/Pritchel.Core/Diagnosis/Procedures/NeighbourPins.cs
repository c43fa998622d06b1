using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis.Procedures;

/// <summary>
/// Each coupling apart, from pin to next pin: pins that touch, or that damp bridges, look from everywhere else like a fault
/// of what their two wires lead to.
/// </summary>
public sealed class NeighbourPins : Procedure
{
    /// <inheritdoc/>
    public override string Key => "neighbour-pins";

    /// <inheritdoc/>
    public override string Why => "pins that touch look from everywhere else like a fault of what they lead to";

    /// <inheritdoc/>
    public override int Rank => 800;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested)
    {
        foreach (var coupling in tested.Circuit.PartsThat(Simulation.PartTraits.ComesApart))
        {
            var pins = Cavity.Of(coupling).Select(c => tested.Circuit.NodeOf(c.A)).ToList();
            var pairs = pins.Zip(pins.Skip(1)).Where(p => p.First != p.Second).ToList();
            if (pairs.Count > 0)
            {
                var ohms = tested.Dead(
                    tested.Rest,
                    [coupling.Id],
                    pairs,
                    $"{coupling.Name} apart, from pin to next pin"
                );
                yield return ohms;
                yield return TestedDuty.ByEar(ohms);
            }
        }
    }
}

/// <summary>What a device of the machine has of tests of its own.</summary>
public sealed class OwnTests : Procedure
{
    /// <inheritdoc/>
    public override string Key => "own-tests";

    /// <inheritdoc/>
    public override string Why => "a test that only this part has";

    /// <inheritdoc/>
    public override int Rank => 900;

    /// <inheritdoc/>
    public override IEnumerable<Condition> For(TestedDuty tested) =>
        tested.Circuit.Devices.OfType<IOwnTests>().SelectMany(d => d.Tests(tested));
}
