using Pritchel.Core.Rewiring;
using Pritchel.Data;

namespace Pritchel.Workshop;

/// <summary>A rewire laid out for work.</summary>
/// <param name="Entry">As listed.</param>
/// <param name="State">How it stands in the record.</param>
/// <param name="Host">The machine that is rewired.</param>
/// <param name="Donor">What comes in; null for none.</param>
/// <param name="Plan">The plan on its machines.</param>
/// <param name="Functions">What its ends and terminals are for.</param>
public sealed record OpenRewire(
    RewireEntry Entry,
    RewireState State,
    MachineVersion Host,
    MachineVersion? Donor,
    RewirePlan Plan,
    PlanFunctions Functions
)
{
    /// <summary>Its loose ends, flagged.</summary>
    public IReadOnlyList<FlaggedEnd> Ends { get; } = FlaggedEnd.Of(Plan, Functions.Ends);

    /// <summary>Lines of its splice table.</summary>
    public IReadOnlyList<SpliceLine> Lines => SpliceTable.Of(Plan, Ends);

    /// <summary>Joins proposed for what is loose.</summary>
    public IReadOnlyList<SuggestedJoin> Suggested => JoinAdvice.Suggest(Plan, Functions);

    /// <summary>What must be looked at.</summary>
    public IReadOnlyList<JoinFlag> Flags => JoinAdvice.Flags(Plan, Functions);
}
