using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Faults;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>A place worth a look.</summary>
/// <param name="Repair">What to look at.</param>
/// <param name="Place">Where.</param>
/// <param name="Minutes">What it takes, with access not yet made.</param>
/// <param name="Share">Suspicion that lies on it.</param>
/// <param name="Finds">Chance that a look shows something.</param>
public sealed record PlaceToLook(Repair Repair, Place Place, Minutes Minutes, double Share, double Finds);

/// <summary>Where to look first.</summary>
public static class Looking
{
    private const double GlanceMinutes = 0.3;
    private const double LeastFinds = 0.003;

    /// <summary>Where to look that nobody has looked at yet, most found per minute first.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="situation">How things stand.</param>
    /// <param name="most">How many to return.</param>
    public static IReadOnlyList<PlaceToLook> Places(Beliefs beliefs, Situation situation, int most)
    {
        var looked = beliefs.SideEvidence.Looks.Select(l => l.Repair).ToHashSet();
        var places = beliefs.Table.Circuit.Machine.Places.ToDictionary(p => p.Id);
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
                    g.Sum(x => x.Share * (1 - LookChances.There(LookFound.Sound, x.Fault!.Kind)))
                ))
                .Where(p => p.Finds > LeastFinds && !situation.Unreachable.Contains(p.Place.Id))
                .OrderByDescending(p => p.Finds / p.Minutes.Value)
                .Take(most),
        ];
    }
}
