using System.Numerics;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;

namespace Pritchel.Core.Diagnosis.Planning;

/// <summary>
/// Looks all the way ahead when few suspects are left. The best rate of the next reading alone is near-sighted: four
/// minutes that split off a quarter of the doubt look better than ten that open the place where the rest will be read
/// anyway. Suspects stand for themselves by a few of their likeliest particles; a test sorts these as far as the meter can
/// tell them apart, and every order of the tests on offer is followed to where acting on the likeliest costs less than
/// going on (dynamic programming over what is left and how things stand). Noise is left out of it: that is the rate's
/// business, which says what is on offer.
/// </summary>
internal sealed class Lookahead
{
    /// <summary>Most suspects that are looked ahead over.</summary>
    public const int MostSuspects = 14;

    private const double LeastShare = 0.005;
    private const int MostOfASuspect = 4;
    private const int MostStates = 1500;
    private const int CheapestOfAKind = 2;
    private const int Deepest = 6;

    // Figures nearer than this many of the meter's deviations, or than what contacts make of it, are told apart by luck.
    private const double Deviations = 4;
    private const double Slack = 0.15;
    private const double Jumping = 100;

    private readonly List<Sample> samples = [];
    private readonly Offer[] offers;
    private readonly int classes;
    private readonly List<PlaceId> places = [];
    private readonly double[] placeMinutes;
    private readonly Dictionary<(ulong Left, Stands Stands, int Depth), double> known = [];
    private bool tooMany;

    private Lookahead(Beliefs beliefs, TestPlan plan, Situation situation, IReadOnlyList<PlannedTest> tests)
    {
        classes = DrawSamples(beliefs);
        var minutes = new List<double>();
        offers =
        [
            .. tests.Select(t =>
            {
                var cost = plan.Cost(t.At, situation.Alone);
                ulong reaches = 0;
                foreach (var place in cost.Places.Where(p => !situation.Opened.Contains(p.Id)))
                {
                    if (!places.Contains(place.Id))
                    {
                        places.Add(place.Id);
                        minutes.Add(place.Minutes);
                    }

                    reaches |= 1UL << places.IndexOf(place.Id);
                }

                var condition = beliefs.Table.Conditions[t.At.Condition];
                return new Offer(
                    t,
                    cost,
                    reaches,
                    condition.Observable.WantsDeadCircuit && beliefs.Table.Conditions[0].IsFree,
                    condition.MayTurnEngine,
                    Sorted(beliefs, t.At)
                );
            }),
        ];
        placeMinutes = [.. minutes];
    }

    /// <summary>The test that fewest minutes are expected to follow, of those on offer.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="plan">What tests take.</param>
    /// <param name="situation">How things stand.</param>
    /// <param name="first">Tests that may come first.</param>
    /// <param name="later">Tests that may follow.</param>
    /// <returns>Null where too many suspects are left, too many ways lead on, or no test is worth its minutes.</returns>
    public static PlannedTest? Best(
        Beliefs beliefs,
        TestPlan plan,
        Situation situation,
        IReadOnlyList<PlannedTest> first,
        IReadOnlyList<PlannedTest> later
    )
    {
        if (beliefs.Suspects.Count(s => s.Share > LeastShare) is < 2 or > MostSuspects)
        {
            return null;
        }

        var ahead = new Lookahead(beliefs, plan, situation, [.. first.Concat(later).DistinctBy(t => t.At)]);
        var all = ahead.samples.Count == 64 ? ulong.MaxValue : (1UL << ahead.samples.Count) - 1;
        var stands = new Stands(0, situation.Condition, situation.BatteryOff, situation.MadeSafe);
        PlannedTest? best = null;
        var least = ahead.Acting(all);
        var mass = ahead.Mass(all);
        foreach (var (offer, parts, minutes) in ahead.Worth(all, stands).Where(o => first.Contains(o.Offer.Test)))
        {
            var expected = (minutes * mass) + parts.Sum(p => ahead.Expected(p, After(stands, offer), 1));
            if (expected < least)
            {
                (best, least) = (offer.Test, expected);
            }
        }

        return ahead.tooMany ? null : best;
    }

    /// <summary>Minutes expected from here on, wrong repairs counted, times the share of what is left.</summary>
    private double Expected(ulong left, Stands stands, int depth)
    {
        var acting = Acting(left);
        if (acting < 1e-9 || depth >= Deepest || tooMany)
        {
            return acting;
        }

        if (known.TryGetValue((left, stands, depth), out var before))
        {
            return before;
        }

        tooMany = known.Count >= MostStates;
        var (best, mass) = (acting, Mass(left));
        foreach (var (offer, parts, minutes) in Worth(left, stands))
        {
            if (minutes * mass < best)
            {
                var then = After(stands, offer);
                best = Math.Min(best, (minutes * mass) + parts.Sum(p => Expected(p, then, depth + 1)));
            }
        }

        return known[(left, stands, depth)] = best;
    }

