using Pritchel.Core.Identity;

namespace Pritchel.Core.Faults;

/// <summary>A path that a fault lays between two places.</summary>
/// <param name="From">One end.</param>
/// <param name="To">The other.</param>
/// <param name="FixedOhms">Its resistance, or null when that is the fault's severity.</param>
/// <param name="BreaksDownAt">Volts under which it is open: a track or gap that only ignition jumps. Zero conducts always.</param>
/// <param name="Through">Coupling whose halves it joins, apart when that is; null for none.</param>
public sealed record LaidPath(
    PointId From,
    PointId To,
    double? FixedOhms = null,
    double BreaksDownAt = 0,
    PartId? Through = null
);
