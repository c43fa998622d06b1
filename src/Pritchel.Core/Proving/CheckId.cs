using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Proving;

/// <summary>What one check of a proof is, whatever it is called.</summary>
public abstract record CheckId
{
    /// <summary>As written on forms; only to be compared with that of another check.</summary>
    public abstract string Text { get; }
}

/// <summary>A reading that failed, taken again.</summary>
/// <param name="Condition">How things stand for it.</param>
/// <param name="Red">Under the red probe.</param>
/// <param name="Black">Under the black probe.</param>
public sealed record ReadingCheck(ConditionKey Condition, PointId Red, PointId Black) : CheckId
{
    /// <inheritdoc/>
    public override string Text =>
        $"reading {Condition.Observable} {Red} {Black}; {Condition.Setting}; {Condition.Speed}; {string.Join(' ', Condition.Off)}; {Condition.Joined}; {Condition.Tester}";
}

/// <summary>What made it come or go, done again.</summary>
/// <param name="Place">Where.</param>
/// <param name="Repair">The one joint or part that was moved, warmed or wetted; null for the whole place.</param>
/// <param name="By">How.</param>
public sealed record WiggleCheck(PlaceId Place, RepairId? Repair, WiggledBy By) : CheckId
{
    /// <inheritdoc/>
    public override string Text => $"wiggle {By} {Place} {Repair}";
}

/// <summary>The duty done several times running.</summary>
public sealed record RepeatsCheck : CheckId
{
    /// <inheritdoc/>
    public override string Text => "repeats";
}

/// <summary>The duty refused where it must be.</summary>
/// <param name="Setting">Position of every control.</param>
/// <param name="Speed">Speed that the engine is turned at.</param>
public sealed record RefusalCheck(NamedSetting Setting, DutySpeed Speed) : CheckId
{
    /// <inheritdoc/>
    public override string Text => $"refuses {Speed}; {Setting}";
}

/// <summary>The engine stopped by one of its kill paths.</summary>
/// <param name="Setting">Position of every control that must stop it.</param>
public sealed record StopCheck(NamedSetting Setting) : CheckId
{
    /// <inheritdoc/>
    public override string Text => $"stops; {Setting}";
}
