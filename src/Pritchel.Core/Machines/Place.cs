using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>A place on the machine and what it costs to get there.</summary>
/// <param name="Id">Short name, referred to by parts and wire ends.</param>
/// <param name="Name">In words: "left fender, behind the battery".</param>
/// <param name="Zone">Part of the machine, for grouping.</param>
/// <param name="Minutes">Minutes to reach it the first time.</param>
/// <param name="EngineMayTurn">Whether the engine may turn while someone tests here.</param>
/// <param name="Opens">What must come off, or null when nothing.</param>
public sealed record Place(
    PlaceId Id,
    string Name,
    string Zone,
    double Minutes,
    bool EngineMayTurn,
    string? Opens = null
);
