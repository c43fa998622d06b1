using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Diagnosis.Evidence;
using Pritchel.Core.Diagnosis.Inference;
using Pritchel.Core.Diagnosis.Planning;
using Pritchel.Core.Diagnosis.Prediction;
using Pritchel.Core.Diagnosis.Procedures;
using Pritchel.Core.Identity;
using Pritchel.Core.Metering;
using Pritchel.Core.Observables;
using Pritchel.Core.Units;

namespace Pritchel.Core.Jobs;

/// <summary>A reading of a job as weighed.</summary>
/// <param name="Sequence">Its event.</param>
/// <param name="Taken">The event.</param>
/// <param name="At">Points, in today's numbering.</param>
/// <param name="Agrees">Whether a sound machine would read so; null when it jumped.</param>
public sealed record JudgedReading(int Sequence, ReadingTaken Taken, ProbePair At, bool? Agrees);

/// <summary>What a job's evidence comes to: beliefs, the next test, and the verdict when one stands clear.</summary>
public sealed class JobDiagnosis
{
    private const double BitsPerTest = 0.85;
    private const int MostWiggles = 4;

    private JobDiagnosis(
        JobState state,
        DiagnosisKit kit,
        Meter meter,
        Func<DutyId, DutyTries?> tries,
        Func<StoredCodes>? codes,
        Func<DutyTries?> jumpStart
    )
    {
        State = state;
        Kit = kit;
        var all = state.Readings.Select(r => (r.Sequence, r.Reading, At: Weighed(kit, r.Reading.At))).ToList();
        TakenOtherwise = [.. all.Where(r => r.At is null).Select(r => (r.Sequence, r.Reading))];
        var side = SideEvidenceOf(state, kit, tries, codes, jumpStart);
        var readings = all.Where(r => r.At is not null)
            .Select(r => new Placed(r.Sequence, r.Reading, r.At!.Value))
            .ToList();
        var superseded = Superseded(state, readings, Weigh(readings));
        BeforeRepair = [.. superseded.Select(r => (r.Sequence, r.Taken))];
        readings = [.. readings.Except(superseded)];
        Situation = SituationOf(state, kit, superseded.Select(r => r.Sequence).ToHashSet());
        Beliefs = Weigh(readings);
        Tests = kit.Plan.Best(Beliefs, Situation, 40);
        Wiggles = kit.WiggleTests.Best(Beliefs, Situation, MostWiggles);
        Verdict = Verdict.Of(Beliefs, Next, Wiggles.Count == 0 ? null : Wiggles[0]);
        Certainty = Certainty.Of(Beliefs);
        if (
            Verdict.Suspect is { } held
            && Certainty.Holds(held.Share)
            && kit.Plan.MakesSure(Beliefs, Situation, Certainty) is { } sure
        )
        {
            (MakesCertain, Tests) = (sure, [sure, .. Tests.Where(t => t.At != sure.At)]);
        }

        Readings = [.. readings.Select(r => new JudgedReading(r.Sequence, r.Taken, r.At, Agrees(Beliefs, r)))];

        Beliefs Weigh(IEnumerable<Placed> taken) =>
            Beliefs.Weigh(
                kit.Table,
                state.Complaint!,
                meter,
                [
                    .. taken.Select(r => new Reading(
                        r.At,
                        Scaled(kit, meter, r.At, r.Taken.Figure),
                        r.Taken.Symptom,
                        DigitsOf(kit, r.At, r.Taken)
                    )),
                ],
                side
            );

        bool? Agrees(Beliefs beliefs, Placed r) =>
            Scaled(kit, meter, r.At, r.Taken.Figure) is { } figure ? Staircase.Agrees(beliefs, r.At, figure) : null;

        // A reading that was off before something was mended may have been off by that: it is asked for again.
        List<Placed> Superseded(JobState of, List<Placed> taken, Beliefs before)
        {
            var last = of.Mended.Select(m => m.Sequence).DefaultIfEmpty(0).Max();
            return last == 0
                ? []
                :
                [
                    .. taken.Where(r =>
                        r.Sequence < last
                        && (taken.Exists(l => l.Sequence > last && l.At == r.At) || Agrees(before, r) != true)
                    ),
                ];
        }
    }

    /// <summary>A reading with where it was taken, in today's numbering.</summary>
    private sealed record Placed(int Sequence, ReadingTaken Taken, ProbePair At);

    /// <summary>The job.</summary>
    public JobState State { get; }

    /// <summary>The machine's predictions and tests.</summary>
    public DiagnosisKit Kit { get; }

    /// <summary>How things stand on the floor.</summary>
    public Situation Situation { get; }

    /// <summary>What is believed.</summary>
    public Beliefs Beliefs { get; }

    /// <summary>Tests on offer, best first.</summary>
    public IReadOnlyList<PlannedTest> Tests { get; }

