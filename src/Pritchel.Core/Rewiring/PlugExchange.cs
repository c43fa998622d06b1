using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring;

/// <summary>
/// Two couplings that may be mistaken for each other: the same cavities, and so near that the half of one can be pushed into the
/// other. Whether their bodies let it, only a look tells.
/// </summary>
/// <param name="One">The first, in the order of the machine's file.</param>
/// <param name="Other">The other.</param>
public sealed record PlugExchange(Part One, Part Other)
{
    /// <summary>All such pairs of a machine.</summary>
    public static IEnumerable<PlugExchange> Of(Machine machine)
    {
        var couplings = machine
            .Parts.Select(p => (Part: p, Cavities: Cavity.Of(p).Select(c => c.Name).ToHashSet(StringComparer.Ordinal)))
            .Where(p => p.Cavities.Count > 1)
            .ToList();
        return couplings.SelectMany(
            (one, i) =>
                couplings
                    .Skip(i + 1)
                    .Where(other => one.Cavities.SetEquals(other.Cavities) && Zone(one.Part) == Zone(other.Part))
                    .Select(other => new PlugExchange(one.Part, other.Part))
        );

        string Zone(Part part) => MachineWords.PlaceOf(machine, part).Zone;
    }

    /// <summary>The machine with each half pushed into the other's place: every lead of one side in the cavity of the same name.</summary>
    public Machine In(Machine machine)
    {
        const int MovedSide = 1;
        return new LeadExchange([
            .. One.Terminals.Where(t => Cavity.SideOf(t) == MovedSide).Select(t => (One.At(t), Other.At(t))),
        ]).In(machine);
    }
}
