using Pritchel.Core.Faults;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>What an eye and a finger find at a place.</summary>
public enum LookFound
{
    /// <summary>Clean, tight, whole.</summary>
    Sound,

    /// <summary>Moves under the finger.</summary>
    Loose,

    /// <summary>Green or white with corrosion.</summary>
    Green,

    /// <summary>Insulation rubbed through.</summary>
    Chafed,

    /// <summary>Gnawed.</summary>
    Chewed,

    /// <summary>Brown, melted, or a fuse's strip gone.</summary>
    Burnt,

    /// <summary>Wet.</summary>
    Wet,

    /// <summary>Not there, or not plugged in.</summary>
    Missing,
}

/// <summary>A look at what one repair would renew.</summary>
/// <param name="Repair">What was looked at, by what would renew it.</param>
/// <param name="Found">What was found.</param>
public sealed record Look(RepairId Repair, LookFound Found);

/// <summary>How much a look tells. Chances are judgement: common practice, no source.</summary>
public static class LookChances
{
    // Found with the fault there, in the order of LookFound: sound, loose, green, chafed, chewed, burnt, wet, missing.
    private static readonly double[] Joint = [0.36, 0.24, 0.28, 0.01, 0.01, 0.06, 0.03, 0.01];
    private static readonly double[] Parted = [0.46, 0.16, 0.12, 0.05, 0.06, 0.04, 0.02, 0.09];
    private static readonly double[] Rubbed = [0.3, 0.02, 0.03, 0.5, 0.1, 0.02, 0.02, 0.01];
    private static readonly double[] Gone = [0.08, 0.02, 0.04, 0.01, 0.01, 0.78, 0.01, 0.05];
    private static readonly double[] LeftOff = [0.04, 0.05, 0.005, 0.005, 0.005, 0.005, 0.01, 0.88];
    private static readonly double[] Bridging = [0.35, 0.03, 0.35, 0.02, 0.02, 0.05, 0.17, 0.01];
    private static readonly double[] Within = [0.86, 0.03, 0.03, 0.01, 0.005, 0.045, 0.01, 0.01];

    // Found where the fault is not: old machines are not clean.
    private static readonly double[] Elsewhere = [0.88, 0.03, 0.05, 0.01, 0.004, 0.006, 0.018, 0.002];

    /// <summary>Chance of finding that with the fault there.</summary>
    /// <param name="found">What is found.</param>
    /// <param name="kind">Kind of the fault.</param>
    public static double There(LookFound found, FaultKind kind) => Row(kind)[(int)found];

    /// <summary>Chance of finding that where the fault is not.</summary>
    public static double NotThere(LookFound found) => Elsewhere[(int)found];

    private static double[] Row(FaultKind kind) =>
        kind switch
        {
            FaultKind.HighResistance => Joint,
            FaultKind.Open => Parted,
            FaultKind.Chafed => Rubbed,
            FaultKind.Blown => Gone,
            FaultKind.Unplugged => LeftOff,
            FaultKind.ShortedToNeighbour => Bridging,
            _ => Within,
        };
}
