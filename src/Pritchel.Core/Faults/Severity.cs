using Pritchel.Core.Networks;

namespace Pritchel.Core.Faults;

/// <summary>Range a fault's severity is drawn from, logarithmically; what it counts is the fault's own matter.</summary>
/// <param name="Mildest">Mildest: what it counts then, which may be the larger figure, as the ohms of a short are.</param>
/// <param name="Worst">Worst.</param>
public readonly record struct Severity(double Mildest, double Worst)
{
    /// <summary>There are no degrees: it is there or not.</summary>
    public static readonly Severity Complete = new(1, 1);

    /// <summary>Severity at a fraction of the way along the range, logarithmically.</summary>
    /// <param name="fraction">0 for the mildest to 1 for the worst.</param>
    public double At(double fraction) => Mildest * Math.Pow(Worst / Mildest, fraction);
}

/// <summary>How a fault changes a parameter.</summary>
public enum ChangeRule
{
    /// <summary>Becomes the change's amount.</summary>
    Set,

    /// <summary>The severity is added.</summary>
    AddSeverity,

    /// <summary>Multiplied by the severity.</summary>
    MultiplyBySeverity,

    /// <summary>Becomes the severity.</summary>
    SetToSeverity,
}

/// <summary>One parameter changed by a fault.</summary>
/// <param name="Parameter">Which.</param>
/// <param name="Rule">How.</param>
/// <param name="Amount">Used by <see cref="ChangeRule.Set"/> only.</param>
public readonly record struct ParameterChange(ParameterId Parameter, ChangeRule Rule, double Amount = 0);
