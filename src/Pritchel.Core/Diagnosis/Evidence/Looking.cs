using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

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
/// <param name="Repair">Id of the repair.</param>
/// <param name="Found">What was found.</param>
public sealed record Look(string Repair, LookFound Found);

/// <summary>A place worth a look.</summary>
/// <param name="Repair">What to look at.</param>
/// <param name="Place">Where.</param>
/// <param name="Minutes">What it takes, with access not yet made.</param>
/// <param name="Share">Suspicion that lies on it.</param>
/// <param name="Finds">Chance that a look shows something.</param>
public sealed record PlaceToLook(Repair Repair, Place Place, Minutes Minutes, double Share, double Finds);

/// <summary>How much a look tells, and where to look first. Chances are judgement: common practice, no source.</summary>
public static class Looking
{
    private const double GlanceMinutes = 0.3;
    private const double LeastFinds = 0.003;

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

    /// <summary>Where to look that nobody has looked at yet, most found per minute first.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="situation">How things stand.</param>
    /// <param name="most">How many to return.</param>
    public static IReadOnlyList<PlaceToLook> Places(Beliefs beliefs, Situation situation, int most)
    {
        var looked = beliefs.SideEvidence.Looks.Select(l => l.Repair).ToHashSet(StringComparer.Ordinal);
        var places = beliefs.Table.Circuit.Machine.Places.ToDictionary(p => p.Id, StringComparer.Ordinal);
        return
        [
            .. Enumerable
                .Range(0, beliefs.Table.Hypotheses.Count)
                .Select(h => (beliefs.Table.Hypotheses[h].Fault, Share: beliefs.Share(h)))
                .Where(x => x.Fault is not null && !looked.Contains(x.Fault.Repair.Id))
                .GroupBy(x => x.Fault!.Repair)
                .Select(g => new PlaceToLook(
                    g.Key,
                    places[g.Key.Place],
                    new Minutes(
                        GlanceMinutes + (situation.Opened.Contains(g.Key.Place) ? 0 : places[g.Key.Place].Minutes)
                    ),
                    g.Sum(x => x.Share),
                    g.Sum(x => x.Share * (1 - There(LookFound.Sound, x.Fault!.Kind)))
                ))
                .Where(p => p.Finds > LeastFinds && !situation.Unreachable.Contains(p.Place.Id))
                .OrderByDescending(p => p.Finds / p.Minutes.Value)
                .Take(most),
        ];
    }

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
