using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Machines;
using Pritchel.Core.Simulation;
using Pritchel.Core.Units;

namespace Pritchel.Core.Diagnosis.Planning;

/// <content>Of all that may be tested, what is worth most just now.</content>
public sealed partial class TestPlan
{
    // Figures looked up before a shortlist is worth drawing up, and how it is: a few hundredths of a second's work.
    private const long QuickLooks = 4_000_000;
    private const int ShortlistParticles = 6;
    private const int Shortlist = 160;

    // Tests followed when looking ahead, and what may come first among them.
    private const int Followed = 24;
    private const double NearlyAsMuch = 0.4;

    /// <summary>Tests on offer, best first.</summary>
    /// <param name="beliefs">What is believed.</param>
    /// <param name="situation">How things stand.</param>
    /// <param name="most">How many to return.</param>
    public IReadOnlyList<PlannedTest> Best(Beliefs beliefs, Situation situation, int most = 8)
    {
        var readable = table.Conditions.Select(c => c.Observable.CanRead(beliefs.Meter)).ToArray();
        var contradicted = Contradicted(beliefs, situation).ToHashSet();
        var allowed = Allowed(situation)
            .Concat(contradicted)
            .Where(p => readable[p.Condition] && !HangsOnDamp(p))
            .ToArray();
        var gain = new InformationGain(beliefs);
        if ((long)gain.Looks * allowed.Length > QuickLooks)
        {
            // After the complaint hundreds of faults are left with all their particles: a few of each show which tests are
            // worth rating in full.
            allowed =
            [
                .. Rated(allowed, beliefs, situation, new InformationGain(beliefs, ShortlistParticles))
                    .OrderByDescending(p => p.Rate)
                    .Take(Math.Max(Shortlist, most))
                    .Select(p => p.At),
            ];
        }

        var planned = Rated(allowed, beliefs, situation, gain);
        var ranked = planned
            .Select(p => contradicted.Contains(p.At) ? p with { IsOnceMore = true } : p)
            .Concat(OnceMore(beliefs, situation))
            .OrderByDescending(p => p.Bits >= p.Telling)
            .ThenByDescending(p => p.Rate)
            .ThenBy(p => p.At.Red)
            .Take(Math.Max(most, Followed))
            .ToList();
        PutResolvedFirst(beliefs, ranked);
        if (ranked.Count > 0 && ranked[0].Bits < LeastBits && Confirming(beliefs, planned) is { } confirming)
        {
            PutFirst(ranked, Resolved(beliefs, confirming));
        }
        else if (
            LookingAhead(beliefs, situation, ranked, planned) is { } lookingAhead
            && Resolved(beliefs, lookingAhead).Bits >= LeastBits
        )
        {
            PutFirst(ranked, lookingAhead);
        }

        if (
            (beliefs.Suspects[0].Share >= Isolation.Nearly || ranked.Count == 0 || ranked[0].Bits < ranked[0].Telling)
            && Isolation.Wanted(beliefs) is { } wanted
            && Isolating(beliefs, planned, wanted) is { } isolating
        )
        {
            PutFirst(ranked, isolating);
        }

        if (
            Verdict.Of(beliefs, ranked.FirstOrDefault()).Suspect is { } held
            && Certainty.Of(beliefs) is var certainty
            && MakesSure(beliefs, situation, certainty) is { } sure
            && sure.Minutes.Value < certainty.Risk(held.Share).Value
        )
        {
            PutFirst(ranked, sure);
        }

        DropWhatLeavesAll(beliefs, ranked);
        ranked.RemoveRange(Math.Min(most, ranked.Count), Math.Max(0, ranked.Count - most));
        return ranked;
    }

    /// <summary>
    /// What tells next to nothing and leaves the same suspects first whatever is read is not asked for, but to have the meter say too what
    /// stands nearly clear.
    /// </summary>
    private static void DropWhatLeavesAll(Beliefs beliefs, List<PlannedTest> ranked)
    {
        while (
            beliefs.Suspects[0].Share < Isolation.Nearly
            && ranked is [{ IsOnceMore: false, IsToMakeSure: false, Bits: < LeastBits } first, ..]
            && Outlook.Of(beliefs, first.At).PointsAlike
        )
        {
            ranked.RemoveAt(0);
        }
    }

    /// <summary>
    /// The test that isolates what is about to be condemned: of those that would convict it by what it shows, the quickest, with its leads on
    /// last; null where there is none.
    /// </summary>
    private static PlannedTest? Isolating(Beliefs beliefs, PlannedTest[] planned, Isolation wanted) =>
        planned
            .OrderByDescending(p => wanted.Is(p.At))
            .ThenBy(p => p.Minutes.Value)
            .ThenBy(p => p.At.Red)
            .FirstOrDefault(p => wanted.WouldConvict(beliefs, p.At));

