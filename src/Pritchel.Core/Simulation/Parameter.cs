using Pritchel.Core.Identity;

namespace Pritchel.Core.Simulation;

/// <summary>How a healthy parameter varies from one machine to the next.</summary>
/// <param name="LogSigma">Standard deviation of its natural logarithm.</param>
/// <param name="Low">Lower end of a uniform range, when <paramref name="High"/> is above it.</param>
/// <param name="High">Upper end of that range.</param>
public readonly record struct Spread(double LogSigma, double Low, double High)
{
    /// <summary>Does not vary.</summary>
    public static readonly Spread None = new(0, 0, 0);

    /// <summary>Conductor resistance: drawing tolerance and length as run. From memory.</summary>
    public static readonly Spread Conductor = new(0.08, 0, 0);

    /// <summary>Made joints and switch contacts: healthy ones differ by half as much again. From memory.</summary>
    public static readonly Spread Contact = new(0.5, 0, 0);

    /// <summary>Wound coils and loads: about a tenth.</summary>
    public static readonly Spread Winding = new(0.1, 0, 0);

    /// <summary>Anywhere in a range, all alike.</summary>
    public static Spread Uniform(double low, double high) => new(0, low, high);

    /// <summary>Whether the parameter is drawn from a range rather than about its nominal value.</summary>
    public bool IsUniform => High > Low;
}

/// <summary>A number that a case may change: a resistance, a state of charge.</summary>
/// <param name="Key">What it is of; as text for exports and messages.</param>
/// <param name="Nominal">Healthy value, in the unit its figure ends with.</param>
/// <param name="Spread">How healthy ones vary.</param>
public sealed record Parameter(ParameterKey Key, double Nominal, Spread Spread);
