using Pritchel.Core.Identity;

namespace Pritchel.Core.Simulation;

/// <summary>What a branch is to whoever follows a line through it.</summary>
public enum BranchRole
{
    /// <summary>Something inside a part.</summary>
    Other,

    /// <summary>A wire's conductor.</summary>
    Conductor,

    /// <summary>The joint at a wire's end.</summary>
    Joint,

    /// <summary>A cavity of a coupling.</summary>
    Cavity,

    /// <summary>A coil that works contacts: what a command is given through.</summary>
    Coil,

    /// <summary>A contact that a coil works: what a lead across stands in for.</summary>
    Contact,
}

/// <summary>What a branch of a circuit is.</summary>
/// <param name="Of">The element that conducts.</param>
/// <param name="Role">What it is to whoever follows a line.</param>
public readonly record struct BranchKey(Element Of, BranchRole Role)
{
    /// <inheritdoc/>
    public override string ToString() => Of.Text;
}
