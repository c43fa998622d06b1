using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>Something the operator moves: key, pedal, lever, seat.</summary>
/// <param name="Id">Short name.</param>
/// <param name="Name">In words.</param>
/// <param name="Positions">Positions by name, at least two.</param>
/// <param name="Rest">Position it is left in; one of <paramref name="Positions"/>.</param>
/// <param name="Held">Positions that spring back and must be held by hand or weight.</param>
/// <param name="Says">How a position is worded on a job: "brake down", by position name; missing means "control POSITION".</param>
/// <param name="Sensed">True where it is not moved by hand but is what a sensor feels: heat, a level, water; null otherwise.</param>
public sealed record Control(
    ControlId Id,
    string Name,
    IReadOnlyList<PositionId> Positions,
    PositionId Rest,
    IReadOnlyList<PositionId> Held,
    IReadOnlyDictionary<PositionId, string>? Says = null,
    bool? Sensed = null
)
{
    /// <summary>Number of a position, from 0; −1 when it has none of that name.</summary>
    public int IndexOf(PositionId position)
    {
        for (var p = 0; p < Positions.Count; p++)
        {
            if (Positions[p] == position)
            {
                return p;
            }
        }

        return -1;
    }

    /// <summary>How a position is said: in the file's words, or "key START".</summary>
    public string Said(PositionId position) =>
        Says is { } says && says.TryGetValue(position, out var words) ? words : $"{Name.ToLowerInvariant()} {position}";
}