    /// <summary>Verdict.</summary>
    public Verdict Verdict { get; }

    /// <summary>
    /// The test that lets more be stated of what stands as the verdict: it reads it itself, or answers once more what all hangs on. It is
    /// the next one; null where nothing holds it back that a test would mend.
    /// </summary>
    public PlannedTest? MakesCertain { get; }

    /// <summary>How much may be stated of what is believed.</summary>
    public Certainty Certainty { get; }

    /// <summary>What to move, warm or wet, best first; none where the fault is always there.</summary>
    public IReadOnlyList<PlannedWiggle> Wiggles { get; }

    /// <summary>What to move, warm or wet before the next test, where that tells more in its time; null otherwise.</summary>
    public PlannedWiggle? WiggleFirst =>
        Verdict.Suspect is null && Wiggles.Count > 0 && WiggleTests.ComesFirst(Wiggles[0], Next) ? Wiggles[0] : null;

    /// <summary>
    /// Readings that were taken otherwise than this complaint is measured: in a setting, at a speed or at points that it does
    /// not ask for. They are kept and shown, and weigh nothing.
    /// </summary>
    public IReadOnlyList<(int Sequence, ReadingTaken Reading)> TakenOtherwise { get; }

    /// <summary>
    /// Readings taken before something was mended that were off, or were taken again since: the mending may have changed
    /// them. They are kept and shown, and weigh nothing.
    /// </summary>
    public IReadOnlyList<(int Sequence, ReadingTaken Reading)> BeforeRepair { get; }

    /// <summary>Readings so far, judged.</summary>
    public IReadOnlyList<JudgedReading> Readings { get; }

    /// <summary>The next test, or null.</summary>
    public PlannedTest? Next => Tests.Count == 0 ? null : Tests[0];

    /// <summary>Whether there is a test that tells something, and no verdict: what a coarse kit is good enough for.</summary>
    public bool HasTestAndNoVerdict => Next is { } next && next.Bits >= next.Telling && !Verdict.EndsMeasuring;

    /// <summary>The best tests with another red point than the next test's, for those who prefer another.</summary>
    public IReadOnlyList<PlannedTest> Others =>
        Next is null
            ? []
            :
            [
                .. Tests
                    .Where(t => t.At.Red != Next.At.Red && t.At.Red != Next.At.Black && t.Bits > 0.1 * Next.Bits)
                    .DistinctBy(t => t.At.Red)
                    .Take(4),
            ];

    /// <summary>Stage, with a verdict that waits taken into account.</summary>
    public Stage Stage => State.Stage == Stage.Measure && Verdict.Suspect is not null ? Stage.Verdict : State.Stage;

    /// <summary>About how many readings are still to come.</summary>
    public int TestsLeft =>
        Verdict.Suspect is not null ? 0
        : Verdict.ByItself is not null ? 1
        : Math.Max(1, (int)Math.Round(Entropy / BitsPerTest));

    /// <summary>About how many minutes of measuring are still to come.</summary>
    public Minutes MinutesLeft =>
        Verdict.Suspect is not null || Next is null
            ? new Minutes(0)
            : new Minutes(Math.Max(Next.Minutes.Value, Entropy / Math.Max(Next.Rate, 0.05)));

    private double Entropy => -Beliefs.Suspects.Where(s => s.Share > 0).Sum(s => s.Share * Math.Log2(s.Share));

    /// <summary>Weighs a job whose complaint has been made.</summary>
    /// <param name="state">The job.</param>
    /// <param name="kit">Predictions of its complaint.</param>
    /// <param name="meter">Meter in use.</param>
    /// <param name="tries">How faults let another duty go, by its id; null where that is not known.</param>
    /// <param name="codes">Codes that faults store; asked for when some were read.</param>
    /// <param name="jumpStart">How faults let its starter do on jump leads; asked for when they were tried.</param>
    public static JobDiagnosis Of(
        JobState state,
        DiagnosisKit kit,
        Meter meter,
        Func<DutyId, DutyTries?>? tries = null,
        Func<StoredCodes>? codes = null,
        Func<DutyTries?>? jumpStart = null
    ) => new(state, kit, meter, tries ?? (_ => null), codes, jumpStart ?? (() => null));

    /// <summary>Where a reading is weighed; null where it says nothing of this complaint, or what it hangs on is not followed.</summary>
    private static ProbePair? Weighed(DiagnosisKit kit, ProbedAt told) =>
        kit.Pair(told) is { } at && !kit.Table.LeavesOut(at.Condition) ? at : null;

