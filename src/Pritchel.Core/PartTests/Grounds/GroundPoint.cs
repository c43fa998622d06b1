using Pritchel.Core.Identity;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.PartTests.Grounds;

/// <summary>One point of a survey: what must be at battery minus, read against it while something draws through it.</summary>
/// <param name="At">Terminal under the red probe; black is on battery minus.</param>
/// <param name="Words">The point in words.</param>
/// <param name="Place">Where it is.</param>
/// <param name="Setting">Positions in which most comes back through it.</param>
/// <param name="ByBulb">Whether nothing of the machine draws there, so that a bulb of two amps from battery plus must.</param>
/// <param name="Cranks">Whether a starter turns meanwhile.</param>
/// <param name="Sound">What a sound machine shows there.</param>
public sealed record GroundPoint(
    TerminalAddress At,
    string Words,
    Place Place,
    ControlSetting Setting,
    bool ByBulb,
    bool Cranks,
    Volts Sound
)
{
    // What sound grounds of one machine differ by, and what a meter's last digits do: from memory.
    private const double DiffersBy = 1.6;
    private const double LastDigits = 0.012;

    /// <summary>Whether a figure is more than a sound machine would show.</summary>
    public bool IsHigh(Volts read) => read.Value > (DiffersBy * Sound.Value) + LastDigits;
}

/// <summary>A way home that has ohms too many.</summary>
/// <param name="Words">Its links that look the same from outside, in words.</param>
/// <param name="Extra">Ohms that explain what was read; the fewest that do, where it is open or nearly so.</param>
/// <param name="IsOpen">
/// Whether an open one explains it as well: nearly all of a circuit's volts stand across it, and its ohms are no longer told.
/// </param>
/// <param name="Carries">The most that must come back through it.</param>
/// <param name="Share">How likely it is, against the other links.</param>
public sealed record GroundSuspect(IReadOnlyList<string> Words, Ohms Extra, bool IsOpen, Amps Carries, double Share)
{
    /// <summary>Where the likeliest of its links is.</summary>
    public PlaceId? Where { get; init; }

    /// <summary>The wire or cable that the likeliest of its links is, or is an end of; null for a mount.</summary>
    public WireId? Wire { get; init; }

    // 0.1 V a joint while its current flows: common practice, no source.
    private const double JointVolts = 0.1;

    /// <summary>Whether it loses more than a joint may.</summary>
    public bool LosesTooMuch => Lost.Value > JointVolts;

    /// <summary>Volts that are lost there at the most it must carry: what ranks them.</summary>
    public Volts Lost => new(Extra.Value * Carries.Value);
}