    /// <summary>Tests that sort what is left, the cheapest few of those that sort it alike, cheapest first.</summary>
    private List<(Offer Offer, List<ulong> Parts, double Minutes)> Worth(ulong left, Stands stands)
    {
        var found = new List<(Offer Offer, List<ulong> Parts, double Minutes)>();
        foreach (var offer in offers)
        {
            var parts = new List<ulong>(offer.Parts.Count);
            foreach (var part in offer.Parts)
            {
                if ((part & left) != 0)
                {
                    parts.Add(part & left);
                }
            }

            if (parts.Count > 1)
            {
                parts.Sort();
                found.Add((offer, parts, Minutes(offer, stands)));
            }
        }

        found.Sort((a, b) => a.Minutes.CompareTo(b.Minutes));
        var alike = new Dictionary<ulong, int>();
        found.RemoveAll(f =>
        {
            ulong kind = 17;
            f.Parts.ForEach(p => kind = (kind * 1099511628211UL) ^ p);
            var times = alike[kind] = alike.GetValueOrDefault(kind) + 1;
            return times > CheapestOfAKind;
        });
        return found;
    }

    private double Minutes(Offer offer, Stands stands)
    {
        var minutes = offer.Cost.Always + offer.Cost.Rest(stands.Condition, stands.BatteryOff, stands.MadeSafe);
        for (var closed = offer.Reaches & ~stands.Opened; closed != 0; closed &= closed - 1)
        {
            minutes += placeMinutes[BitOperations.TrailingZeroCount(closed)];
        }

        return minutes;
    }

    private static Stands After(Stands stands, Offer offer) =>
        new(
            stands.Opened | offer.Reaches,
            offer.Cost.Condition,
            offer.LeavesBatteryOff,
            stands.MadeSafe || offer.MayTurnEngine
        );

    /// <summary>What acting on the likeliest now is expected to cost.</summary>
    private double Acting(ulong left)
    {
        Span<double> shares = stackalloc double[classes];
        var (all, top) = (0.0, 0.0);
        for (; left != 0; left &= left - 1)
        {
            var sample = samples[BitOperations.TrailingZeroCount(left)];
            all += sample.Weight;
            top = Math.Max(top, shares[sample.Class] += sample.Weight);
        }

        return (all - top) * Verdict.WrongRepairMinutes;
    }

    private double Mass(ulong left)
    {
        double all = 0;
        for (; left != 0; left &= left - 1)
        {
            all += samples[BitOperations.TrailingZeroCount(left)].Weight;
        }

        return all;
    }

    /// <summary>A few particles of each suspect, each for as much of its share.</summary>
    private int DrawSamples(Beliefs beliefs)
    {
        var kinds = new Dictionary<SuspectId, int>();
        foreach (
            var suspect in beliefs.Suspects.Where(s => s.Share > LeastShare && (s.Repair is not null || s.IsSound))
        )
        {
            var most = Enumerable
                .Range(0, beliefs.Table.Hypotheses.Count)
                .Where(h =>
                    suspect.IsSound
                        ? beliefs.Table.Hypotheses[h].Fault is null
                        : beliefs.Table.Hypotheses[h].Fault?.Repair.Id == suspect.Id.Repair
                )
                .SelectMany(h => Particles(beliefs, h))
                .OrderByDescending(p => p.Weight)
                .Take(MostOfASuspect)
                .ToList();
            var scale = suspect.Share / most.Sum(p => p.Weight);
            kinds[suspect.Id] = kinds.Count;
            samples.AddRange(most.Select(p => new Sample(p.Shown, p.Particle, p.Weight * scale, kinds[suspect.Id])));
        }

        return kinds.Count;
    }

    private static IEnumerable<(Hypothesis Shown, int Particle, double Weight)> Particles(Beliefs beliefs, int index)
    {
        var shown = beliefs.Hypothesis(index);
        var figures = shown.HasPredictions ? shown : beliefs.Table.Healthy;
        var weights = beliefs.Weights(index).ToArray();
        return weights.Select((w, p) => (figures, p, w)).Where(x => x.w > 0);
    }

    /// <summary>Samples that a test tells apart: those with no gap wider than its doubt between them stay together.</summary>
    private List<ulong> Sorted(Beliefs beliefs, ProbePair at)
    {
        var observable = beliefs.Table.Conditions[at.Condition].Observable;
        var figures = samples
            .Select(
                (s, i) =>
                    (
                        Figure: s.Shown.Chatters(at.Condition)[s.Particle] ? Jumping : s.Shown.Across(at)[s.Particle],
                        Index: i
                    )
            )
            .OrderBy(x => x.Figure)
            .ToArray();
        var parts = new List<ulong> { 1UL << figures[0].Index };
        for (var i = 1; i < figures.Length; i++)
        {
            var doubt = (Deviations * observable.Noise(beliefs.Meter, figures[i].Figure)) + Slack;
            if (figures[i].Figure - figures[i - 1].Figure > doubt)
            {
                parts.Add(0);
            }

            parts[^1] |= 1UL << figures[i].Index;
        }

        return parts;
    }

    private sealed record Sample(Hypothesis Shown, int Particle, double Weight, int Class);

    private sealed record Offer(
        PlannedTest Test,
        TestCost Cost,
        ulong Reaches,
        bool LeavesBatteryOff,
        bool MayTurnEngine,
        List<ulong> Parts
    );

    private readonly record struct Stands(ulong Opened, int? Condition, bool BatteryOff, bool MadeSafe);
}
