using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Regulators;

/// <summary>What was seen and read of a regulator that nobody knows; null for what was not.</summary>
/// <param name="Leads">Leads that come to it from the winding; none where there are brushes and a wound rotor instead of magnets.</param>
/// <param name="Metal">One of them to the engine's metal, their plug apart, engine stopped.</param>
/// <param name="Apart">Alternating volts between two of them at speed, plug apart; from the one to metal where there is one.</param>
/// <param name="Plugged">The same at the same speed, plugged, on a full battery.</param>
/// <param name="Posts">Volts at the battery's posts meanwhile.</param>
public sealed record RegulatorSigns(
    int? Leads = null,
    Ohms? Metal = null,
    Volts? Apart = null,
    Volts? Plugged = null,
    Volts? Posts = null
)
{
    /// <summary>What the winding keeps of its volts once it is plugged; null where either was not read or nothing was made.</summary>
    public double? Kept => Apart is { Value: > 0 } apart && Plugged is { } plugged ? plugged.Value / apart.Value : null;
}

/// <summary>What is asked of one that nobody knows.</summary>
public enum RegulatorQuestion
{
    /// <summary>How many leads come from the winding.</summary>
    Leads,

    /// <summary>Ohms of a winding lead to metal.</summary>
    Metal,

    /// <summary>Alternating volts, apart and plugged: one without the other tells nothing.</summary>
    Kept,

    /// <summary>Volts at the battery's posts.</summary>
    Posts,
}