    /// <summary>
    /// What lets all be stated that is believed: a look that it hangs on, once more, or the first suspect read itself. Null where neither
    /// is wanted or can be had.
    /// </summary>
    public PlannedTest? MakesSure(Beliefs beliefs, Situation situation, Certainty certainty)
    {
        var sure =
            certainty.HangsOn is { } look && Repeatable(beliefs, situation).Any(r => r.Key == look)
                ? Plan(look, situation, bits: 0) with
                {
                    IsOnceMore = true,
                }
            : certainty.IsConvicted ? null
            : Convicting(beliefs, situation);
        return sure is null
            ? null
            : sure with
            {
                IsToMakeSure = true,
                Bits = Slip.Bits(1 - Certainty.MostUnproved, Certainty.MostUnproved),
                ByChance = 0,
            };
    }

    /// <summary>
    /// The test that reads the first suspect itself and would speak for most of it a minute; null where none is left. What is left over
    /// when all else was cleared is likely and no more.
    /// </summary>
    public PlannedTest? Convicting(Beliefs beliefs, Situation situation)
    {
        const int MostLookedAt = 100;
        const double Least = 0.25;
        return Conviction
            .Reading(beliefs, Allowed(situation))
            .Where(p => table.Conditions[p.Condition].Observable.CanRead(beliefs.Meter) && !HangsOnDamp(p))
            .Select(p => Plan(p, situation, bits: 0))
            .OrderBy(p => p.Minutes.Value)
            .ThenBy(p => p.At.Red)
            .Take(MostLookedAt)
            .Select(p => (Test: p, Speaks: Conviction.Speaks(beliefs, p.At)))
            .Where(x => x.Speaks > Least)
            .OrderByDescending(x => x.Speaks / x.Test.Minutes.Value)
            .Select(x => x.Test)
            .FirstOrDefault();
    }

    /// <summary>
    /// Whether sound wiring leaves it to damp: a voltmeter from live metal to metal that floats, across an open switch say, shows nothing or
    /// all there is by a leak that nobody knows. What that tells, and what it would convict, hangs on the leak.
    /// </summary>
    private bool HangsOnDamp(ProbePair at)
    {
        if (!table.Conditions[at.Condition].Observable.DampDecides)
        {
            return false;
        }

        var sound = table.Healthy.Across(at);
        var byDamp = 0;
        for (var p = 0; p < table.Particles; p++)
        {
            byDamp += sound.IsByDamp(p) ? 1 : 0;
        }

        return 2 * byDamp >= table.Particles;
    }

    /// <summary>What was read twice and contradicts itself: one of the two was a slip, and a third decides.</summary>
    private IEnumerable<ProbePair> Contradicted(Beliefs beliefs, Situation situation) =>
        Repeatable(beliefs, situation)
            .Where(r => r.Count() > 1 && Slip.AreApart(beliefs, r.Key, r.Min(), r.Max()))
            .Select(r => r.Key);

    /// <summary>Readings as things stand, by their pairs, that may be taken once more.</summary>
    private IEnumerable<IGrouping<ProbePair, double>> Repeatable(Beliefs beliefs, Situation situation)
    {
        const int MostTimes = 3;
        return beliefs
            .Readings.Where(r => r is { Value: not null, Symptom: SymptomNow.Present })
            .GroupBy(r => r.At, r => r.Value!.Value)
            .Where(r => situation.Read.GetValueOrDefault(r.Key) is > 0 and < MostTimes)
            .Where(r => CanTakeOff(r.Key.Condition, situation) && table.Predicts(r.Key.Condition))
            .Where(r => CanRead(r.Key, situation));
    }

    /// <summary>
    /// What was read, to be read again: near a verdict much of the doubt that is left is that a figure it hangs on was a slip, and
    /// probes that lie there already settle it in half a minute.
    /// </summary>
    private IEnumerable<PlannedTest> OnceMore(Beliefs beliefs, Situation situation)
    {
        const double Worth = 0.002;
        if (beliefs.Suspects[0] is not { Share: >= Isolation.Nearly, Repair: not null } first)
        {
            yield break;
        }

        foreach (var (at, figure) in Repeatable(beliefs, situation).Select(r => (r.Key, r.Average())))
        {
            if (Slip.Share(beliefs, at, figure, first.Repair.Id) is > Worth and var slip)
            {
                // It settles one question, and chance shows nothing in it.
                yield return Plan(at, situation, Slip.Bits(slip, first.Share)) with
                {
                    IsOnceMore = true,
                    ByChance = 0,
                };
            }
        }
    }

