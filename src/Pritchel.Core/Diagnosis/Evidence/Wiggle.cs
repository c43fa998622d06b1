using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Diagnosis.Evidence;

/// <summary>What is done to a place to bring out a fault that comes and goes.</summary>
public enum WiggledBy
{
    /// <summary>Joints pushed and pulled, looms bent.</summary>
    Moving,

    /// <summary>Warmed by a hair dryer.</summary>
    Warming,

    /// <summary>Wetted by a mist of water.</summary>
    Wetting,
}

/// <summary>What hands get hold of.</summary>
/// <param name="Place">Where.</param>
/// <param name="Alone">The one joint, contact or part; null for everything that is there.</param>
/// <param name="Repairs">The repairs whose faults it would stir.</param>
public sealed record Reach(Place Place, Repair? Alone, IReadOnlySet<RepairId> Repairs);

/// <summary>A place stirred while a meter, or the machine itself, was watched.</summary>
/// <param name="Reach">What was got hold of.</param>
/// <param name="By">How.</param>
/// <param name="Changed">Whether what was watched changed with it.</param>
public sealed record Wiggle(Reach Reach, WiggledBy By, bool Changed);

/// <summary>
/// How much it tells that something changed, or nothing did, as places were stirred. A fault that comes and goes answers
/// mostly at its own place, and each kind to its own treatment; one that is always there seldom answers at all. Chances
/// are judgement: common practice, no source.
/// </summary>
public sealed class WiggleEvidence
{
    // It came or went of itself in just that half minute; a hard fault seemed to.
    private const double OfItself = 0.05;
    private const double AlwaysThere = 0.02;

    // With a cause that is not among the faults, or two.
    private const double Unknown = 0.15;

    private readonly double comesAndGoes;

    /// <summary>Gathers what was stirred.</summary>
    /// <param name="tried">In the order tried; of the same treatment of the same place the last counts.</param>
    /// <param name="complaint">Says whether the fault is known to come and go.</param>
    public WiggleEvidence(IEnumerable<Wiggle> tried, Complaint complaint)
    {
        Tried = [.. tried.GroupBy(p => (p.Reach.Place.Id, p.Reach.Alone?.Id, p.By)).Select(g => g.Last())];
        comesAndGoes = complaint.Failed < complaint.Tried ? 1 : Likelihood.ComesAndGoesShare;
    }

    /// <summary>What was stirred, as it counts.</summary>
    public IReadOnlyList<Wiggle> Tried { get; }

    /// <summary>Chance of all of it with a cause that is not among the faults.</summary>
    public double OfUnknown => Tried.Aggregate(1.0, (chance, p) => chance * Chance(p.Changed, Unknown));

    /// <summary>Chance of all of it with a fault; null for the sound machine.</summary>
    public double Of(Fault? fault) =>
        Tried.Aggregate(1.0, (chance, p) => chance * Chance(p.Changed, Changes(fault, p.Reach, p.By)));

    /// <summary>Chance that something changes as a place is stirred, with a fault; null for the sound machine.</summary>
    public double Changes(Fault? fault, Reach reach, WiggledBy by)
    {
        if (fault is not { ComesAndGoes: true })
        {
            return AlwaysThere;
        }

        return reach.Repairs.Contains(fault.Repair.Id)
            ? (comesAndGoes * Answers(fault, by)) + ((1 - comesAndGoes) * AlwaysThere)
            : Elsewhere;
    }

    private double Elsewhere => (comesAndGoes * OfItself) + ((1 - comesAndGoes) * AlwaysThere);

    /// <summary>How many times likelier one of them is with a fault than with one that comes and goes elsewhere.</summary>
    public double Times(Fault? fault, Wiggle tried)
    {
        var here = Changes(fault, tried.Reach, tried.By);
        return Chance(tried.Changed, here) / Chance(tried.Changed, Elsewhere);
    }

    private static double Chance(bool changed, double changes) => changed ? changes : 1 - changes;

    /// <summary>Chance that a fault that comes and goes answers at its own place to a treatment.</summary>
    /// <param name="fault">The fault.</param>
    /// <param name="by">The treatment.</param>
    public static double Answers(Fault fault, WiggledBy by)
    {
        var isTrack =
            fault.Kind == FaultKind.ShortedToNeighbour
            || (fault.Kind == FaultKind.Chafed && fault.Weakness.HasFlag(Weakness.Damp));
        var isInside = fault.Repair.Kind is RepairKind.ReplacePart or RepairKind.ServiceStarter;
        return by switch
        {
            WiggledBy.Moving => isTrack || isInside ? 0.15 : 0.6,
            WiggledBy.Warming => isInside ? 0.5
            : isTrack ? 0.05
            : 0.15,
            _ => isTrack ? 0.6
            : fault.Kind == FaultKind.Chafed ? 0.3
            : isInside ? 0.05
            : 0.15,
        };
    }
}