    private static SideEvidence SideEvidenceOf(
        JobState state,
        DiagnosisKit kit,
        Func<DutyId, DutyTries?> tries,
        Func<StoredCodes>? codes,
        Func<DutyTries?> jumpStart
    )
    {
        // What comes and goes may have been away when something else was tried.
        var away = OtherDuty.AwayShare(state.Complaint!, kit.Table.Duty);
        return new(
            state.Looks.Select(l => new Look(l.Repair, l.Found)),
            [
                .. state
                    .Complaint!.Also.Select(a => (a.Works, Tries: tries(a.Duty)))
                    .Where(a => a.Tries is not null)
                    .Select(a => new OtherDuty(a.Works, a.Tries!) { Away = away }),
                .. ToldBesides
                    .Done(kit.Circuit, state.Complaint, kit.Table.Duty)
                    .Select(d => (d.Sure, Tries: tries(d.Duty)))
                    .Where(d => d.Tries is not null)
                    .Select(d => new OtherDuty(true, d.Tries!, d.Sure) { Away = away }),
                .. state.Complaint.JumpStarted is { } works && jumpStart() is { } onLeads
                    ? new[] { OtherDuty.OnJumpLeads(works, onLeads) with { Away = away } }
                    : [],
            ],
            state.Complaint.Codes is { } read && codes is not null ? (read, codes()) : null,
            new WiggleEvidence(
                state
                    .Wiggles.Select(p => (Reach: kit.WiggleTests.Find(p.Place, p.Repair), p.By, p.Changed))
                    .Where(p => p.Reach is not null)
                    .Select(p => new Wiggle(p.Reach!, p.By, p.Changed)),
                state.Complaint
            ),
            state.Mended.Select(m => m.Repair),
            state.PartTests.Select(t => new TestedAlone(t.Part, t.Good, t.Unseen.ToHashSet())),
            Cures(state) is { Count: > 0 } cures ? new CureEvidence(kit.Circuit, cures) : null
        );
    }

    /// <summary>Cures told with the complaint, and what was mended since and made it better only.</summary>
    private static IReadOnlyList<CureTried> Cures(JobState state) =>
        [
            .. state.Complaint!.Cures,
            .. state.Mended.Where(m => m.IsBetter).Select(m => new CureTried(m.Repair, CureEffect.Partly)),
        ];

    /// <summary>A figure as typed on the scale that beliefs use: an ohms reading has its leads taken off.</summary>
    public static double? Scaled(DiagnosisKit kit, Meter meter, ProbePair at, double? figure) =>
        figure is { } read
            ? kit.Table.Conditions[at.Condition].Observable.Scaled(read - LeadsIn(kit, meter, at.Condition))
            : null;

    /// <summary>A reading on that scale as this meter's display shows it, leads and all; infinite for an open circuit.</summary>
    public static double? Displayed(DiagnosisKit kit, Meter meter, Reading reading) =>
        reading.Value is { } scaled
            ? kit.Table.Conditions[reading.At.Condition].Observable.Figure(scaled)
                + LeadsIn(kit, meter, reading.At.Condition)
            : null;

    /// <summary>How finely a reading was typed; null where its text does not say.</summary>
    public static TypedDigits? DigitsOf(DiagnosisKit kit, ProbePair at, ReadingTaken taken) =>
        kit.Table.Conditions[at.Condition].Observable.Read(taken.Typed, out _)?.Digits;

    /// <summary>Ohms of the leads that are in a reading.</summary>
    private static double LeadsIn(DiagnosisKit kit, Meter meter, int condition) =>
        kit.Table.Conditions[condition].Observable is DeadOhms && !meter.LeadsNulled ? meter.Leads.Value : 0;

    private static Situation SituationOf(JobState state, DiagnosisKit kit, HashSet<int> superseded)
    {
        var situation = new Situation { Alone = state.Alone };
        foreach (var happened in state.Standing)
        {
            situation = happened.Event switch
            {
                ReadingTaken reading when !superseded.Contains(happened.Sequence) && kit.Pair(reading.At) is { } at =>
                    kit.Plan.After(situation, at),
                LookedAt look when PlaceOf(kit, look) is { } place => situation with
                {
                    Opened = With(situation.Opened, place),
                },
                Wiggled stirred when kit.WiggleTests.Find(stirred.Place, stirred.Repair) is { } reach =>
                    kit.WiggleTests.After(situation, reach, stirred.Watched is { } watched ? kit.Pair(watched) : null),
                TestPassedOver { Place: { } place } => situation with
                {
                    Unreachable = With(situation.Unreachable, place),
                },
                TestPassedOver passed when kit.Pair(passed.At) is { } at => situation.PassedOver(at),
                _ => situation,
            };
        }

        return situation;
    }

    private static PlaceId? PlaceOf(DiagnosisKit kit, LookedAt look) =>
        kit.Circuit.Faults.FirstOrDefault(f => f.Repair.Id == look.Repair)?.Repair.Place;

    private static HashSet<T> With<T>(IReadOnlySet<T> set, T item) => [.. set, item];
}