    /// <summary>
    /// With few particles left figures that no meter tells apart seem to tell: what leads must tell by one figure, the meter's doubt counted,
    /// or it stands at what that tells.
    /// </summary>
    private static void PutResolvedFirst(Beliefs beliefs, List<PlannedTest> ranked)
    {
        for (var looked = 0; looked < ranked.Count; looked++)
        {
            var first = ranked[0];
            if (
                first.IsOnceMore
                || first.Bits < LeastBits
                || Resolved(beliefs, first) is not { Bits: < LeastBits } told
            )
            {
                return;
            }

            ranked.RemoveAt(0);
            ranked.Add(told);
        }
    }

    private static PlannedTest Resolved(Beliefs beliefs, PlannedTest test) =>
        test with
        {
            Bits = Math.Min(test.Bits, Outlook.Told(beliefs, test.At)),
        };

    private static void PutFirst(List<PlannedTest> ranked, PlannedTest test)
    {
        ranked.Remove(test);
        ranked.Insert(0, test);
    }

    /// <summary>
    /// With few suspects left, of the tests that tell nearly as much per minute as the best, the one that fewest minutes
    /// follow; null where that is not looked into.
    /// </summary>
    private PlannedTest? LookingAhead(
        Beliefs beliefs,
        Situation situation,
        List<PlannedTest> ranked,
        PlannedTest[] planned
    )
    {
        if (ranked.Count == 0 || ranked[0].Bits < ranked[0].Telling)
        {
            return null;
        }

        var first = ranked.Where(p => p.Bits >= p.Telling && p.Rate > NearlyAsMuch * ranked[0].Rate).ToList();
        var later = planned
            .Where(p => p.Bits >= p.Telling)
            .OrderByDescending(p => p.Bits)
            .ThenBy(p => p.Minutes.Value)
            .Take(Followed)
            .ToList();
        return first.Count < 2 ? null : Lookahead.Best(beliefs, this, situation, first, [.. ranked, .. later]);
    }

    private PlannedTest[] Rated(ProbePair[] tests, Beliefs beliefs, Situation situation, InformationGain gain)
    {
        var counting = beliefs.Counting;
        var wait = WiggleTests.Wait(beliefs.Complaint);
        var present = WiggleTests.IsCalledFor(beliefs.Complaint) ? Likelihood.Presence(beliefs.Complaint) : 1;
        var wanted = beliefs
            .Suspects.Where(s => s.Repair is not null)
            .GroupBy(s => s.Repair!.Place)
            .ToDictionary(g => g.Key, g => g.Sum(s => s.Share));
        var planned = new PlannedTest[tests.Length];
        Parallel.For(
            0,
            tests.Length,
            Cores.All,
            gain.NewScratch,
            (i, _, scratch) =>
            {
                var anyway = 0.0;
                foreach (var place in Cost(tests[i], situation.Alone).Places)
                {
                    anyway += situation.Opened.Contains(place.Id)
                        ? 0
                        : place.Minutes * wanted.GetValueOrDefault(place.Id);
                }

                // A dead circuit does not say whether the fault is there just now: one reads it as it happens to be.
                var isDead = table.Conditions[tests[i].Condition].Observable.WantsDeadCircuit;
                var bits = gain.Bits(tests[i], scratch) * (isDead ? present : 1);
                planned[i] = Plan(tests[i], situation, bits, counting) with
                {
                    WantedAnyway = new Minutes(anyway),
                    Wait = isDead ? new Minutes(0) : wait,
                };
                return scratch;
            },
            _ => { }
        );
        return planned;
    }

    /// <summary>
    /// When no test tells the suspects apart any more: the quickest one, at the first suspect itself where that can be,
    /// in which it would show something that sound wiring would not, so that the meter says it too.
    /// </summary>
    private static PlannedTest? Confirming(Beliefs beliefs, PlannedTest[] planned)
    {
        const int MostLookedAt = 400;
        var (from, to) = beliefs.Leading?.Fault?.Nodes ?? (-1, -1);
        bool AtSuspect(ProbePair at) => at.Red == from || at.Red == to || at.Black == from || at.Black == to;
        return planned
            .OrderByDescending(p => AtSuspect(p.At))
            .ThenBy(p => p.Minutes.Value)
            .ThenBy(p => p.At.Red)
            .Take(MostLookedAt)
            .FirstOrDefault(p => Shows(beliefs, p));
    }

    /// <summary>Whether the first suspect would show something in a test that sound wiring would not.</summary>
    private static bool Shows(Beliefs beliefs, PlannedTest test) =>
        Conviction.IsPlainlyOdd(Staircase.Sound(beliefs, test.At), Staircase.Suspected(beliefs, test.At));
}
